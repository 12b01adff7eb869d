"""What a series shows of its set-up, gathered for the signatures of the core."""

from collections.abc import Sequence
from statistics import fmean

from elvarn.core.bench.faults import Evidence, Suspicion, suspicions
from elvarn.core.bench.likeness import item_differences
from elvarn.core.bench.reference import flow_at_depression
from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.service.record.plates import ONE_SESSION, shown_at_reference
from elvarn.service.record.refits import flows_by_runner
from elvarn.service.record.setup import declared
from elvarn.service.record.stated import by_port
from elvarn.service.record.trust import Trust
from elvarn.store.models import CheckReading, FlowReading


def suspicions_of(readings: Sequence[FlowReading], trust: Trust) -> list[Suspicion]:
    """What is suspected of the last series among the valid readings of one state."""
    if not readings:
        return []
    ordered = sorted(readings, key=lambda reading: reading.taken_at)
    last = ordered[-1]
    now = [r for r in ordered if r.setup_id == last.setup_id and last.taken_at - r.taken_at <= ONE_SESSION]
    words = declared(last.setup)
    before = [r for r in ordered if now[0].taken_at - r.taken_at > ONE_SESSION]
    earlier = [r for r in before if not item_differences(declared(r.setup), words)]
    checks = [check for check in last.setup.checks if check.valid]
    flows = _means(now)
    return suspicions(
        Evidence(
            flows,
            trust.repeatability,
            trust.session_shift,
            _means(earlier),
            last.setup.throttle != "off",
            _leak(checks, fmean(reading.flow_m3_s for reading in now)),
            {r.cylinder or 0: r.range_percent / 100 for r in now if r.range_percent is not None},
            _at_low(checks, now),
            _held(checks, now),
        )
    )


def _means(readings: Sequence[FlowReading]) -> dict[int, float]:
    return {port: fmean(flows) for port, flows in flows_by_runner(by_port(readings)).items()}


def _leak(checks: Sequence[CheckReading], flow: float) -> float | None:
    """Share of the flow that passes with everything blanked, what the bench shows at rest taken off."""
    leak, zero = _last(checks, "leak"), _last(checks, "zero")
    return (leak.flow_m3_s - (zero.flow_m3_s if zero else 0.0)) / flow if leak else None


def _at_low(checks: Sequence[CheckReading], now: Sequence[FlowReading]) -> tuple[float, float, float] | None:
    check = _last(checks, "low")
    beside = _before(check, now)
    if check is None or beside is None:
        return None
    return check.depression_pa, shown_at_reference(check), _shown(beside)


def _held(checks: Sequence[CheckReading], now: Sequence[FlowReading]) -> tuple[float, float] | None:
    check = _last(checks, "held")
    beside = _before(check, now)
    return (_shown(beside), shown_at_reference(check)) if check is not None and beside is not None else None


def _shown(reading: FlowReading) -> float:
    """As the bench showed it, like the check that it stands beside: what both share cancels."""
    return flow_at_depression(reading.flow_m3_s, reading.pulled_pa, REFERENCE_DEPRESSION)


def _before(check: CheckReading | None, now: Sequence[FlowReading]) -> FlowReading | None:
    """The figure that a check stands beside: the last one before it."""
    if check is None:
        return None
    return next((reading for reading in reversed(now) if reading.taken_at <= check.taken_at), None)


def _last(checks: Sequence[CheckReading], kind: str) -> CheckReading | None:
    return next((check for check in reversed(checks) if check.check_kind == kind), None)
