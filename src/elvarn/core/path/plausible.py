"""Dimensions that an element of its kind does not have: a unit was mistaken, or a figure."""

from dataclasses import dataclass

METRES = {"mm": 0.001, "cm": 0.01, "in": 0.0254}

# m, by kind of element: the least and the most seen on piston engines for the road; common practice, no source
BORES = {
    "inlet": (0.020, 0.250),
    "filter": (0.030, 0.350),
    "tube": (0.020, 0.155),
    "meter": (0.025, 0.155),
    "throttle": (0.020, 0.135),
    "adapter": (0.020, 0.155),
    "plenum": (0.030, 0.300),
    "runner": (0.012, 0.095),
    "head": (0.012, 0.095),
}
LENGTHS = (0.005, 2.0)


@dataclass(frozen=True)
class Doubtful:
    """A dimension outside what is seen, the range in words, and what may have been meant ("70 mm")."""

    text: str
    meant: tuple[str, ...]


def doubt_dimension(kind: str, quantity: str, figure: float, unit: str, value: float) -> Doubtful | None:
    """Whether a dimension is outside what an element of this kind has.

    Arguments: kind: of the element; quantity: "bore", "bore_out" or "length"; figure and unit: as typed [unit as
    named]; value [m].
    Returns: the doubt with what the same figure would be in another unit, or None.
    Raises: nothing.
    Source: common practice, no source.
    """
    if quantity not in ("bore", "bore_out", "length") or kind not in BORES:
        return None
    low, high = LENGTHS if quantity == "length" else BORES[kind]
    if low <= value <= high:
        return None
    other = [(name, metres) for name, metres in METRES.items() if name != unit and low <= figure * metres <= high]
    words = "length" if quantity == "length" else "bore"
    text = f"A {words} of {figure:g} {unit} ({value * 1000:.0f} mm) is outside the {low * 1000:.0f} to "
    text += f"{high * 1000:.0f} mm that a {kind} has."
    return Doubtful(text, tuple(f"{figure:g} {name}" for name, _ in other))
