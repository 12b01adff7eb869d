"""Pictures as they are kept: every dot as it came, without the place, the device and whatever else a camera writes into
them. How it was held and when it was taken stay."""

import re
import struct
import warnings
from collections.abc import Iterator
from io import BytesIO
from zlib import crc32

from PIL import Image, UnidentifiedImageError

MOST_DOTS = 100_000_000
MEDIA_TYPES = {"JPEG": "image/jpeg", "PNG": "image/png", "WEBP": "image/webp"}
ORIENTATION, TAKEN = 0x0112, 0x0132
PNG_START = 8
PNG_TOLD = (b"eXIf", b"tEXt", b"iTXt", b"zTXt")
WEBP_TELLS, WEBP_HAS_XMP, WEBP_HAS_EXIF = b"VP8X", 0x04, 0x08
JPEG_TOLD = (*range(0xE1, 0xF0), 0xFE)  # what cameras and programs write; what the colours mean is kept
JPEG_COLOURS = (b"ICC_PROFILE\0", b"Adobe")
JPEG_SCAN, JPEG_END = 0xDA, 0xD9
# Inside a scan a mark is followed by nought, by a restart or by itself; anything else ends it.
END_OF_SCAN = re.compile(rb"\xff[^\x00\xd0-\xd7\xff]")


class PictureError(ValueError):
    """Bytes that are no whole picture; the message says what is wrong and what to do."""


def stripped(content: bytes) -> bytes:
    """A JPEG, PNG or WebP without what was told beside its dots. Raises PictureError for anything else."""
    try:
        with warnings.catch_warnings(action="ignore"), Image.open(BytesIO(content), formats=list(MEDIA_TYPES)) as image:
            kind, dots, told = image.format, image.width * image.height, _kept_of(image)
    except Image.DecompressionBombError:
        kind, dots, told = None, MOST_DOTS + 1, b""
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError) as error:
        raise PictureError("It is no picture that can be shown. Send JPEG, PNG or WebP.") from error
    if dots > MOST_DOTS:
        raise PictureError(f"It has over {MOST_DOTS // 1_000_000} million dots. Send it smaller.")
    try:
        if kind == "JPEG":
            return b"".join(_jpeg(content, told))
        return b"".join(_png(content, told)) if kind == "PNG" else _webp(content, told)
    except (IndexError, struct.error) as error:
        raise PictureError("The picture breaks off. Send it again.") from error


def media_type(content: bytes) -> str | None:
    """What picture these bytes are, by how they begin."""
    if content[:4] == b"RIFF" and content[8:12] == b"WEBP":
        return MEDIA_TYPES["WEBP"]
    if content[:3] == b"\xff\xd8\xff":
        return MEDIA_TYPES["JPEG"]
    return MEDIA_TYPES["PNG"] if content[:8] == b"\x89PNG\r\n\x1a\n" else None


def _kept_of(image: Image.Image) -> bytes:
    """How a picture was held and when it was taken, as EXIF; empty where neither is told."""
    told, kept = image.getexif(), Image.Exif()
    for tag in (ORIENTATION, TAKEN):
        if tag in told:
            kept[tag] = told[tag]
    return kept.tobytes() if len(kept) else b""


def _jpeg(content: bytes, told: bytes) -> Iterator[bytes]:
    yield content[:2]
    if told:
        yield b"\xff\xe1" + struct.pack(">H", len(told) + 2) + told
    at = 2
    while content[at + 1] != JPEG_END:
        if content[at] != 0xFF:
            raise PictureError("The picture is damaged. Send it again.")
        if content[at + 1] == 0xFF:  # filling
            at += 1
            continue
        mark, end = content[at + 1], at + 2 + struct.unpack_from(">H", content, at + 2)[0]
        if mark == JPEG_SCAN:
            found = END_OF_SCAN.search(content, end)
            if found is None:
                raise PictureError("The picture breaks off. Send it again.")
            end = found.start()
        if (
            mark not in JPEG_TOLD
            or content[at + 4 : at + 16] == b"ICC_PROFILE\0"
            or content[at + 4 : at + 9] == b"Adobe"
        ):
            yield content[at:end]
        at = end
    yield b"\xff\xd9"


def _png(content: bytes, told: bytes) -> Iterator[bytes]:
    yield content[:PNG_START]
    at, kind = PNG_START, b""
    while kind != b"IEND":
        length, kind = struct.unpack_from(">I4s", content, at)
        end = at + 12 + length
        if end > len(content):
            raise PictureError("The picture breaks off. Send it again.")
        if kind not in PNG_TOLD:
            yield content[at:end]
        if kind == b"IHDR" and told:
            chunk = b"eXIf" + told.removeprefix(b"Exif\0\0")
            yield struct.pack(">I", len(chunk) - 4) + chunk + struct.pack(">I", crc32(chunk))
        at = end


def _webp(content: bytes, told: bytes) -> bytes:
    parts, at, whole = [], 12, 8 + struct.unpack_from("<I", content, 4)[0]
    if whole > len(content):
        raise PictureError("The picture breaks off. Send it again.")
    while at + 8 <= whole:
        kind, length = struct.unpack_from("<4sI", content, at)
        body = content[at + 8 : at + 8 + length]
        at += 8 + length + length % 2
        if kind == WEBP_TELLS:
            flags = body[0] & ~(WEBP_HAS_XMP | WEBP_HAS_EXIF) | (WEBP_HAS_EXIF if told else 0)
            body = bytes([flags]) + body[1:]
        if kind not in (b"EXIF", b"XMP "):
            parts.append(_webp_part(kind, body))
    if told:
        parts.append(_webp_part(b"EXIF", told.removeprefix(b"Exif\0\0")))
    inside = b"WEBP" + b"".join(parts)
    return b"RIFF" + struct.pack("<I", len(inside)) + inside


def _webp_part(kind: bytes, body: bytes) -> bytes:
    return kind + struct.pack("<I", len(body)) + body + b"\0" * (len(body) % 2)
