"""Two things changed apart and together: what each gives alone, both, and whether they help each other."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt

from elvarn.core.difference import difference
from elvarn.core.dyno.learned import DynoKnown
from elvarn.core.dyno.pairing import Pull, day_mean, terms_of
from elvarn.core.dyno.profile import Profile
from elvarn.core.errors import NotEnoughData
from elvarn.core.statistics.modulus import modulus_quantile
from elvarn.core.verdict import Verdict, decide

FIGURES = 4  # judged together: each alone, both, and the interaction


@dataclass(frozen=True)
class Effects:
    """Changes of mean power [W] over a profile: the first thing alone, the second alone, both together, and the
    interaction: what both give beyond the sum of each."""

    first: Verdict
    second: Verdict
    both: Verdict
    interaction: Verdict


def effects(
    neither: Sequence[Pull],
    first: Sequence[Pull],
    second: Sequence[Pull],
    both: Sequence[Pull],
    known: DynoKnown,
    profile: Profile,
) -> Effects:
    """What two changes give, alone and together.

    Arguments: neither, first, second, both: the pulls with neither change, with the first, the second, and both; known
    of the dyno; profile of speeds that all pulls reach.
    Returns: the effects; judged together.
    Raises: NotEnoughData where a cell has no pull, or the pulls are not alike in all but the changes.
    Source: definition, two-level factorial: interaction = both − first − second + neither, in logarithms.
    """
    cells = _alike((neither, first, second, both))
    if any(pull.curve.lowest > profile.low or pull.curve.highest < profile.high for cell in cells for pull in cell):
        raise NotEnoughData("band", f"Not all reach {profile.low:.0f} to {profile.high:.0f} rpm.", "Narrow the band.")
    base = sum(profile.mean(pull.curve.mean_power) for pull in cells[0]) / len(cells[0])

    def judged(signs: tuple[int, int, int, int]) -> Verdict:
        weights = [w for cell, sign in zip(cells, signs, strict=True) if sign for w in day_mean(cell, sign)]
        terms = terms_of(weights, lambda curve: profile.mean(curve.mean_power))
        return decide(difference(terms, known.over_band()), known.over_band(), base, FIGURES, plates=False)

    return Effects(judged((-1, 1, 0, 0)), judged((-1, 0, 1, 0)), judged((-1, 0, 0, 1)), judged((1, -1, -1, 1)))


def half_width_of(known: DynoKnown, pulls: int, others: int, judged: int = 1) -> float:
    """Half-width [%] of a design pulled so often, each in one mount, against one pulled `others` times on that day.

    Arguments: known of the dyno; pulls, others [-], of each; judged [-] together.
    Returns: half-width [%].
    Raises: nothing.
    Source: as `difference`.
    """
    parts = ((known.pull, 1 / pulls + 1 / others), (known.mount, 2.0))
    return sqrt(sum(modulus_quantile(judged, s.freedom) ** 2 * count * s.value**2 for s, count in parts))


def _alike(cells: Sequence[Sequence[Pull]]) -> list[list[Pull]]:
    """The pulls of each cell that all cells have the like of, of days that all share where there are any."""
    if not all(cells):
        raise NotEnoughData("pulls", "A cell has no pull.", "Pull it.")
    shared = set.intersection(*({pull.signature for pull in cell} for cell in cells))
    kept = [[pull for pull in cell if pull.signature in shared] for cell in cells]
    if not shared:
        raise NotEnoughData("pulls", "The pulls of the cells are not alike.", "Pull all four alike.")
    days = set.intersection(*({pull.day for pull in cell} for cell in kept))
    if days:
        return [[pull for pull in cell if pull.day in days] for cell in kept]
    if not all(pull.weather for cell in kept for pull in cell):
        raise NotEnoughData("weather", "The weather of another day is not known.", "Enter it, or pull on one day.")
    return kept
