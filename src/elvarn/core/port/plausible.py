"""Sections and walls that a runner does not have, or not after a cut: a unit was mistaken, or a figure."""

from elvarn.core.path.plausible import BORES, SEEN
from elvarn.core.port.section import Section, equal_diameter
from elvarn.core.validity import Range

WALL = Range("wall", "wall", 0.0008, 0.020, "mm", SEEN)
NEIGHBOUR = (
    2.0  # times: of what was measured elsewhere on the casting; beyond it a unit was mistaken; choice, no source
)
READ_WITHIN = 0.01  # of an area, between two measurements of one section; common practice, no source
GAUGED_WITHIN = 0.0002  # m, between two gaugings of one wall; common practice, no source
WALLS_WITHIN = 0.0004  # m, between what a bore grew by and what its two walls lost; common practice, no source


def seen_section(area: float, kind: str = "runner") -> str:
    """Whether a section is of a size that runners, or parts of another kind, have.

    Arguments: area [m²], scalar; kind of part, one of BORES.
    Returns: why not, in words; empty where it is.
    Raises: OutOfRange for an area not above zero; KeyError for a kind without bores.
    Source: common practice, no source.
    """
    bore = equal_diameter(area)
    seen = BORES[kind]
    if bore in seen:
        return ""
    return f"{1e6 * area:.3g} mm² is as a bore of {1000 * bore:.3g} mm: a {kind} has {seen.words}."


def unlike_neighbours(area: float, others: list[float]) -> str:
    """Whether a section is far from what else was measured on the casting.

    Arguments: area [m²]; others [m²]: of other stations and runners.
    Returns: how, in words; empty where it is not, or nothing else is known.
    Raises: nothing.
    Source: common practice, no source.
    """
    if not others:
        return ""
    middle = sorted(others)[len(others) // 2]
    if middle / NEIGHBOUR <= area <= middle * NEIGHBOUR:
        return ""
    return f"{1e6 * area:,.0f} mm² is {area / middle:.2g} times the {1e6 * middle:,.0f} mm² measured elsewhere."


def walls_apart(before: Section, after: Section, walls: list[tuple[float, float]]) -> float | None:
    """By how much the growth of a bore and the loss of two opposite walls differ.

    Arguments: before, after: the section; walls [m]: before and after, of two opposite hours.
    Returns: distance [m] that the walls do not account for, above zero where they lost too little; None where it is
    within what gauging lets expect.
    Raises: nothing.
    Source: geometry: what a bore gains in width its two walls lose; of circles of the same area.
    """
    grown = equal_diameter(after.area) - equal_diameter(before.area)
    lost = sum(first - second for first, second in walls)
    apart = grown - lost
    return apart if abs(apart) > WALLS_WITHIN else None
