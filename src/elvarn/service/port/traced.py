"""What is found in a picture or a drawing, before anybody says what it is."""

from dataclasses import dataclass

from elvarn.exchange.drawn import DrawingError
from elvarn.exchange.outline_file import lines_in
from elvarn.exchange.outline_picture import FoundInPicture, Places, openings_in
from elvarn.exchange.picture import PictureError
from elvarn.service.kernel.apart import Run
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.files import FileStore

MOST_POINTS = 2000


@dataclass(frozen=True)
class FoundInDrawing:
    """The closed lines of a drawing [mm], y up, the largest first; whether the file says its unit."""

    lines: list[Places]
    unit_told: bool


def found_in_picture(files: FileStore, run: Run, digest: str) -> FoundInPicture:
    """The openings in a kept picture. Raises NotFound, Invalid."""
    try:
        return run(openings_in, files.read(digest))
    except PictureError as error:
        raise Invalid(str(error), path="digest") from error


def found_in_drawing(run: Run, name: str, content: bytes) -> FoundInDrawing:
    """The closed lines of a DXF or SVG. Raises Invalid naming the file and what is wrong with it."""
    if not content:
        raise Invalid(f"'{name}' is empty. Choose it again.", path="file")
    try:
        found = run(lines_in, name, content)
    except DrawingError as error:
        raise Invalid(f"'{name}': {error}", path="file") from error
    lines = [[[round(x, 4), round(y, 4)] for x, y in _thinned(line)] for line in found.lines]
    return FoundInDrawing(lines, found.unit_told)


def _thinned(line: list[tuple[float, float]]) -> list[tuple[float, float]]:
    """At most as many points as an outline may have."""
    step = -(-len(line) // MOST_POINTS)
    return line[::step] if step > 1 else line
