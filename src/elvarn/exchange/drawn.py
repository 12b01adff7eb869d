"""Closed lines of a drawing, whichever kind of file it came in."""

from dataclasses import dataclass

Point = tuple[float, float]
Line = list[Point]

MOST_LINES = 200
MOST_POINTS = 100_000
JOINED = 0.02  # mm: ends that meet


class DrawingError(ValueError):
    """A drawing without a closed line that can be read; the message says what is wrong and what to do."""


@dataclass(frozen=True)
class DrawnLines:
    """Closed lines of a drawing [mm], y up, the largest first; whether the file says its unit."""

    lines: list[Line]
    unit_told: bool


def closed_lines(drawn: list[tuple[Line, bool]]) -> list[Line]:
    """Lines [mm] that are closed, and those that pieces make whose ends meet, the largest first.

    Raises DrawingError where there is none, or too much."""
    if len(drawn) > MOST_LINES or sum(len(points) for points, _ in drawn) > MOST_POINTS:
        raise DrawingError(
            f"The drawing has over {MOST_LINES} lines or {MOST_POINTS} points. Export the outline alone."
        )
    whole = [points for points, closed in drawn if closed]
    loose = [points for points, closed in drawn if not closed and len(points) > 1]
    while loose:
        chain = _chained(loose.pop(), loose)
        if _meet(chain[0], chain[-1]):
            whole.append(chain)
    found = [line[:-1] if _meet(line[0], line[-1]) else line for line in whole]
    found = [line for line in found if len(line) > 2]
    if not found:
        raise DrawingError("The drawing has no closed line. Join its lines, or close them.")
    return sorted(found, key=_extent, reverse=True)


def _chained(chain: Line, loose: list[Line]) -> Line:
    """A piece with all that follow it end to end; they are taken off the list."""
    found = True
    while found and not (len(chain) > 2 and _meet(chain[0], chain[-1])):
        found = False
        for at, piece in enumerate(loose):
            ahead = piece if _meet(chain[-1], piece[0]) else piece[::-1] if _meet(chain[-1], piece[-1]) else None
            if ahead is not None:
                chain, found = chain + ahead[1:], True
                del loose[at]
                break
    return chain


def _meet(one: Point, other: Point) -> bool:
    return abs(one[0] - other[0]) < JOINED and abs(one[1] - other[1]) < JOINED


def _extent(line: Line) -> float:
    xs, ys = [x for x, _ in line], [y for _, y in line]
    return (max(xs) - min(xs)) * (max(ys) - min(ys))
