"""Tasks of a swap done, set aside or taken back: what holds one up is asked about, what can hurt is refused."""

from dataclasses import field
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.fit.order import FitTask, Phase
from elvarn.given import Moment, given
from elvarn.service.fit.rounds import rounds_of
from elvarn.service.fit.signing import refusals
from elvarn.service.fit.state import PlanState, state_of
from elvarn.service.kernel.errors import Invalid, Offer, Question
from elvarn.service.kernel.find import find
from elvarn.service.kernel.sentences import first_up, listed
from elvarn.service.kernel.writes import edit, find_for_edit
from elvarn.store.models import FitPlan, Task
from elvarn.typed import Minutes

TOO_EARLY, SHORT, LOOSE, READING = "too_early", "short", "loose", "reading"
SIGN_OFF = "sign off"
STATES = ("open", "waiting", "done")
MOST_TOLD = 4


@given
class FitTick:
    """A task done, on hold or open again, on the version that was seen; `reading` is what was measured at it, as it was
    typed. `accepted` are doubts under which it is done."""

    version: int
    person_id: UUID
    at: Moment
    state: str
    minutes: Minutes | None = None
    result: str | None = None
    reading: str = ""
    accepted: list[str] = field(default_factory=list)


def tick_task(session: Session, identifier: UUID, tick: FitTick) -> Task:
    """Mark a task of a swap. Raises Question where it comes early, Invalid where an engine must not be started or
    signed off yet, naming what is open."""
    row = find_for_edit(session, Task, identifier, "task")
    if row.fit_plan_id is None or row.fit_key is None:
        raise Invalid("This task belongs to no swap. Tick it on its own list.", path="task")
    if tick.state not in STATES:
        raise Invalid(f"'{tick.state}' is no state: open, waiting or done.", path="state")
    if tick.minutes is not None and not 0 <= tick.minutes <= 10_000:
        raise Invalid(f"A task can't take {tick.minutes:g} minutes. Enter 0 to 10 000.", path="minutes")
    state = state_of(session, find(session, FitPlan, row.fit_plan_id, "plan"))
    task = state.tasks.get(row.fit_key)
    readings = [*row.readings, _reading(task, tick)] if tick.reading.strip() else row.readings
    done = tick.state == "done"
    doubts = _doubts(state, task, tick, readings) if done and task else []
    changes = {
        "state": tick.state,
        "minutes": tick.minutes if tick.minutes is not None else row.minutes,
        "result": tick.result if tick.result is not None else row.result,
        "readings": readings,
        "done_at": tick.at if done else None,
        "done_by_id": tick.person_id if done else None,
        "doubts": doubts if done else row.doubts,
    }
    edit(row, tick.version, changes, "task")
    if not done:
        _take_back_sign_off(state, row)
    session.flush()
    return row


def _take_back_sign_off(state: PlanState, opened: Task) -> None:
    """A sign-off stands on what is done: where a task is opened again it is taken back, and says why."""
    signed = state.rows.get(SIGN_OFF)
    if signed is None or signed.state != "done" or signed is opened:
        return
    signed.state, signed.done_at, signed.done_by_id = "open", None, None
    signed.doubts = [f"taken back: {opened.title} was opened again"]
    signed.version += 1


def _doubts(state: PlanState, task: FitTask, tick: FitTick, readings: list[dict[str, object]]) -> list[str]:
    """The doubts under which a task is done."""
    if task.key == SIGN_OFF:
        refused = refusals(state)
        if refused:
            raise Invalid(f"Sign-off is refused. Open: {'; '.join(refused)}.", path="state")
    if task.key == "start":
        hurts = [one.title for one in state.safety_open if one.key in {b.key for b in state.graph.befores["start"]}]
        if hurts:
            raise Invalid(f"Not to be started. Not checked: {'; '.join(hurts)}.", path="state")
    if task.key.startswith("find ") and any(one.question for one in state.strands if one.key == task.strand):
        raise Invalid(f"Choose what is done with it: {task.title.removeprefix('Find out: ')}.", path="state")
    return [
        *_early(state, task, tick),
        *_short(state, task, tick),
        *_loose(state, task, tick),
        *_measured(task, tick, readings),
    ]


