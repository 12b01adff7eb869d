"""What the swap sheet concludes: safety first, then what is not decided, what changed, what is short, what is lost."""

from elvarn.core.finding import Grade
from elvarn.core.fit.interface import Verb
from elvarn.core.fit.schools import oil_for
from elvarn.service.fit.injectors import injector_sentences
from elvarn.service.fit.state import PlanState
from elvarn.service.kernel.sentences import Sentence, first_up, listed, sentence

DONE = {Verb.BLANK: "blanked off", Verb.DELETE: "taken off", Verb.LOOP: "looped"}
MOST = 3


def margin_of(state: PlanState) -> list[Sentence]:
    """The margin of the swap sheet."""
    found = [*_safety(state), *_open(state), *_changed(state), *_short(state), *_gone(state)]
    found += injector_sentences(state.job) if state.touched & {"injector", "fuel rail"} else []
    found += _rings(state)
    if state.for_now:
        found.append(
            sentence(f"Mended for now only: {listed(state.for_now)}.", Grade.MEASURED, "doubt", "", "Mend it for good.")
        )
    return found + _next(state)


def some(words: list[str]) -> str:
    """The first few of a list, and how many more there are."""
    if len(words) <= MOST + 1:
        return listed(words)
    return f"{', '.join(words[:MOST])} and {len(words) - MOST} more"


def _safety(state: PlanState) -> list[Sentence]:
    if state.plan.mock_up:
        return [sentence("Mock-up: not to be started.", Grade.RULE, "harm", "Two nuts and old gaskets hold nothing.")]
    names = [task.short for task in state.safety_open if task.short]
    if not names:
        return []
    text = f"Not to be started: [{some(names)}](safety) not checked."
    return [sentence(text, Grade.MEASURED, "harm", "Sign-off is refused until they are.")]


def _open(state: PlanState) -> list[Sentence]:
    if state.strands and all(one.part for one in state.strands):
        text = "No hose, plug or bracket is noted: none is planned."
        return [sentence(text, Grade.RULE, "doubt", "", "Choose the engine's family, or add what sits there (E).")]
    words = [one.off for one in state.strands if one.question]
    if not words:
        return []
    return [sentence(f"Not decided: [{some(words)}](question).", Grade.RULE, "doubt", "", "Choose what is done.")]


def _changed(state: PlanState) -> list[Sentence]:
    if not state.changes:
        return []
    text = f"Changed since the tasks were written: {some(state.changes)}."
    return [sentence(text, Grade.MEASURED, "doubt", "What is done stays done.", "Take it over (T).")]


def _short(state: PlanState) -> list[Sentence]:
    if state.done("kit") or not state.kit:
        return []
    if not state.counted:
        return [sentence("The kit is not counted yet.", Grade.RULE, "doubt", "", "Count it before anything comes off.")]
    if not state.short:
        return []
    words = some([f"{count} × {words}" for words, count in state.short.items()])
    return [sentence(f"Short of the kit: {words}.", Grade.MEASURED, "doubt", "", "Order it first.")]


def _gone(state: PlanState) -> list[Sentence]:
    found = []
    for one in state.strands:
        kind = one.kind
        if one.verb not in DONE or kind is None or not kind.lost:
            continue
        tone = "harm" if kind.safety else "doubt" if kind.emission else "plain"
        text = f"{first_up(one.off)}, {DONE[one.verb]}: {kind.lost}."
        local = "Emission equipment: check the local code." if kind.emission else ""
        found.append(sentence(text, Grade.RULE, tone, local))  # type: ignore[arg-type]
    return found


def _rings(state: PlanState) -> list[Sentence]:
    rings = sum(need.count for one in state.strands for need in one.needs if need.words.startswith("O-ring"))
    if not rings:
        return []
    fuel = state.job.engine.fuel if state.job.engine else ""
    oil, why = oil_for(state.plan.seal, fuel if state.touched & {"injector", "fuel rail"} else "")
    of = f" of {state.plan.seal}" if state.plan.seal else ""
    text = f"{rings} O-ring{'s' if rings > 1 else ''}{of}, {oil}: {why}."
    more = "Its maker's word goes first." if of else "What they are made of is not noted; some seals swell in oil (E)."
    return [sentence(text, Grade.RULE, "plain", more)]


def _next(state: PlanState) -> list[Sentence]:
    task = state.following
    if task is None:
        text = "Everything is done." if not state.still_open else "Everything that is open waits for something."
        return [sentence(text, Grade.RULE, "next")]
    who = " Two people." if task.people > 1 else ""
    return [sentence(f"{task.title}.{who}", Grade.RULE, "next")]
