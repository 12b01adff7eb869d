"""What a series shows of its set-up, gathered for the signatures of the core."""

from collections.abc import Sequence
from statistics import fmean

from sqlalchemy.orm import Session

from elvarn.core.bench.faults import Evidence, Suspicion, suspicions
from elvarn.core.bench.pairs import pairs_of
from elvarn.core.bench.reference import flow_at_depression
from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.likeness import item_differences
from elvarn.service.record.plates import ONE_SESSION
from elvarn.service.record.refits import sides_of
from elvarn.service.record.setup import declared
from elvarn.service.record.stated import by_port
from elvarn.service.record.trust import learned_of, trust_of
from elvarn.store.models import CheckReading, FlowReading


def suspicions_of(session: Session, readings: Sequence[FlowReading]) -> list[Suspicion]:
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
    sides = sides_of(by_port(earlier), by_port(now))
    flows = {port: fmean(refit.flow for refit in refits) for port, refits in sides[1].items()}
    bench = last.setup.bench
    return suspicions(
        Evidence(
            flows,
            pairs_of(*sides),
            trust_of(bench, learned_of(session, bench), earlier, now).known,
            last.setup.throttle != "off",
            _leak(checks, fmean(reading.flow_m3_s for reading in now)),
            {r.cylinder or 0: r.range_percent / 100 for r in now if r.range_percent is not None},
            _at_low(checks, now),
            _held(checks, now),
        )
    )


def _leak(checks: Sequence[CheckReading], flow: float) -> float | None:
    """Share of the flow that passes with everything blanked, what the bench shows at rest taken off."""
    leak = _last(checks, "leak")
    return (leak.flow_m3_s - _at_rest(checks)) / flow if leak else None


def _at_low(checks: Sequence[CheckReading], now: Sequence[FlowReading]) -> tuple[float, float, float] | None:
    """The low depression, what the check shows there, and the figure that it stands beside."""
    check = _last(checks, "low")
    pair = _pair(check, checks, now)
    return (check.depression_pa, *pair) if check is not None and pair is not None else None


def _held(checks: Sequence[CheckReading], now: Sequence[FlowReading]) -> tuple[float, float] | None:
    """The figure that the check stands beside, and what the check shows."""
    pair = _pair(_last(checks, "held"), checks, now)
    return (pair[1], pair[0]) if pair is not None else None


def _pair(
    check: CheckReading | None, checks: Sequence[CheckReading], now: Sequence[FlowReading]
) -> tuple[float, float] | None:
    """A check and the figure that it stands beside, as the bench showed both above what it shows at rest; None where
    the zero leaves nothing of one."""
    beside = _before(check, now)
    if check is None or beside is None:
        return None
    rest = _at_rest(checks)
    shown, figure = check.flow_m3_s - rest, beside.flow_m3_s - rest
    if min(shown, figure) <= 0:
        return None
    return (
        flow_at_depression(shown, check.depression_pa, REFERENCE_DEPRESSION),
        flow_at_depression(figure, beside.pulled_pa, REFERENCE_DEPRESSION),
    )


def _at_rest(checks: Sequence[CheckReading]) -> float:
    zero = _last(checks, "zero")
    return zero.flow_m3_s if zero else 0.0


def _before(check: CheckReading | None, now: Sequence[FlowReading]) -> FlowReading | None:
    """The figure that a check stands beside: the last one before it."""
    if check is None:
        return None
    return next((reading for reading in reversed(now) if reading.taken_at <= check.taken_at), None)


def _last(checks: Sequence[CheckReading], kind: str) -> CheckReading | None:
    return next((check for check in reversed(checks) if check.check_kind == kind), None)
