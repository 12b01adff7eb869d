"""How even the runners are, and who is out."""

from collections.abc import Mapping
from dataclasses import dataclass
from statistics import fmean

from elvarn.core.errors import NotEnoughData
from elvarn.core.statistics.repeatability import repeatability_limit

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


def balance(flows: Mapping[int, float], runner_count: int, repeatability: float) -> Balance:
    """Balance over the runners of one state.

    Arguments: flows: cylinder number to mean flow [m³/s]; runner_count [-]; repeatability [-] as fraction of reading.
    Returns: the balance. Where the spread is above the allowed one, behind and ahead are runners further from the mean
    than half of it, and by more than repeats differ; where it is not, none is.
    Raises: NotEnoughData with fewer than two runners or two thirds of them.
    Source: definition of the spread; two thirds and the allowed spread are common practice, no source.
    """
    if len(flows) < 2 or len(flows) < SHARE_OF_RUNNERS_NEEDED * runner_count:
        message = f"{len(flows)} of {runner_count} runners are read."
        raise NotEnoughData("runners", message, "Balance needs two thirds of them.")
    mean = fmean(flows.values())
    noise = repeatability_limit(repeatability) / 2
    room = mean * max(ALLOWED_SPREAD / 2, noise)
    spread = spread_of(list(flows.values()))
    uneven = {} if spread <= ALLOWED_SPREAD else flows
    behind = tuple(sorted(number for number, flow in uneven.items() if flow < mean - room))
    ahead = tuple(sorted(number for number, flow in uneven.items() if flow > mean + room))
    weakest = min(flows, key=lambda number: flows[number])
    strongest = max(flows, key=lambda number: flows[number])
    return Balance(mean, spread, weakest, strongest, behind, ahead)
