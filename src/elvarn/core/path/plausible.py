"""Dimensions that an element of its kind does not have: a unit was mistaken, or a figure."""

from dataclasses import dataclass

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


@dataclass(frozen=True)
class Doubtful:
    """A dimension outside what is seen, the range in words, and what may have been meant ("70 mm")."""

    text: str
    meant: tuple[str, ...]


def doubt_dimension(kind: str, quantity: str, figure: float, unit: str, value: float) -> Doubtful | None:
    """Whether a dimension is outside what an element of this kind has.

    Arguments: kind: of the element; quantity: "bore", "bore_out" or "length"; figure [any unit] and unit: as typed;
    value [m].
    Returns: the doubt with what the same figure would be in another unit, or None.
    Raises: nothing.
    Source: common practice, no source.
    """
    if quantity not in ("bore", "bore_out", "length") or kind not in BORES:
        return None
    seen = LENGTH if quantity == "length" else BORES[kind]
    if value in seen:
        return None
    other = [name for name, metres in METRES.items() if name != unit and figure * metres in seen]
    words = "length" if quantity == "length" else "bore"
    text = f"A {words} of {figure:g} {unit} ({value * 1000:.0f} mm) is outside the {seen.words} that a {kind} has."
    return Doubtful(text, tuple(f"{figure:g} {name}" for name in other))
