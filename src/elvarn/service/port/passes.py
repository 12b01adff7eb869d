"""The pass log: who was at which runner in which round, for how long. Its watch runs on while nobody looks."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.core.port.schedule import rest_of
from elvarn.given import Moment, given
from elvarn.service.kernel.errors import Invalid, Offer, Question
from elvarn.service.kernel.find import find
from elvarn.service.kernel.sentences import listed
from elvarn.service.kernel.writes import edit, find_for_edit, write_once
from elvarn.service.port.plans import PlanFacts
from elvarn.service.port.recipes import INSPECTIONS, passes_in, recipe_of
from elvarn.service.port.wear import worn_words
from elvarn.service.record.job import JobRecord
from elvarn.store import queries
from elvarn.store.models import PartState, PortPass

ORDER = "out_of_order"
MOST_LOGGED = 300  # the latest: hands get faster
MOST_WORN = 99
LONGEST_S = 12 * 3600.0  # a watch that ran longer was forgotten


@given
class NewPass:
    """Begin a round on a runner: its watch runs from then on, and no other of this person's on the job."""

    person_id: UUID
    job_id: UUID
    part_state_id: UUID
    cylinder: int
    round: str
    at: Moment
    accepted: list[str] = field(default_factory=list)


@given
class PassEdit:
    """What happens to a pass: pause, resume, done or open again, a tool worn out or not after all; and what was looked
    at."""

    version: int
    person_id: UUID
    act: str
    at: Moment
    inspected: list[str] | None = None


@dataclass(frozen=True)
class PassView:
    """A round on one runner: what the watch shows, and since when it runs."""

    id: UUID
    version: int
    runner: int
    person: str
    seconds: float
    running_since: datetime | None
    done: bool
    inspected: list[str]
    worn: int


@dataclass(frozen=True)
class RoundView:
    """A round over all runners; `planned_s` for one of them, `worn` the tools that it wore out."""

    name: str
    planned_s: float | None
    average_s: float | None
    worn: int
    passes: list[PassView]


@dataclass(frozen=True)
class PassSheet:
    """All rounds of the stage in work, and the one that is next: nobody goes on before all runners have it."""

    recipe: str
    finish: str
    rounds: list[RoundView]
    here: int
    next_runner: int | None
    minutes: float
    rest: str
    worn: str


def pass_sheet(session: Session, record: JobRecord, state: PartState, plan: PlanFacts) -> PassSheet:
    """The pass log of a state."""
    rows = queries.passes_of(session, [state.id])
    recipe = plan.recipe
    runners = _in_order(record.cylinder_count, plan.jet_runners)
    rounds = [
        _round(name, one.minutes, [row for row in rows if row.round == name], record.people)
        for name, one in passes_in(recipe)
    ]
    here = next((n for n, one in enumerate(rounds) if _missing(one, runners)), len(rounds) - 1)
    missing = _missing(rounds[here], runners)
    seconds = sum(row.seconds for row in rows)
    lacking = {one.name: len(_missing(one, runners)) for one in rounds}
    logged = queries.done_passes(session, list(lacking), plan.material, record.job.id, MOST_LOGGED)
    rest = _rest(record, rounds, lacking, logged)
    first = missing[0] if missing else None
    worn = worn_words(recipe, rows, lacking, logged)
    return PassSheet(recipe.name, recipe.finish, rounds, here, first, seconds / 60, rest, worn)


def _rest(record: JobRecord, rounds: Sequence[RoundView], missing: dict[str, int], done: Sequence[PortPass]) -> str:
    """How long the rest takes, by the shop's own log, against when it is due."""
    logged: dict[str, list[float]] = {}
    for row in done:
        logged.setdefault(row.round, []).append(row.seconds)
    rest = rest_of(missing, logged, {one.name: one.planned_s for one in rounds if one.planned_s})
    words = []
    if rest.amount:
        source = f"from {rest.logged} logged pass{'es' if rest.logged > 1 else ''}" if rest.logged else "as planned"
        words.append(f"rest about {_time(rest.amount)} ±{_time(rest.half)}, {source}")
    if rest.unknown and not rest.amount:
        words.append("no time known yet: log a round, or plan its minutes (T)")
    elif rest.unknown:
        more = f" and {len(rest.unknown) - 2} more" if len(rest.unknown) > 2 else ""
        words.append(f"without {', '.join(rest.unknown[:2])}{more}: no time known of {'it' if not more else 'them'}")
    if record.job.due_on and sum(missing.values()):
        words.append(f"due {record.job.due_on.day} {record.job.due_on:%b}")
    return " · ".join(words)


def _time(seconds: float) -> str:
    minutes = round(seconds / 60)
    return f"{minutes // 60} h {minutes % 60:02} min" if minutes >= 60 else f"{minutes} min"


