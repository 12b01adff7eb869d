"""What bringing a runner to its target is worth in flow, and which station has which share of it."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import atan, degrees, sqrt

from elvarn.core.errors import NotEnoughData
from elvarn.core.path import losses
from elvarn.core.path.passage import USUAL_REYNOLDS_NUMBER
from elvarn.core.port.section import equal_diameter
from elvarn.core.statistics.student import student_quantile

MODEL = "series of sections"

UNPROVEN = 0.5  # half-range of a modelled gain before this casting has proved the model; choice, no source
STATES_TO_PROVE = 4  # states of one casting from which the model's own record takes over; choice, no source
BELL = 0.15  # radius over bore of an entry with a radius on it, Crane TP-410


@dataclass(frozen=True)
class Worth:
    """Gain of a runner's flow as a fraction of it, and what each station has of that, shape (stations,)."""

    gain: float
    shares: tuple[float, ...]


@dataclass(frozen=True)
class Record:
    """What measured gains were of the modelled ones: their factor, by which half-range one more may differ from the
    model's, and on how many states it rests."""

    factor: float
    half_range: float
    states: int

    def half_width(self, gain: float) -> float:
        """Half-range of a modelled gain, in the gain's own unit."""
        return abs(gain) * self.half_range


def runner_loss(places: Sequence[float], areas: Sequence[float], entry: float = BELL) -> float:
    """Total pressure that a runner loses when it is flowed into open air, over ρQ²/2.

    Arguments: places [m], rising; areas [m²] of the sections there; entry [-]: radius over bore of its edge.
    Returns: loss [1/m⁴]: entry, friction, widening, narrowing, and the velocity head at its end.
    Raises: NotEnoughData for fewer than two stations; OutOfRange for areas not above zero.
    Source: `losses`: Crane TP-410 (2009), Darcy and Weisbach, Borda and Carnot.
    """
    if len(places) < 2:
        raise NotEnoughData("sections", "One section makes no runner.", "Measure at two stations or more.")
    along = sum(stretches(places, areas))
    return losses.rounded_entry(entry).value / areas[0] ** 2 + along + losses.EXIT.value / areas[-1] ** 2


def worth(places: Sequence[float], now: Sequence[float], then: Sequence[float], entry: float = BELL) -> Worth:
    """What it is worth to bring a runner from its sections to others, and each station's share: in proportion to what
    leaving that one station as it is would cost.

    Arguments: places [m], now [m²], then [m²], of one length; entry [-]: radius over bore of its edge.
    Returns: worth.
    Raises: as `runner_loss`.
    Source: derivation: Q ∝ 1/√loss at one depression; the shares with one station left out at a time.
    """
    before, after = runner_loss(places, now, entry), runner_loss(places, then, entry)
    gain = sqrt(before / after) - 1
    around = stretches(places, then)
    costs = [_cost_of_leaving(n, places, now, then, around, entry) / after for n in range(len(places))]
    total = sum(costs)
    return Worth(gain, tuple(gain * cost / total if total else 0.0 for cost in costs))


def record_of(ratios: Sequence[float]) -> Record:
    """How the model did on this casting so far.

    Arguments: ratios [-]: measured gain over modelled gain, one a state.
    Returns: record; before four states the model stands as it is, with half its gain as half-range.
    Raises: nothing.
    Source: derivation: Student's t at 95 % for one more, `student_quantile`; the half before: choice, no source.
    """
    count = len(ratios)
    if count < STATES_TO_PROVE:
        return Record(1.0, UNPROVEN, count)
    mean = sum(ratios) / count
    deviation = sqrt(sum((ratio - mean) ** 2 for ratio in ratios) / (count - 1))
    half = student_quantile(count - 1) * deviation * sqrt(1 + 1 / count)
    return Record(mean, half, count)


def _cost_of_leaving(
    n: int,
    places: Sequence[float],
    now: Sequence[float],
    then: Sequence[float],
    around: Sequence[float],
    entry: float,
) -> float:
    """Loss that one station adds where it stays as it is, above zero; only its neighbours' stretches change."""
    if now[n] == then[n]:
        return 0.0
    first = max(n - 1, 0)
    left = list(then[first : n + 2])
    left[n - first] = now[n]
    change = sum(stretches(places[first : n + 2], left)) - sum(around[first : n + 1])
    if n == 0:
        change += losses.rounded_entry(entry).value * (1 / now[0] ** 2 - 1 / then[0] ** 2)
    if n == len(places) - 1:
        change += losses.EXIT.value * (1 / now[n] ** 2 - 1 / then[n] ** 2)
    return max(change, 0.0)


def stretches(places: Sequence[float], areas: Sequence[float]) -> list[float]:
    """What each stretch between two stations loses by friction and change of area, over ρQ²/2.

    Arguments: places [m], rising; areas [m²] of the sections there, shape (n,).
    Returns: losses [1/m⁴], shape (n − 1,).
    Raises: OutOfRange for areas not above zero.
    Source: `losses`: Darcy and Weisbach, Borda and Carnot, Crane TP-410 (2009).
    """
    stations = zip(places, areas, strict=True)
    return [_stretch(at2 - at1, first, second) for (at1, first), (at2, second) in pairwise(stations)]


def _stretch(length: float, first: float, second: float) -> float:
    """Friction and change of area between two stations, over ρQ²/2."""
    bores = equal_diameter(first), equal_diameter(second)
    middle, bore = (first + second) / 2, (bores[0] + bores[1]) / 2
    friction = losses.friction_factor(USUAL_REYNOLDS_NUMBER, losses.CAST_ROUGHNESS / bore)
    along = losses.straight_tube(length, bore, friction).value / middle**2
    angle = degrees(2 * atan(abs(bores[1] - bores[0]) / (2 * length)))
    if angle and second > first:
        return along + losses.conical_diffuser(first, second, angle).value / first**2
    if angle and second < first:
        return along + losses.conical_contraction(first, second, angle).value / second**2
    return along
