"""Pictures lose the place they were taken at and nothing that is seen. Pillow writes and reads them here."""

from io import BytesIO

import pytest
from PIL import Image

from elvarn.exchange.picture import PictureError, media_type, stripped

PLACE = {1: "N", 2: (59.0, 20.0, 30.5), 3: "E", 4: (18.0, 4.0, 7.5)}
ORIENTATION, MODEL, TAKEN, GPS = 0x0112, 0x0110, 0x0132, 0x8825


def photographed(kind, **more):
    image = Image.linear_gradient("L").convert("RGB")
    told = Image.Exif()
    told[ORIENTATION], told[MODEL], told[TAKEN] = 6, "Pocket camera 7", "2026:03:02 09:00:00"
    told.get_ifd(GPS).update(PLACE)
    out = BytesIO()
    image.save(out, kind, exif=told, xmp=b"<x:xmpmeta>GPSLatitude 59,20</x:xmpmeta>", **more)
    return out.getvalue()


def opened(content):
    return Image.open(BytesIO(content))


@pytest.mark.parametrize(
    ("kind", "more"),
    [("JPEG", {}), ("JPEG", {"progressive": True}), ("PNG", {}), ("WEBP", {}), ("WEBP", {"lossless": True})],
)
def test_the_place_goes_and_every_dot_stays(kind, more):
    before = photographed(kind, **more)
    assert opened(before).getexif().get_ifd(GPS)
    after = stripped(before)
    told = opened(after).getexif()
    assert not told.get_ifd(GPS)
    assert (told[ORIENTATION], told[TAKEN]) == (6, "2026:03:02 09:00:00")
    assert MODEL not in told
    assert b"GPSLatitude" not in after
    assert b"Pocket camera" not in after
    assert opened(after).convert("RGB").tobytes() == opened(before).convert("RGB").tobytes()
    assert media_type(after) == media_type(before)


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP"])
def test_a_picture_that_tells_nothing_stays_as_it_came(kind):
    out = BytesIO()
    Image.linear_gradient("L").convert("RGB").save(out, kind)
    assert stripped(out.getvalue()) == out.getvalue()


def test_what_a_telephone_hangs_behind_a_picture_goes_too():
    assert stripped(photographed("JPEG") + photographed("JPEG")) == stripped(photographed("JPEG"))


def test_the_colours_of_a_print_shop_s_picture_stay():
    out = BytesIO()
    Image.linear_gradient("L").convert("CMYK").save(out, "JPEG", icc_profile=b"profile" * 20)
    after = opened(stripped(out.getvalue()))
    assert after.info["icc_profile"] == b"profile" * 20
    assert after.tobytes() == opened(out.getvalue()).tobytes()


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP"])
@pytest.mark.parametrize("share", [0.2, 0.9, 0.999])
def test_a_picture_that_breaks_off_is_told_so(kind, share):
    whole = photographed(kind)
    with pytest.raises(PictureError, match=r"breaks off|no picture"):
        stripped(whole[: int(len(whole) * share)])


@pytest.mark.parametrize("content", [b"\xff\xd8\xff", b"GIF89a", b"rpm,Nm\n1,2\n", b"RIFF\x10\0\0\0WEBPVP8 "])
def test_what_is_no_picture_is_told_so(content):
    with pytest.raises(PictureError, match=r"no picture|breaks off"):
        stripped(content)


@pytest.mark.filterwarnings("ignore::PIL.Image.DecompressionBombWarning")
def test_a_picture_of_a_thousand_million_dots_is_refused():
    out = BytesIO()
    Image.new("1", (20_000, 20_000)).save(out, "PNG")
    with pytest.raises(PictureError, match="over 100 million dots"):
        stripped(out.getvalue())