def begin_pass(session: Session, identifier: UUID, new: NewPass) -> PortPass:
    """Begin a round on a runner; one that was begun before goes on. Raises Question where an earlier round isn't done
    on all runners."""
    state = find(session, PartState, new.part_state_id, "part state")
    if not state.in_work:
        raise Invalid(f"{state.label.capitalize()} isn't in work. Start the stage first.", path="part_state_id")
    rows = queries.passes_of(session, [state.id])
    for row in rows:
        if row.running_since is not None and row.person_id == new.person_id and row.id != identifier:
            edit(row, row.version, _paused(row, new.at), "pass")
    known = next((row for row in rows if row.cylinder == new.cylinder and row.round == new.round), None)
    if known is not None:
        if known.done_at is None and known.running_since is None:
            edit(known, known.version, {"running_since": new.at}, "pass")
        session.flush()
        return known
    _ask_about_order(session, new, state, rows)

    def make(digest: str) -> PortPass:
        return PortPass(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            job_id=new.job_id,
            part_state_id=state.id,
            cylinder=new.cylinder,
            round=new.round.strip(),
            running_since=new.at,
        )

    return write_once(session, PortPass, identifier, new, make)


def edit_pass(session: Session, identifier: UUID, change: PassEdit) -> PortPass:
    """Pause, resume, end or reopen a pass, or note what was looked at. Raises Stale where it was changed meanwhile."""
    row = find_for_edit(session, PortPass, identifier, "pass")
    changes: dict[str, object] = {}
    match change.act:
        case "pause":
            changes = _paused(row, change.at)
        case "resume":
            changes = {"running_since": change.at if row.running_since is None else row.running_since, "done_at": None}
        case "done":
            changes = {**_paused(row, change.at), "done_at": change.at}
        case "look":
            changes = {}
        case "worn":
            changes = {"worn": min(row.worn + 1, MOST_WORN)}
        case "not worn":
            changes = {"worn": max(row.worn - 1, 0)}
        case _:
            known = "pause, resume, done, look, worn or not worn"
            raise Invalid(f"'{change.act}' is nothing to do with a pass: {known}.", path="act")
    if change.inspected is not None:
        unknown = [one for one in change.inspected if one not in INSPECTIONS]
        if unknown:
            raise Invalid(f"'{unknown[0]}' is no way to inspect: {', '.join(INSPECTIONS)}.", path="inspected")
        changes["inspected"] = change.inspected
    edit(row, change.version, changes, "pass")
    session.flush()
    return row


def _paused(row: PortPass, at: datetime) -> dict[str, object]:
    """A watch that stands; one that ran for half a day was forgotten, and counts no longer."""
    if row.running_since is None:
        return {"running_since": None}
    ran = min(max((at - row.running_since).total_seconds(), 0.0), LONGEST_S)
    return {"seconds": row.seconds + ran, "running_since": None}


def _ask_about_order(session: Session, new: NewPass, state: PartState, rows: Sequence[PortPass]) -> None:
    """Each pass goes round all runners before the next grit. Raises Invalid for a round that the recipe hasn't."""
    plan = queries.port_plan_of(session, new.job_id, state.part_id)
    names = [name for name, _ in passes_in(recipe_of(plan.recipe if plan else {}))]
    if new.round not in names:
        raise Invalid(f"The recipe has no round '{new.round}': {', '.join(names)}.", path="round")
    count = max((build.cylinder_count for build in queries.builds_of(session, [new.job_id])), default=0)
    done = {(row.round, row.cylinder) for row in rows if row.done_at is not None}
    for name in names[: names.index(new.round)]:
        missing = [n for n in range(1, count + 1) if (name, n) not in done]
        if missing and ORDER not in new.accepted:
            raise _out_of_order(new, name, missing)


def _out_of_order(new: NewPass, earlier: str, missing: list[int]) -> Question:
    on = f"runner{'s' if len(missing) > 1 else ''} {listed([str(n) for n in missing])}"
    offers = [
        Offer(f"Start {earlier} on runner {missing[0]}", {"round": earlier, "cylinder": missing[0]}),
        Offer(f"Start {new.round} all the same", {"accepted": [*new.accepted, ORDER]}),
    ]
    text = f"{earlier} isn't done on {on}: each pass goes round all runners before the next."
    return Question(ORDER, text, offers, path="round")


def _round(name: str, minutes: float | None, rows: Sequence[PortPass], people: dict[UUID, str]) -> RoundView:
    done = [row.seconds for row in rows if row.done_at is not None]
    views = [
        PassView(
            row.id,
            row.version,
            row.cylinder,
            people.get(row.person_id, "?"),
            row.seconds,
            row.running_since,
            row.done_at is not None,
            row.inspected,
            row.worn,
        )
        for row in rows
    ]
    average = sum(done) / len(done) if done else None
    return RoundView(name, 60 * minutes if minutes else None, average, sum(row.worn for row in rows), views)


def _missing(one: RoundView, runners: Sequence[int]) -> list[int]:
    done = {view.runner for view in one.passes if view.done}
    return [number for number in runners if number not in done]


def _in_order(count: int, jet: Sequence[int]) -> list[int]:
    """Runners that the jet hits come first."""
    first = [number for number in jet if number <= count]
    return [*first, *(n for n in range(1, count + 1) if n not in first)]
