"""Dimensions that an element of its kind does not have: a unit was mistaken, or a figure."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import degrees, inf, pi

from elvarn.core.validity import Range

METRES = {"mm": 0.001, "cm": 0.01, "in": 0.0254}

SEEN = "the least and the most seen on piston engines for the road; common practice, no source"
LENGTH = Range("length", "length", 0.005, 2.0, "mm", SEEN)
BORES = {
    kind: Range("bore", f"bore of a {kind}", least, most, "mm", SEEN)
    for kind, least, most in (
        ("inlet", 0.020, 0.250),
        ("filter", 0.030, 0.350),
        ("tube", 0.020, 0.155),
        ("meter", 0.025, 0.155),
        ("throttle", 0.020, 0.135),
        ("adapter", 0.020, 0.155),
        ("restrictor", 0.010, 0.100),
        ("nitrous", 0.025, 0.140),
        ("compressor", 0.025, 0.155),
        ("cooler", 0.030, 0.155),
        ("plenum", 0.030, 0.300),
        ("runner", 0.012, 0.095),
        ("head", 0.012, 0.095),
    )
}
SIZES = {
    "length": LENGTH,
    "shaft": Range("shaft", "shaft", 0.003, 0.020, "mm", SEEN),
    "plate": Range("plate", "plate", 0.0008, 0.006, "mm", SEEN),
    "land_in": Range("land_in", "land at a seal's groove", 0.0005, 0.030, "mm", SEEN),
    "land_out": Range("land_out", "land at a seal's groove", 0.0005, 0.030, "mm", SEEN),
    "groove_depth": Range("groove_depth", "groove's depth", 0.0008, 0.010, "mm", SEEN),
    "groove_width": Range("groove_width", "groove's width", 0.001, 0.015, "mm", SEEN),
}
ANGLES = {
    "wide_open_angle": Range("wide_open_angle", "plate's angle wide open", 60, 95, "°", SEEN),
    "closed_angle": Range("closed_angle", "plate's angle closed", 0, 25, "°", SEEN, above=True),
}
SAME_BORE = 5e-5  # m: a bore gauge reads so well; common practice, no source
ROUND_WITHIN = 0.03  # by which two diameters of one depth may differ before one is doubted; common practice, no source


@dataclass(frozen=True)
class Doubtful:
    """A dimension outside what is seen, the range in words, and what may have been meant ("70 mm")."""

    text: str
    meant: tuple[str, ...]


def doubt_dimension(kind: str, quantity: str, figure: float, unit: str, value: float) -> Doubtful | None:
    """Whether a dimension is outside what an element of this kind has.

    Arguments: kind: of the element; quantity: "bore", "bore_out", "across", "length" or one of a throttle's; figure
    [any unit] and unit: as typed; value [m, rad].
    Returns: the doubt with what the same figure would be in another unit, or None.
    Raises: nothing.
    Source: common practice, no source.
    """
    if quantity in ANGLES:
        return _doubt_angle(quantity, value)
    is_bore = quantity in ("bore", "bore_out", "across")
    if kind not in BORES or (not is_bore and quantity not in SIZES):
        return None
    seen = BORES[kind] if is_bore else SIZES[quantity]
    if value in seen:
        return None
    other = [name for name, metres in METRES.items() if name != unit and figure * metres in seen]
    words = "bore" if is_bore else seen.name
    size = f"{value * 1000:.0f}" if value >= 0.01 else f"{value * 1000:.3g}"
    text = f"A {words} of {figure:g} {unit} ({size} mm) is outside the {seen.words} that a {kind} has."
    return Doubtful(text, tuple(f"{figure:g} {name}" for name in other))


def doubt_across(value: float, others: Sequence[float]) -> str:
    """Whether a diameter can hardly be of the depth at which it was gauged.

    Arguments: value [m], others [m]: of the same depth.
    Returns: why it is doubted, empty where it isn't.
    Raises: nothing.
    Source: common practice, no source.
    """
    far = max(others, key=lambda one: abs(one - value), default=value)
    if abs(far - value) <= ROUND_WITHIN * value:
        return ""
    return (
        f"Across it reads {value * 1000:.2f} mm, in another direction at this depth {far * 1000:.2f} mm: over "
        f"{100 * ROUND_WITHIN:g} % out of round."
    )


def can_not_be(sizes: Mapping[str, float]) -> str:
    """Why sizes of one throttle can't all be right.

    Arguments: sizes [m, rad] by quantity: the least "bore", "shaft", "plate", "wide_open_angle", "closed_angle", as far
    as they are known.
    Returns: the reason, empty where there is none.
    Raises: nothing.
    Source: geometry.
    """
    bore = sizes.get("bore", inf)
    for name in ("shaft", "plate"):
        if sizes.get(name, 0.0) >= bore:
            return f"A {name} of {sizes[name] * 1000:g} mm fills a bore of {bore * 1000:g} mm. Check both."
    opened, closed = sizes.get("wide_open_angle", pi / 2), sizes.get("closed_angle", 0.0)
    if pi / 2 - abs(pi / 2 - opened) <= closed:
        return f"Wide open at {degrees(opened):g}°, closed at {degrees(closed):g}°: check both."
    return ""


def _doubt_angle(quantity: str, value: float) -> Doubtful | None:
    seen, shown = ANGLES[quantity], degrees(value)
    if any(edge - 1e-9 <= shown <= edge + 1e-9 for edge in (seen.low, seen.high) if edge) or shown in seen:
        return None
    meant = (f"{90 - shown:g} °",) if 90 - shown in seen else ()
    text = f"The {seen.name} is {shown:g}°, counted from square across the bore; {seen.words} are usual."
    return Doubtful(text, meant)