def _early(state: PlanState, task: FitTask, tick: FitTick) -> list[str]:
    held = state.graph.holds_up(task.key, state.still_open)
    if not held:
        return []
    names = [state.tasks[one.key].title for one in held]
    if task.safety and task.phase is Phase.BEFORE:
        raise Invalid(f"Too early to be checked. Before it: {'; '.join(names[:MOST_TOLD])}.", path="state")
    if TOO_EARLY not in tick.accepted:
        more = f" and {len(names) - MOST_TOLD} more" if len(names) > MOST_TOLD else ""
        first = "; ".join(names[:MOST_TOLD]) + more
        text = f"Before it: {first}. {first_up(held[0].why)}."
        keep = Offer("Done all the same, flagged", {"accepted": [*tick.accepted, TOO_EARLY]})
        raise Question(TOO_EARLY, text, [keep], path="state")
    return [f"before: {listed(names[:MOST_TOLD])}"]


def _short(state: PlanState, task: FitTask, tick: FitTick) -> list[str]:
    if task.key != "kit" or not state.short:
        return []
    words = "; ".join(f"{count} × {words}" for words, count in state.short.items())
    if SHORT not in tick.accepted:
        text = f"Short of the kit: {words}. Order it before anything comes off."
        keep = Offer("Go on all the same, flagged", {"accepted": [*tick.accepted, SHORT]})
        raise Question(SHORT, text, [keep], path="state")
    return [f"short: {words}"]


def _loose(state: PlanState, task: FitTask, tick: FitTick) -> list[str]:
    """Bolts of mapped flanges that were not ticked in every round."""
    if task.key != "bolts":
        return []
    counts = {flange.name: sum(len(one.order) - len(one.ticked) for one in rounds_of(flange)) for flange in state.bolts}
    words = "; ".join(f"{name}: {count} ticks to go" for name, count in counts.items() if count)
    if not words:
        return []
    if LOOSE not in tick.accepted:
        keep = Offer("All tight all the same, flagged", {"accepted": [*tick.accepted, LOOSE]})
        raise Question(LOOSE, f"{words}. Tick them on the bolt map (B).", [keep], path="state")
    return [f"not all ticked: {words}"]


def _reading(task: FitTask | None, tick: FitTick) -> dict[str, object]:
    """What was measured, in SI and as it was typed, with who and when."""
    if task is None or task.asks is None:
        raise Invalid("Nothing is measured at this task. Write it as a note.", path="reading")
    unit = {"length": "mm", "speed": "rpm"}[task.asks.quantity]
    given = units.parse(tick.reading, task.asks.quantity, unit)
    return {"si": given.si, "typed": tick.reading.strip(), "by": str(tick.person_id), "at": tick.at.isoformat()}


def _measured(task: FitTask, tick: FitTick, readings: list[dict[str, object]]) -> list[str]:
    if task.asks is None:
        return []
    asks = task.asks
    if not readings:
        raise Invalid(f"Enter {asks.words} as it was measured.", path="reading")
    last = readings[-1]
    value = float(str(last["si"]))
    low, high = asks.low, asks.high
    if (low is None or value >= low) and (high is None or value <= high):
        return []
    unit, factor, digits = ("rpm", 1.0, 0) if asks.quantity == "speed" else ("mm", 1000.0, 2)
    span = f"{(low or 0) * factor:.{digits}f} to {(high or 0) * factor:.{digits}f} {unit}"
    text = f"{first_up(asks.words)} {last['typed']}; {span} is right."
    if READING not in tick.accepted:
        keep = Offer("Done all the same, flagged", {"accepted": [*tick.accepted, READING]})
        raise Question(READING, text, [keep], path="reading")
    return [text.removesuffix(".")]
