"""Where a job stands on its rail, and what is next."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from typing import Literal

State = Literal["open", "waiting", "done", "here"]

LABELS = {
    "takein": "Take in",
    "path": "Path",
    "bench": "Bench",
    "port": "Port",
    "fit": "Fit",
    "dyno": "Dyno",
    "handover": "Hand over",
}


@dataclass(frozen=True)
class Progress:
    """What is there: the runners to be read, those read before and after, whether cut, pulls of stock and of others,
    fitting."""

    runners: Sequence[int]
    before: Collection[int]
    after: Collection[int]
    cut: bool
    stage: int | None
    stock_pulls: int
    other_pulls: int
    fit_steps: int
    fit_done: int
    elements: int
    elements_measured: int
    handed_over: bool = False


@dataclass(frozen=True)
class RailStep:
    """One step of the rail: its word, label, what is done of it, and its state."""

    word: str
    label: str
    status: str
    state: State


@dataclass(frozen=True)
class Standing:
    """The rail, the step at which the job stands, and what to do next."""

    rail: tuple[RailStep, ...]
    step: str
    next: str


def standing(rail: Sequence[str], progress: Progress) -> Standing:
    """Where a job stands.

    Arguments: rail: words of the steps that the kind of job needs; progress.
    Returns: the standing.
    Raises: nothing.
    Source: the order of work, common practice, no source: a stock pull before anything comes off, before and after on
    the bench round the cutting, the dyno again at the end.
    """
    step, following = _following(rail, progress)
    steps = tuple(RailStep(word, LABELS[word], _status(word, progress), _state(word, step, progress)) for word in rail)
    return Standing(steps, step, following)


def _following(rail: Sequence[str], p: Progress) -> tuple[str, str]:
    before, after = _unread(p, p.before), _unread(p, p.after)
    ordered = (
        ("dyno", p.stock_pulls == 0 and not p.cut, "Stock pull before anything comes off"),
        ("bench", bool(before) and not p.cut, f"Flow runner {before[0] if before else 0} before cutting"),
        ("port", not p.cut, "Cut, then note the stage"),
        ("bench", bool(after), f"Flow runner {after[0] if after else 0} after cutting"),
        ("fit", p.fit_done < p.fit_steps, f"{p.fit_steps - p.fit_done} fitting steps are open"),
        ("dyno", p.other_pulls == 0, "Pull it against stock"),
        ("handover", not p.handed_over, "Print the sheet and hand over"),
    )
    for word, is_open, words in ordered:
        if is_open and word in rail:
            return word, words
    return "handover", "Handed over"


def _state(word: str, here: str, p: Progress) -> State:
    if word == here:
        return "here"
    done = {
        "takein": True,
        "path": p.elements > 0 and p.elements_measured == p.elements,
        "bench": bool(p.runners) and not _unread(p, p.after),
        "port": p.cut,
        "fit": p.fit_steps > 0 and p.fit_done == p.fit_steps,
        "dyno": p.stock_pulls > 0 and p.other_pulls > 0,
        "handover": p.handed_over,
    }
    return "done" if done[word] else "open"


def _status(word: str, p: Progress) -> str:
    return {
        "takein": "done",
        "path": "measured" if p.elements_measured == p.elements else f"{p.elements_measured} of {p.elements}",
        "bench": _bench_status(p),
        "port": ("cut" if p.stage is None else f"stage {p.stage}") if p.cut else "",
        "fit": f"{p.fit_done} of {p.fit_steps}" if p.fit_steps else "",
        "dyno": _dyno_status(p),
        "handover": "done" if p.handed_over else "",
    }[word]


def _unread(p: Progress, read: Collection[int]) -> list[int]:
    return [runner for runner in p.runners if runner not in read]


def _bench_status(p: Progress) -> str:
    when, read = ("after", p.after) if p.after else ("before", p.before)
    count = len(p.runners) - len(_unread(p, read))
    return f"{when}, {count} of {len(p.runners)}" if read else ""


def _dyno_status(p: Progress) -> str:
    if p.other_pulls:
        return "against stock" if p.stock_pulls else "no stock pull"
    return "stock run" if p.stock_pulls else ""
