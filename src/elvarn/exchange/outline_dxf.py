"""Outlines as DXF: closed lines in millimetres, for a cutter or a drawing, and such lines read back."""

from collections.abc import Sequence
from io import BytesIO, StringIO
from math import hypot
from typing import TYPE_CHECKING

from elvarn.exchange.drawn import DrawingError, DrawnLines, Line, closed_lines

if TYPE_CHECKING:
    from ezdxf.math import Vec3

FLATTEN = 0.001  # mm: chords lie so near to their arc
SIZES_MM = {0: 1.0, 1: 25.4, 2: 304.8, 4: 1.0, 5: 10.0, 6: 1000.0}  # DXF's $INSUNITS
MOST_ENTITIES = 2000


def outlines_to_dxf(lines: Sequence[tuple[str, Line]]) -> bytes:
    """Closed lines [mm], each on a layer of its name."""
    from ezdxf import units
    from ezdxf.filemanagement import new

    drawing = new("R2010", units=units.MM)
    space = drawing.modelspace()
    for name, points in lines:
        if name not in drawing.layers:
            drawing.layers.add(name)
        space.add_lwpolyline(points, close=True, dxfattribs={"layer": name})
    out = StringIO()
    drawing.write(out)
    return out.getvalue().encode()


def outlines_from_dxf(content: bytes) -> DrawnLines:
    """The closed lines of a drawing. Raises DrawingError for what is no DXF, has none, or has too many."""
    from ezdxf import path, recover
    from ezdxf.lldxf.const import DXFError

    try:
        drawing, _ = recover.read(BytesIO(content))
        unit = int(drawing.header.get("$INSUNITS", 0))
        entities = list(drawing.modelspace().query("LWPOLYLINE POLYLINE CIRCLE ELLIPSE SPLINE ARC LINE"))
        size = SIZES_MM.get(unit, 0.0)
        chord = FLATTEN / size if size else FLATTEN
        drawn = [list(path.make_path(one).flattening(chord)) for one in entities[:MOST_ENTITIES]]
    except (DXFError, OSError, ArithmeticError, LookupError, ValueError, TypeError, AttributeError) as error:
        raise DrawingError("This is no DXF that can be read. Export it again as DXF R2010.") from error
    if not size:
        raise DrawingError(f"The drawing is in DXF's unit {unit}. Export it in millimetres.")
    lines = [([(float(v.x) * size, float(v.y) * size) for v in points], _is_closed(points)) for points in drawn]
    return DrawnLines(closed_lines([line for line in lines if len(line[0]) > 1]), unit != 0)


def _is_closed(points: Sequence["Vec3"]) -> bool:
    first, last = points[0], points[-1]
    return len(points) > 3 and hypot(first.x - last.x, first.y - last.y) < 1e-6 * (1 + hypot(first.x, first.y))
