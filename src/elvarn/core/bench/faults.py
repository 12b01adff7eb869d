"""Faults of a set-up that its own figures betray, each by a stated signature."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from math import expm1

from elvarn.core.bench.gain import ASSUMED, against_the_others, mean_difference
from elvarn.core.bench.leak import LEAK_LIMIT
from elvarn.core.bench.pairs import Pairs
from elvarn.core.bench.reference import conversion_shortfall
from elvarn.core.bench.samples import RANGE_FULL
from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.difference import Known
from elvarn.core.errors import require_positive

FALSE_ALARMS = 0.02  # of sound series in which any signature speaks, at most
ODD_RUNNER = 0.01  # chance that noise alone makes a runner stand out
ALL_LOWER = 0.005  # that it makes all of them lower
NOT_READ_EARLIER = Pairs((), {})
LEAST_COMPARED = 3  # runners of which one can stand out
UNTOUCHED = 0.013  # of the flow: two figures of an untouched set-up, beyond what the air's compression explains
LOW_DEPRESSION = 0.6  # of the full one, at most: nearer together they tell nothing


@dataclass(frozen=True)
class Evidence:
    """What a series shows of its set-up. Flows are in one unit, at the reference depression.

    flows: runner to its figure; against_earlier: the same part in the same set-up on another occasion, paired with now,
    where there is one; known of the bench; throttled: whether a throttle is on; leak: share of the flow that passes
    with everything blanked; range_used: share of full scale, by runner; at_low: (depression [Pa], figure, figure at the
    full depression) of one runner that nobody touched between; held_open: (figure at the stop, figure with the blade
    pushed to full bore).
    """

    flows: Mapping[int, float]
    against_earlier: Pairs = NOT_READ_EARLIER
    known: Known = ASSUMED
    throttled: bool = False
    leak: float | None = None
    range_used: Mapping[int, float] = field(default_factory=dict)
    at_low: tuple[float, float, float] | None = None
    held_open: tuple[float, float] | None = None


@dataclass(frozen=True)
class Suspicion:
    """A fault that the figures suggest: its code, what was seen, what to look at, and the runner it concerns."""

    code: str
    seen: str
    remedy: str
    runner: int | None = None

    @property
    def text(self) -> str:
        return f"{self.seen} {self.remedy}"


def suspicions(evidence: Evidence) -> list[Suspicion]:
    """Which faults the figures of a series suggest.

    Arguments: evidence.
    Returns: suspicions, the surest first; none for a sound series, but for at most two in a hundred.
    Raises: OutOfRange for a flow not above zero.
    Source: common practice, no source, for what a fault does; `difference` against the earlier figures at 99 % and the
    isentropic nozzle between two depressions. How often each is found is in docs/faults.md.
    """
    for flow in evidence.flows.values():
        require_positive(flow=flow)
    found = [*_range(evidence), *_gasket(evidence), *_blade(evidence), *_hose(evidence)]
    explained = {suspicion.code for suspicion in found}
    return found + _against_earlier(evidence, explained)


def _range(evidence: Evidence) -> list[Suspicion]:
    over = sorted(runner for runner, used in evidence.range_used.items() if used > RANGE_FULL)
    if not over:
        return []
    most = max(evidence.range_used.values()) * 100
    seen = f"Range too small: meter at {most:.0f} % ({_named(over)})."
    return [Suspicion("wrong_range", seen, "Use the next range and re-read.", over[0])]


def _gasket(evidence: Evidence) -> list[Suspicion]:
    if evidence.leak is None or evidence.leak <= LEAK_LIMIT:
        return []
    seen = f"Possible gasket leak: {evidence.leak * 100:.1f} % still flows when blanked."
    return [Suspicion("leaking_gasket", seen, "Check gasket and clamps.")]


def _blade(evidence: Evidence) -> list[Suspicion]:
    if evidence.held_open is None:
        return []
    at_stop, held = evidence.held_open
    require_positive(at_stop=at_stop, held=held)
    rise = held / at_stop - 1
    if rise <= UNTOUCHED:
        return []
    seen = f"Blade stops short: {rise * 100:.1f} % more when held open."
    return [Suspicion("blade_short", seen, "Set the stop, re-read.")]


def _hose(evidence: Evidence) -> list[Suspicion]:
    if evidence.at_low is None:
        return []
    depression, low, full = evidence.at_low
    if depression > LOW_DEPRESSION * REFERENCE_DEPRESSION:
        return []
    require_positive(low=low, full=full)
    fall = 1 - full / low - conversion_shortfall(depression, REFERENCE_DEPRESSION)
    if fall <= UNTOUCHED:
        return []
    seen = f"Possible soft hose: flow drops {fall * 100:.1f} % too much at full depression."
    return [Suspicion("soft_hose", seen, "Watch the hose while it pulls.")]


def _against_earlier(evidence: Evidence, explained: set[str]) -> list[Suspicion]:
    """A runner that stands out against its own earlier figure, or all of them lower than before."""
    pairs = evidence.against_earlier
    odd = _odd_one(pairs, evidence.known)
    if odd is not None:
        return [_odd(*odd)]
    if not pairs.alike or explained & {"blade_short", "soft_hose"}:
        return []
    mean = mean_difference(pairs, evidence.known)
    if mean.value >= -mean.half_width(1, 1 - 2 * ALL_LOWER):
        return []
    where = "adapter, throttle or radius" if evidence.throttled else "adapter or radius"
    seen = f"Possible lip at {where}: all runners {-mean.fraction * 100:.1f} % lower than last time."
    remedy = "Feel round the joint for it."
    return [Suspicion("adapter_lip", seen, remedy)]


def _odd_one(pairs: Pairs, known: Known) -> tuple[int, float] | None:
    """The runner whose change stands out from the others' most clearly, and by how much [log percent]; or None."""
    count = len(pairs.alike)
    if count < LEAST_COMPARED:
        return None
    against = {pair.runner: against_the_others(pairs, pair, known) for pair in pairs.alike}
    widths = {runner: found.half_width(count, 1 - ODD_RUNNER) for runner, found in against.items()}
    runner = max(against, key=lambda number: abs(against[number].value) / widths[number])
    return (runner, against[runner].value) if abs(against[runner].value) > widths[runner] else None


def _odd(runner: int, higher: float) -> Suspicion:
    percent = abs(expm1(higher / 100)) * 100
    if higher > 0:
        seen = f"Possible open injector or vacuum hole at runner {runner}: {percent:.1f} % higher, others not."
        return Suspicion("open_hole", seen, "Close it and re-read.", runner)
    seen = f"Possible blockage at runner {runner}: {percent:.1f} % lower, others not."
    return Suspicion("obstructed", seen, "Check for clay, tape, rag, port off-centre.", runner)


def _named(runners: Sequence[int]) -> str:
    return f"runner{'s' if len(runners) > 1 else ''} {', '.join(str(runner) for runner in runners)}"
