"""Flow readings and strike-outs: what is kept, and what is asked first."""

from dataclasses import field
from datetime import UTC, datetime, timedelta
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.bench.plausible import Doubt, flow_doubts
from elvarn.core.bench.reference import flow_at_depression
from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE, REFERENCE_DEPRESSION
from elvarn.core.gas.discharge import round_area
from elvarn.core.path.tree import ElementKind
from elvarn.given import Moment, given
from elvarn.service.bench.reading import values_of
from elvarn.service.bench.taken import Taken, TakenFigure, check_pulled, figure_of
from elvarn.service.job.strikes import NewStrike, strike_out
from elvarn.service.kernel.errors import IdReused, Invalid, NotFound, Offer, Question
from elvarn.service.kernel.writes import digest_of
from elvarn.store.queries.capture import CapturePlace, capture_place, keep_figure

SLIPS = {"ten_times": 0.1, "a_tenth": 10.0}
CLOCK_ROOM = timedelta(minutes=5)  # clocks of tablets and servers differ
OTHER_UNIT = {"cubic_metres_per_hour": "m3/h", "cubic_feet_per_minute": "cfm"}


@given
class NewFlow:
    """A figure of one runner, as typed. `accepted` are doubts under which it is to be kept all the same; `replaces`
    are readings to be struck out for it. Where the bench sent its samples, nothing is typed. A repeat with nothing
    touched is not `refitted`. Where `dated`, its date is that of a table and may be before what was read already."""

    person_id: UUID
    job_id: UUID
    setup_id: UUID
    part_state_id: UUID
    cylinder: int
    typed: str
    taken_at: Moment
    default_unit: str = "cfm"
    accepted: list[str] = field(default_factory=list)
    replaces: list[UUID] = field(default_factory=list)
    taken: Taken | None = None
    refitted: bool = True
    dated: bool = False


def capture(session: Session, identifier: UUID, new: NewFlow) -> UUID:
    """Keep a runner's figure; returns its id. Raises Invalid for what can't be, Question for what may be meant
    otherwise. Whoever is at the bench waits for it, so that little is asked of the database."""
    place = capture_place(
        session,
        identifier,
        new.job_id,
        new.setup_id,
        new.part_state_id,
        new.cylinder,
        REFERENCE_DEPRESSION,
        new.replaces,
    )
    digest = digest_of(new)
    if place.digest is not None:
        return _same(identifier, place.digest, digest)
    _check_place(place, new)
    figure = figure_of(new.typed, new.default_unit, new.taken)
    check_pulled(figure)
    _ask_where_already_read(place, new, figure)
    doubts = [*_doubts(place, figure), *_clock_doubts(new.taken_at, None if new.dated else place.last_at)]
    open_doubts = [doubt for doubt in doubts if doubt.code not in new.accepted]
    if open_doubts:
        raise _question(open_doubts[0], new, figure)
    marks = [*figure.marks, *(doubt.code for doubt in doubts)]
    values = values_of(identifier, digest, new, ElementKind.RUNNER, figure)
    keep_figure(session, {**values, "marks": marks, "refitted": new.refitted})
    for old in new.replaces:
        strike_out(session, old, NewStrike(new.person_id, "replaced by another reading", new.taken_at))
    return identifier


def _same(identifier: UUID, before: str, now: str) -> UUID:
    if before != now:
        raise IdReused(f"The id {identifier} was used before for another figure. Send it with a new id.")
    return identifier


def _check_place(place: CapturePlace, new: NewFlow) -> None:
    if place.cylinder_count is None:
        raise NotFound(f"There is no job {new.job_id} with the part state {new.part_state_id}. Open the job again.")
    if place.depression_pa is None:
        raise NotFound(f"This job has no set-up {new.setup_id}. Note it first.")
    if not 1 <= new.cylinder <= place.cylinder_count:
        message = f"There is no runner {new.cylinder}; this part has {place.cylinder_count}."
        raise Invalid(message, path="cylinder")
    if place.of_others:
        raise Invalid(
            "Only readings of this very runner can be struck out for it. Open the job again.", path="replaces"
        )


