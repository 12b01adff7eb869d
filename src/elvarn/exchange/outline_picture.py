"""The openings that a picture shows: read apart, as what others made; what finds them is loaded when asked for."""

from dataclasses import dataclass

Places = list[list[float]]


@dataclass(frozen=True)
class FoundOpening:
    """An opening in a picture: points [dots], x right and y down, and its area [dots²]."""

    points: Places
    area: float


@dataclass(frozen=True)
class FoundInPicture:
    """What a picture shows: its size [dots], how fine its file says that it is, and its openings, the clearest
    first; `why` says what is wrong where none is found."""

    width: int
    height: int
    dpi: float | None
    openings: list[FoundOpening]
    why: str


def openings_in(content: bytes) -> FoundInPicture:
    """The openings in a picture. Raises PictureError."""
    from elvarn.core.errors import CoreError
    from elvarn.core.port.trace import openings
    from elvarn.exchange.gray import gray_of

    picture = gray_of(content)
    height, width = picture.gray.shape
    try:
        found, why = openings(picture.gray), ""
    except CoreError as error:
        found, why = [], str(error)
    shown = [FoundOpening(one.points.round(2).tolist(), round(one.area, 1)) for one in found]
    return FoundInPicture(width, height, picture.dpi, shown, why)
