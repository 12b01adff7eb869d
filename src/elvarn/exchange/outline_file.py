"""Outlines in a file of whichever kind: told by its name, or by how it begins."""

from elvarn.exchange.drawn import DrawnLines
from elvarn.exchange.outline_dxf import outlines_from_dxf
from elvarn.exchange.outline_svg import outlines_from_svg


def lines_in(name: str, content: bytes) -> DrawnLines:
    """The closed lines of a DXF or SVG. Raises DrawingError."""
    svg = name.lower().endswith(".svg") or content.lstrip()[:5] in (b"<?xml", b"<svg ", b"<!DOC")
    return outlines_from_svg(content) if svg else outlines_from_dxf(content)