def _ask_where_already_read(place: CapturePlace, new: NewFlow, figure: TakenFigure) -> None:
    """What another shop's bench read is no repeat of ours."""
    if not place.kept or "already_read" in new.accepted:
        return
    last = place.kept[-1]
    was = f"{units.number_text(last.figure, 1)} {units.LABELS.get(last.unit, last.unit)}"
    accepted = {"accepted": [*new.accepted, "already_read"]}
    raise Question(
        "already_read",
        f"Runner {new.cylinder} already has {was}. Is {figure.words} a repeat, or instead of it?",
        [
            Offer("A repeat, put on anew: both count", accepted),
            Offer(f"Strike {was} out, keep {figure.words}", {"replaces": [str(one.id) for one in place.kept]}),
            Offer("Read again, nothing touched", {**accepted, "refitted": False}),
        ],
        path="typed",
    )


def _doubts(place: CapturePlace, figure: TakenFigure) -> list[Doubt]:
    """A slip of the pen explains more than a range that is passed: it is asked first."""
    pulled = figure.depression or place.depression_pa or REFERENCE_DEPRESSION
    stated = flow_at_depression(figure.flow, pulled, REFERENCE_DEPRESSION)
    area = round_area(place.smallest_bore) if place.smallest_bore is not None else None
    doubts = flow_doubts(stated, place.others, area, REFERENCE_DEPRESSION)
    reach = max((one["full_scale_cfm"] for one in place.ranges), default=None)
    if reach is not None and figure.flow > reach * CUBIC_FOOT_PER_MINUTE:
        doubts.append(Doubt("over_range", f"The bench's largest range ends at {reach:g} CFM."))
    return doubts


def _clock_doubts(taken_at: datetime, last_at: datetime | None) -> list[Doubt]:
    """A figure can't have been taken tomorrow, and hardly before the one that came before it."""
    if taken_at - datetime.now(UTC) > CLOCK_ROOM:
        ahead = _time_words(taken_at - datetime.now(UTC))
        return [Doubt("clock_ahead", f"The clock of this device is {ahead} ahead of the shop's.")]
    if last_at is not None and last_at - taken_at > CLOCK_ROOM:
        back = _time_words(last_at - taken_at)
        return [Doubt("clock_back", f"It is dated {back} before the last figure of this set-up: did a clock jump?")]
    return []


def _time_words(time: timedelta) -> str:
    minutes = time.total_seconds() / 60
    if minutes > 48 * 60:
        return f"{minutes / 60 / 24:.0f} days"
    return f"{minutes / 60:.1f} hours" if minutes > 90 else f"{minutes:.0f} minutes"


def _question(doubt: Doubt, new: NewFlow, figure: TakenFigure) -> Question:
    offers = []
    other = OTHER_UNIT.get(doubt.code)
    if other is not None and {figure.unit, other} == {"cfm", "m3/h"}:
        offers.append(Offer(f"It is {figure.figure:g} {units.LABELS[other]}", {"typed": f"{figure.figure!r} {other}"}))
    elif doubt.code in SLIPS and new.taken is None:
        meant = figure.figure * SLIPS[doubt.code]
        offers.append(Offer(f"I meant {meant:g}", {"typed": f"{meant:g} {figure.unit}"}))
    elif doubt.code in ("clock_ahead", "clock_back"):
        now = datetime.now(UTC)
        offers.append(Offer(f"Note it by the shop's clock, {now:%H:%M} UTC", {"taken_at": now.isoformat()}))
    offers.append(Offer(f"Keep {figure.words}, marked", {"accepted": [*new.accepted, doubt.code]}))
    return Question(doubt.code, f"Runner {new.cylinder}: {figure.words}. {doubt.text}", offers, path="typed")
