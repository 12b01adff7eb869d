"""Outlines as SVG: closed lines in millimetres, and such lines read back."""

from collections.abc import Sequence
from io import BytesIO
from math import ceil, isfinite
from re import search
from typing import Any
from xml.etree.ElementTree import ParseError
from xml.sax.saxutils import quoteattr

from elvarn.exchange.drawn import DrawingError, DrawnLines, Line, closed_lines

EDGE = 5.0  # mm of paper round the lines
DOTS_PER_INCH = 96.0  # of CSS
CHORD = 0.1  # mm along a curve
MOST_STEPS = 2000
MOST_SHAPES = 2000


def outlines_to_svg(lines: Sequence[tuple[str, Line]]) -> bytes:
    """Closed lines [mm, y up], each named, at 1:1."""
    xs = [x for _, line in lines for x, _ in line]
    ys = [-y for _, line in lines for _, y in line]
    left, top = min(xs) - EDGE, min(ys) - EDGE
    width, height = max(xs) + EDGE - left, max(ys) + EDGE - top
    body = "".join(
        f'<path id={quoteattr(name)} d="M{"L".join(f"{x:.3f},{-y:.3f}" for x, y in line)}Z"/>' for name, line in lines
    )
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width:.3f}mm" height="{height:.3f}mm" '
        f'viewBox="{left:.3f} {top:.3f} {width:.3f} {height:.3f}"><g fill="none" stroke="black" stroke-width="0.1">'
        f"{body}</g></svg>"
    ).encode()


def outlines_from_svg(content: bytes) -> DrawnLines:
    """The closed lines of a drawing. Raises DrawingError for what is no SVG, has none, or has too many."""
    from svgelements import SVG, Path, Shape

    try:
        drawing = SVG.parse(BytesIO(content), ppi=DOTS_PER_INCH)
        shapes = [one for one in drawing.elements() if isinstance(one, Shape)][:MOST_SHAPES]
        drawn = [piece for shape in shapes for piece in _pieces(Path(shape))]
    except (ParseError, ArithmeticError, LookupError, ValueError, TypeError, AttributeError) as error:
        raise DrawingError("This is no SVG that can be read. Export it again as plain SVG.") from error
    told = search(rb"<svg[^>]*\swidth\s*=\s*[\"'][\d.eE+-]+\s*(mm|cm|in|pt|pc)", content)
    return DrawnLines(closed_lines(drawn), told is not None)


def _pieces(path: Any) -> list[tuple[Line, bool]]:
    """Each run of a path as points [mm, y up], and whether it is closed."""
    from svgelements import Close, Move, Path
    from svgelements import Line as Straight

    found = []
    for part in path.as_subpaths():
        points: Line = []
        for segment in Path(part):
            if isinstance(segment, Move):
                continue
            if not points and segment.start is not None:
                points.append(_millimetres(segment.start))
            steps = 1 if isinstance(segment, Straight | Close) else _steps(segment.length(error=1e-3, min_depth=3))
            points += [_millimetres(segment.point(n / steps)) for n in range(1, steps + 1) if segment.end is not None]
        if len(points) > 1:
            found.append((points, any(isinstance(segment, Close) for segment in part)))
    return found


def _steps(length: float) -> int:
    return min(MOST_STEPS, max(8, ceil(length * 25.4 / DOTS_PER_INCH / CHORD)))


def _millimetres(point: Any) -> tuple[float, float]:
    x, y = float(point.x) * 25.4 / DOTS_PER_INCH, -float(point.y) * 25.4 / DOTS_PER_INCH
    if not (isfinite(x) and isfinite(y)):
        raise ValueError("a place that is none")
    return x, y
