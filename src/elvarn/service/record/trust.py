"""How far a bench's figures can be trusted: what it repeats within and by how much sessions differ, as far as it is
stated, learned from its own readings, or assumed."""

from collections.abc import Hashable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from math import sqrt
from statistics import fmean
from uuid import UUID

from sqlalchemy.orm import Session, object_session

from elvarn.core.bench.gain import ASSUMED
from elvarn.core.bench.reference import conversion_shortfall
from elvarn.core.difference import MATTERS, Known, log_percent
from elvarn.core.statistics.scatter import Scatter, learned, learned_beside_slips
from elvarn.core.verdict import OWN_ENOUGH
from elvarn.service.kernel.once import once
from elvarn.service.record.checks import PlateReading, load_checks
from elvarn.service.record.plates import ONE_SESSION, plates_for, valid_plates
from elvarn.service.record.stated import at_reference
from elvarn.service.shop.known import known
from elvarn.service.shop.settings import path_settings
from elvarn.store import queries
from elvarn.store.models import Bench, FlowReading
from elvarn.store.revision import benches_revision

MOST_REFITS = 200  # the latest that are looked at: a bench's repeatability ages
Sessions = Mapping[UUID, Hashable]
RefitGroup = tuple[Hashable, list[float]]


@dataclass(frozen=True)
class Trust:
    """What is known of a bench for one comparison; the session of each reading in it, and whether both sides have any;
    whether the shop states what the bench repeats within; and by which half-range the square-root law may be out
    between its depressions."""

    known: Known
    sessions: Sessions
    both: bool
    stated: bool
    conversion: float

    @property
    def near(self) -> bool:
        """Whether both sides were read in one session. A side that is still to come may come another day."""
        return self.both and len(set(self.sessions.values())) == 1

    @property
    def tied(self) -> bool:
        """Whether one plate ties its sessions."""
        return bool(self.known.plates)

    @property
    def assumed(self) -> bool:
        """Whether what the bench repeats within is neither stated nor its own."""
        return not self.stated and self.known.refit.own < OWN_ENOUGH

    @property
    def repeatability(self) -> float:
        """What a refit repeats within, as a fraction."""
        return self.known.refit.value / 100

    @property
    def session_shift(self) -> float:
        """What a session may differ by, as a fraction: where a plate ties them, what reading it leaves."""
        if self.tied:
            return self.known.plate.value / 100 / sqrt(min(self.known.plates.values()))
        return self.known.session.value / 100


def learned_of(session: Session, bench: Bench | None) -> Scatter:
    """What a bench repeats within, with what the shop states or else what is assumed of it."""
    if bench is None:
        return ASSUMED.refit
    return once(bench, "learned", lambda: _learned(bench, [logs for _, logs in _groups(session, bench)]))


def known_beside(first: FlowReading) -> Known:
    """What is known of a bench within one session, without the repeats of the thing that is to be judged."""
    bench = first.setup.bench
    session = object_session(bench)
    if session is None:
        raise RuntimeError(f"What bench {bench.name} repeats within is asked for while its session is open.")
    others = [logs for thing, logs in _groups(session, bench) if thing != _thing(first)]
    return replace(ASSUMED, refit=_learned(bench, others))


def _learned(bench: Bench, groups: Sequence[Sequence[float]]) -> Scatter:
    return learned_beside_slips(bench.repeatability_percent or ASSUMED.refit.value, groups)


def _groups(session: Session, bench: Bench) -> list[RefitGroup]:
    """Asked of the database once for each revision."""

    def ask() -> list[RefitGroup]:
        return known(session, ("refits", bench.id), lambda: refit_groups(session, bench), benches_revision)

    return once(bench, "refits", ask)


def trust_of(bench: Bench | None, refit: Scatter, before: Sequence[FlowReading], after: Sequence[FlowReading]) -> Trust:
    """How far a comparison of these readings can be trusted."""
    sessions, both = sessions_of([*before, *after]), bool(before and after)
    conversion = _conversion(before, after)
    ranges = (conversion * 100,)
    if bench is None:
        return Trust(Known(refit, ASSUMED.session, ASSUMED.plate, ranges=ranges), sessions, both, False, conversion)
    usual, plate = once(bench, "plates scatter", lambda: _scatters_of_plates(bench))
    session = object_session(bench)
    matters = path_settings(session).settings.matters_percent if session is not None else MATTERS
    tied = _plates_beside(bench, [*before, *after], sessions)
    return Trust(
        Known(refit, usual, plate, plates=tied, ranges=ranges, matters=matters),
        sessions,
        both,
        bench.repeatability_percent is not None,
        conversion,
    )


