"""How even the runners are, and who is out."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from statistics import fmean

from elvarn.core.bench.pairs import Refit
from elvarn.core.difference import Known, Term, difference, log_percent
from elvarn.core.errors import NotEnoughData
from elvarn.core.likeness import Signature

SHARE_OF_RUNNERS_NEEDED = 2 / 3  # common practice, no source
ALLOWED_SPREAD = 0.03  # of the mean; 2 to 3 % is common practice, no source


@dataclass(frozen=True)
class Balance:
    """Mean [m³/s], spread (max − min)/mean [-], the weakest and strongest runner, those clearly behind and ahead."""

    mean: float
    spread: float
    weakest: int
    strongest: int
    behind: tuple[int, ...]
    ahead: tuple[int, ...] = ()

    @property
    def even(self) -> bool:
        return self.spread <= ALLOWED_SPREAD


def spread_of(values: list[float]) -> float:
    """Spread of readings: (max − min)/mean.

    Arguments: values [any unit]: two or more.
    Returns: spread [-].
    Raises: NotEnoughData for fewer than two values.
    Source: definition.
    """
    if len(values) < 2:
        raise NotEnoughData("values", "One reading has no spread.", "Read a second runner.")
    return (max(values) - min(values)) / fmean(values)


def balance(refits: Mapping[int, Sequence[Refit]], runner_count: int, known: Known) -> Balance:
    """Balance over the runners of one state, of what was set up alike.

    Arguments: refits: cylinder number to its refits; runner_count [-]; known of the bench.
    Returns: the balance. Where the spread is above the allowed one, behind and ahead are runners that lie off the
    others' mean by more than their half-width, the farthest first; where it is not, none is.
    Raises: NotEnoughData with fewer than two runners or two thirds of them; OutOfRange for a flow not above zero.
    Source: definition of the spread; `difference` for who is out; two thirds and the allowed spread are common
    practice, no source.
    """
    alike = _alike(refits)
    if len(alike) < 2 or len(alike) < SHARE_OF_RUNNERS_NEEDED * runner_count:
        message = f"{len(alike)} of {runner_count} runners are read."
        raise NotEnoughData("runners", message, "Balance needs two thirds of them.")
    flows = {number: fmean(refit.flow for refit in found) for number, found in alike.items()}
    spread = spread_of(list(flows.values()))
    out = {} if spread <= ALLOWED_SPREAD else {number: _off_the_others(number, alike, known) for number in flows}
    ordered = sorted(flows, key=lambda number: flows[number])
    behind = tuple(number for number in ordered if out.get(number, 0) < 0)
    ahead = tuple(number for number in reversed(ordered) if out.get(number, 0) > 0)
    return Balance(fmean(flows.values()), spread, ordered[0], ordered[-1], behind, ahead)


def _alike(refits: Mapping[int, Sequence[Refit]]) -> dict[int, list[Refit]]:
    """Each runner's refits of the set-up in which most runners were read."""
    found: dict[Signature, dict[int, list[Refit]]] = {}
    for number, rows in refits.items():
        for refit in rows:
            found.setdefault(refit.signature, {}).setdefault(number, []).append(refit)
    return max(reversed(found.values()), key=len, default={})


def _off_the_others(number: int, alike: Mapping[int, Sequence[Refit]], known: Known) -> int:
    """-1 or 1 where a runner clearly lies below or above the others' mean, else 0."""
    terms = []
    for other, refits in alike.items():
        share = 1.0 if other == number else -1 / (len(alike) - 1)
        terms += [
            Term(log_percent(refit.flow), share / len(refits), other, (other, place), refit.session)
            for place, refit in enumerate(refits)
        ]
    found = difference(terms, known)
    if abs(found.value) <= found.half_width(len(alike)):
        return 0
    return 1 if found.value > 0 else -1
