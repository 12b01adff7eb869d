"""Where a tube lies outside of what the sources of its loss cover: computed all the same, and said."""

from collections.abc import Iterator, Sequence
from math import degrees, inf, radians

from elvarn.core.finding import Finding
from elvarn.core.validity import Range

MITRE_BELOW = 0.5  # bores of radius: the inside of the bend is a corner
BEND_RADII = Range("radius", "bend's radius in bores", 1, 20, "", "Crane TP-410 (2009), A-30; from memory")
CONE_ANGLES = Range("angle", "widening cone's included angle", 0, 20, "°", "stall: Idelchik, from memory")
ROUGHNESSES = Range("roughness", "roughness over the bore", 0, 0.05, "", "Moody (1944), the end of the chart")
BEND_SPACINGS = Range("spacing", "mean distance between bends in bores", 4, inf, "", "Miller, from memory")
CROWDED = 0.5  # of a bend's loss, either way, where bends are nearer: physics of interaction, from memory


def findings_of_tube(
    bore_in: float, bore_out: float, length: float | None, bends: Sequence[tuple[float, float]], roughness: float
) -> tuple[Finding, ...]:
    """What of a tube lies outside of what the sources of its loss cover.

    Arguments: bore_in [m], bore_out [m]: at its ends; length [m]: along its middle, None where it is not known; bends:
    angle [°] and radius in bores [-] of each; roughness [-] over the bore.
    Returns: findings, each with the value and what is covered.
    Raises: nothing.
    Source: definition: each range names its own.
    """
    return tuple(_outside(bore_in, bore_out, length, bends, roughness))


def _outside(
    bore_in: float, bore_out: float, length: float | None, bends: Sequence[tuple[float, float]], roughness: float
) -> Iterator[Finding]:
    for _, radius in bends:
        if radius >= MITRE_BELOW and radius not in BEND_RADII:
            yield _finding("bend_radius", BEND_RADII, radius)
    if crowded(bends, length, (bore_in + bore_out) / 2):
        spacing = straight_length(bends, length or 0.0, (bore_in + bore_out) / 2) / len(bends)
        yield _finding("bends_near", BEND_SPACINGS, spacing / ((bore_in + bore_out) / 2))
    if bore_out > bore_in:
        if not length:
            yield Finding("taper_length", "two bores and no length: from a good cone to a step", doubt=True)
        elif (angle := degrees((bore_out - bore_in) / length)) not in CONE_ANGLES:
            yield _finding("cone_stalls", CONE_ANGLES, angle)
    if roughness not in ROUGHNESSES:
        yield _finding("rough", ROUGHNESSES, roughness)


def crowded(bends: Sequence[tuple[float, float]], length: float | None, bore: float) -> bool:
    """Whether bends stand nearer to each other than their sources allow, taken as evenly spread.

    Arguments: bends: angle [°] and radius in bores [-] of each; length [m], None where it is not known; bore [m].
    Returns: whether they do; a single bend, or bends of a tube of unknown length, don't.
    Raises: nothing.
    Source: definition of BEND_SPACINGS.
    """
    if len(bends) < 2 or not length:
        return False
    return straight_length(bends, length, bore) / (len(bends) * bore) not in BEND_SPACINGS


def straight_length(bends: Sequence[tuple[float, float]], length: float, bore: float) -> float:
    """What is left of a tube's length between its bends.

    Arguments: bends: angle [°] and radius in bores [-] of each; length [m] along its middle; bore [m].
    Returns: length [m], none where the bends take it all.
    Raises: nothing.
    Source: geometry.
    """
    return max(length - sum(radians(angle) * radius * bore for angle, radius in bends), 0.0)


def _finding(code: str, covered: Range, value: float) -> Finding:
    text = f"{covered.name} {covered.written(round(value, 2))}, its sources cover {covered.words}"
    return Finding(code, text, doubt=True)
