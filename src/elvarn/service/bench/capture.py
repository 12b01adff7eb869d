"""Flow readings of runners: what is kept, and what is asked first."""

from dataclasses import field
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.gas.discharge import round_area
from elvarn.core.path.tree import ElementKind
from elvarn.given import Moment, given
from elvarn.service.bench.asking import Beside, ask
from elvarn.service.bench.reading import values_of
from elvarn.service.bench.taken import Taken, check_pulled, figure_of
from elvarn.service.job.strikes import NewStrike, strike_out
from elvarn.service.kernel.errors import IdReused, Invalid, NotFound
from elvarn.service.kernel.writes import digest_of
from elvarn.store.queries.capture import CapturePlace, capture_place, keep_figure


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
    marks = ask(new, figure, _beside(place, new))
    values = values_of(identifier, digest, new, ElementKind.RUNNER, figure)
    keep_figure(session, {**values, "marks": marks, "refitted": new.refitted})
    for old in new.replaces:
        strike_out(session, old, NewStrike(new.person_id, "replaced by another reading", new.taken_at))
    return identifier


def _same(identifier: UUID, before: str, now: str) -> UUID:
    if before != now:
        raise IdReused(f"The id {identifier} was sent before with other values. Reload and enter it again.")
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


def _beside(place: CapturePlace, new: NewFlow) -> Beside:
    return Beside(
        f"Runner {new.cylinder}",
        place.kept,
        place.others,
        depression=place.depression_pa or REFERENCE_DEPRESSION,
        area=round_area(place.smallest_bore) if place.smallest_bore is not None else None,
        ranges=place.ranges,
        repeatability_percent=place.repeatability_percent,
        last_at=None if new.dated else place.last_at,
    )
