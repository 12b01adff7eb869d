"""How far a bench's figures can be trusted: stated by the shop, learned from its own readings, or assumed."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import timedelta
from math import sqrt
from statistics import fmean

from sqlalchemy.orm import Session

from elvarn.core.bench.assumed import BENCH_REPEATABILITY, SESSION_SHIFT
from elvarn.core.bench.gain import BenchQuality
from elvarn.core.bench.learned import Learned, learned_repeatability, learned_session_shift
from elvarn.core.bench.reference import conversion_shortfall
from elvarn.service.kernel.once import once
from elvarn.service.record.checks import load_checks
from elvarn.service.record.plates import ONE_SESSION, plates_for, shown_at_reference, valid_plates
from elvarn.service.record.stated import at_reference
from elvarn.service.shop.known import known
from elvarn.store import queries
from elvarn.store.models import Bench, CheckReading, FlowReading
from elvarn.store.revision import benches_revision

MOST_REFITS = 200  # the latest, from which a bench's repeatability is learned: it ages, and they suffice


@dataclass(frozen=True)
class Trust:
    """Quality of a bench for one comparison; what its own repeats tell, and whether a plate ties the sessions."""

    quality: BenchQuality
    learned: Learned
    stated: bool
    plates: bool


def learned_of(session: Session, bench: Bench | None) -> Learned:
    """What a bench's own repeats tell, or what is assumed; asked of the database once for each revision."""
    if bench is None:
        return Learned(BENCH_REPEATABILITY, 0, False)

    def learn() -> Learned:
        return learned_repeatability(refit_groups(session, bench))

    return once(bench, "learned", lambda: known(session, ("learned", bench.id), learn, benches_revision))


def trust_of(
    bench: Bench | None, learned: Learned, before: Sequence[FlowReading], after: Sequence[FlowReading]
) -> Trust:
    """How far a comparison of these readings can be trusted."""
    stated = bench.repeatability_percent if bench else None
    repeatability = stated / 100 if stated else learned.value
    near = one_session(before, after)
    count = 0 if bench is None or near else min(_plates_beside(bench, side) for side in (before, after))
    shift = repeatability / sqrt(count) if count else _session_shift(bench)
    own = bool(stated) or learned.own
    quality = BenchQuality(repeatability, shift, near, own, _conversion(before, after))
    return Trust(quality, learned, bool(stated), count > 0)


def refit_groups(session: Session, bench: Bench) -> list[list[float]]:
    """What a bench lately read of the same thing again, put on anew in one set-up and session."""
    groups: list[list[float]] = []
    last: FlowReading | None = None
    readings = queries.refits_of_bench(session, bench.id, MOST_REFITS)
    load_checks(session)
    for reading in readings:
        same = last is not None and _thing(last) == _thing(reading)
        if same and last is not None and reading.taken_at - last.taken_at <= ONE_SESSION:
            groups[-1].append(at_reference(reading))
        else:
            groups.append([at_reference(reading)])
        last = reading
    return [group for group in groups if len(group) > 1]


def apart(before: Sequence[FlowReading], after: Sequence[FlowReading]) -> timedelta | None:
    """From the first reading before to the last after; None until both sides were read."""
    if not before or not after:
        return None
    return max(r.taken_at for r in after) - min(r.taken_at for r in before)


def one_session(before: Sequence[FlowReading], after: Sequence[FlowReading]) -> bool:
    """Whether both sides were read in one session."""
    time = apart(before, after)
    return time is not None and abs(time) <= ONE_SESSION


def plate_uncertainty(bench: Bench, reading: FlowReading, repeatability: float) -> float | None:
    """Standard uncertainty of a bench's scale at a reading: of the plate, and of having read it once. None where no
    plate of known flow was read."""
    plates = plates_for(bench, reading.taken_at)
    known = [plate for plate in plates if plate.plate_flow_m3_s is not None]
    if not known:
        return None
    own = (known[0].plate_uncertainty_percent or 0.0) / 100
    return sqrt(own**2 + repeatability**2 / len(plates))


def _session_shift(bench: Bench | None) -> float:
    if bench is None:
        return SESSION_SHIFT
    if bench.session_shift_percent is not None:
        return bench.session_shift_percent / 100
    return learned_session_shift(_plate_sessions(valid_plates(bench))).value


def _conversion(before: Sequence[FlowReading], after: Sequence[FlowReading]) -> float:
    """By how much the square-root law may be out between the depressions of the two sides."""
    if not before or not after:
        return 0.0
    return conversion_shortfall(fmean(r.pulled_pa for r in before), fmean(r.pulled_pa for r in after))


def _plate_sessions(plates: Sequence[CheckReading]) -> list[list[float]]:
    """What the plate that was read most showed, by session."""
    names = [plate.plate for plate in plates]
    usual = max(set(names), key=names.count, default="")
    sessions: list[list[CheckReading]] = []
    for plate in plates:
        if plate.plate != usual:
            continue
        if sessions and plate.taken_at - sessions[-1][0].taken_at <= ONE_SESSION:
            sessions[-1].append(plate)
        else:
            sessions.append([plate])
    return [[shown_at_reference(plate) for plate in one] for one in sessions]


def _plates_beside(bench: Bench, readings: Sequence[FlowReading]) -> int:
    """How often a plate was read in the session of these readings, of any of them the fewest; 0 without readings."""
    plates = [plate.taken_at for plate in valid_plates(bench)]
    counts = [sum(abs(at - reading.taken_at) <= ONE_SESSION for at in plates) for reading in readings]
    return min(counts, default=0)


def _thing(reading: FlowReading) -> tuple[object, ...]:
    return reading.setup_id, reading.part_state_id, reading.element_kind, reading.cylinder