def sessions_of(readings: Sequence[FlowReading]) -> Sessions:
    """The session in which each was read: of one bench, within half a day of its first."""
    found: dict[UUID, Hashable] = {}
    begins = None
    last: tuple[UUID, int] | None = None
    for reading in sorted(readings, key=lambda r: (str(r.setup.bench_id), r.taken_at)):
        bench = reading.setup.bench_id
        if last is None or begins is None or last[0] != bench:
            last, begins = (bench, 0), reading.taken_at
        elif reading.taken_at - begins > ONE_SESSION:
            last, begins = (bench, last[1] + 1), reading.taken_at
        found[reading.id] = last
    return found


def refit_groups(session: Session, bench: Bench) -> list[RefitGroup]:
    """What a bench lately read of the same thing again, put on anew in one set-up and session: the thing, and its
    logarithms in per cent, the oldest first."""
    groups: list[list[FlowReading]] = []
    readings = queries.refits_of_bench(session, bench.id, MOST_REFITS)
    load_checks(session)
    for reading in readings:
        last = groups[-1][-1] if groups else None
        same = last is not None and _thing(last) == _thing(reading)
        if same and reading.taken_at - groups[-1][-1].taken_at <= ONE_SESSION:
            groups[-1].append(reading)
        else:
            groups.append([reading])
    repeated = sorted((group for group in groups if len(group) > 1), key=lambda group: group[-1].taken_at)
    return [(_thing(group[0]), [log_percent(at_reference(reading)) for reading in group]) for group in repeated]


def apart(before: Sequence[FlowReading], after: Sequence[FlowReading]) -> timedelta | None:
    """From the first reading before to the last after; None until both sides were read."""
    if not before or not after:
        return None
    return max(r.taken_at for r in after) - min(r.taken_at for r in before)


def plate_uncertainty(bench: Bench, reading: FlowReading, repeatability: float) -> float | None:
    """Standard uncertainty of a bench's scale at a reading: of the plate, and of having read it once. None where no
    plate of known flow was read."""
    plates = plates_for(bench, reading.taken_at)
    known = [plate for plate in plates if plate.known is not None]
    if not known:
        return None
    own = (known[0].check.plate_uncertainty_percent or 0.0) / 100
    return sqrt(own**2 + repeatability**2 / len(plates))


def _conversion(before: Sequence[FlowReading], after: Sequence[FlowReading]) -> float:
    """By how much the square-root law may be out between the depressions of the two sides."""
    if not before or not after:
        return 0.0
    return conversion_shortfall(fmean(r.pulled_pa for r in before), fmean(r.pulled_pa for r in after))


def _scatters_of_plates(bench: Bench) -> tuple[Scatter, Scatter]:
    """By how much a bench's sessions differ, from the plate that was read most; and what its plates repeat within."""
    sessions = _plate_sessions(valid_plates(bench))
    names = [name for name, _ in sessions]
    usual = max(set(names), key=names.count, default="")
    means = [fmean(session) for name, session in sessions if name == usual]
    stated = bench.session_shift_percent or ASSUMED.session.value
    return learned(stated, [means]), learned_beside_slips(ASSUMED.plate.value, [session for _, session in sessions])


def _plate_sessions(plates: Sequence[PlateReading]) -> list[tuple[str, list[float]]]:
    """What each plate showed in each session, as logarithms in per cent."""
    sessions: list[list[PlateReading]] = []
    for plate in sorted(plates, key=lambda one: (one.name, one.taken_at)):
        first = sessions[-1][0] if sessions else None
        if first is not None and first.name == plate.name and plate.taken_at - first.taken_at <= ONE_SESSION:
            sessions[-1].append(plate)
        else:
            sessions.append([plate])
    by_time = sorted(sessions, key=lambda session: session[0].taken_at)
    return [(one[0].name, [log_percent(plate.flow()) for plate in one]) for one in by_time]


def _plates_beside(bench: Bench, readings: Sequence[FlowReading], sessions: Sessions) -> dict[Hashable, int]:
    """How often one plate of this bench was read in each session; none where none was read in all of them."""
    if any(reading.setup.bench_id != bench.id for reading in readings):
        return {}
    times: dict[Hashable, list[datetime]] = {}
    for reading in readings:
        times.setdefault(sessions[reading.id], []).append(reading.taken_at)
    best: dict[Hashable, int] = {}
    for name in {plate.name for plate in valid_plates(bench)}:
        read = [plate.taken_at for plate in valid_plates(bench) if plate.name == name]
        counts = {session: min(_near(read, at) for at in ats) for session, ats in times.items()}
        if min(counts.values(), default=0) > min(best.values(), default=0):
            best = counts
    return best


def _near(plates: Sequence[datetime], at: datetime) -> int:
    return sum(abs(plate - at) <= ONE_SESSION for plate in plates)


def _thing(reading: FlowReading) -> tuple[object, ...]:
    return reading.setup_id, reading.part_state_id, reading.element_kind, reading.cylinder
