"""O-rings: how far a gland squeezes one, how full it is, how far it is stretched."""

from math import pi

from elvarn.core.errors import require_positive
from elvarn.core.finding import Finding
from elvarn.core.validity import Range

SOURCE = "ISO 3601-2 gland tables, from memory"
FACE_SQUEEZE = Range("squeeze", "squeeze on a face", 0.20, 0.30, "%", SOURCE)
RADIAL_SQUEEZE = Range("squeeze", "squeeze round a bore", 0.15, 0.25, "%", SOURCE)
FILL = Range("fill", "fill of the gland", 0.60, 0.85, "%", SOURCE)
STRETCH = Range("stretch", "stretch", 0.0, 0.05, "%", SOURCE)


def squeeze(section: float, depth: float) -> float:
    """How far a gland squeezes a ring.

    Arguments: section [m] of the ring, depth [m] of the gland with its face closed; scalars.
    Returns: part of the section [-], below zero where it doesn't touch.
    Raises: OutOfRange for values not above zero.
    Source: definition.
    """
    require_positive(section=section, depth=depth)
    return 1 - depth / section


def fill(section: float, depth: float, width: float) -> float:
    """How full a ring makes its gland.

    Arguments: section [m], depth [m], width [m] of the gland; scalars.
    Returns: part of its area [-].
    Raises: OutOfRange for values not above zero.
    Source: definition.
    """
    require_positive(section=section, depth=depth, width=width)
    return pi / 4 * section**2 / (depth * width)


def stretch(inside: float, gland: float) -> float:
    """How far a ring is stretched over what it sits on.

    Arguments: inside [m]: the ring's own inside diameter, gland [m]: what it sits on; scalars.
    Returns: part of its inside diameter [-], below zero where it is loose.
    Raises: OutOfRange for values not above zero.
    Source: definition.
    """
    require_positive(inside=inside, gland=gland)
    return gland / inside - 1


def seal_findings(squeezed: float, filled: float, stretched: float | None, *, face: bool) -> list[Finding]:
    """What speaks against a ring in its gland.

    Arguments: squeezed [-], filled [-], stretched [-] or None; face: whether it seals on a face, else round a bore.
    Returns: findings.
    Raises: nothing.
    Source: ISO 3601-2, from memory.
    """
    usual = FACE_SQUEEZE if face else RADIAL_SQUEEZE
    checks = [(usual, squeezed), (FILL, filled), *([(STRETCH, stretched)] if stretched is not None else [])]
    found = [(limits, value) for limits, value in checks if value not in limits]
    return [
        Finding(one.quantity, f"{one.name.capitalize()} {100 * value:.0f} %; {one.words} are usual.", doubt=True)
        for one, value in found
    ]
