"""The order of what is done to a part beside its passes: welding before matching, masking before coating, and why."""

from collections.abc import Collection, Iterable
from dataclasses import dataclass
from enum import StrEnum
from graphlib import TopologicalSorter


class Work(StrEnum):
    """What is done to a part at port work, beside the passes over its runners."""

    CLEAN = "clean"
    MARK = "mark the cutting line"
    OPEN = "cut open"
    WELD = "weld"
    LEAK = "leak test the plenum"
    FLATNESS = "check every face for flatness"
    SKIM = "skim"
    MATCH = "match the opening"
    BLAST = "blast"
    BLOW_OUT = "blow out"
    MASK = "mask lands, threads and bores"
    COAT = "coat"
    AGAIN = "measure lands, threads and bores again"


@dataclass(frozen=True)
class Rule:
    """What comes first, what then, and why."""

    first: Work
    then: Work
    why: str


# common practice, no source
RULES = (
    Rule(Work.MARK, Work.OPEN, "a cut without a line wanders"),
    Rule(Work.OPEN, Work.WELD, "it is closed by welding"),
    Rule(Work.CLEAN, Work.WELD, "oil and coatings burn into the seam and give off fumes"),
    Rule(Work.WELD, Work.LEAK, "a seam that leaks is found before it is hidden"),
    Rule(Work.WELD, Work.FLATNESS, "welding draws the faces"),
    Rule(Work.WELD, Work.MATCH, "welding moves the opening that was matched"),
    Rule(Work.FLATNESS, Work.SKIM, "how much to take is measured first"),
    Rule(Work.SKIM, Work.MATCH, "skimming moves the face that the opening is matched at"),
    Rule(Work.LEAK, Work.COAT, "a coat hides a leak"),
    Rule(Work.MATCH, Work.COAT, "a coat is cut through by matching"),
    Rule(Work.BLAST, Work.BLOW_OUT, "grit left inside is swallowed by the engine"),
    Rule(Work.BLAST, Work.COAT, "a coat holds on a clean ground"),
    Rule(Work.MASK, Work.BLAST, "blasting roughens lands and threads"),
    Rule(Work.MASK, Work.COAT, "a coat on lands, threads and bores changes their size"),
    Rule(Work.COAT, Work.AGAIN, "a coat creeps under its mask"),
)
# What one piece of work asks for besides, wherever it is done.
BRINGS: dict[Work, tuple[Work, ...]] = {
    Work.OPEN: (Work.MARK, Work.WELD),
    Work.WELD: (Work.CLEAN, Work.LEAK, Work.FLATNESS),
    Work.BLAST: (Work.MASK, Work.BLOW_OUT),
    Work.COAT: (Work.MASK, Work.AGAIN),
}


def too_early(work: Work, still_open: Collection[Work]) -> list[Rule]:
    """Rules that a piece of work breaks where it is done now.

    Arguments: work; still_open: what is on the list and not done.
    Returns: the rules, each with why.
    Raises: nothing.
    Source: common practice, no source.
    """
    return [rule for rule in RULES if rule.then == work and rule.first in still_open]


def lacking(listed: Collection[Work]) -> list[tuple[Work, Work]]:
    """What the work on a list asks for besides and nobody put on it.

    Arguments: listed: what is on the list, done or not.
    Returns: what is lacking, each with what asks for it.
    Raises: nothing.
    Source: common practice, no source.
    """
    found = [(other, work) for work in Work if work in listed for other in BRINGS.get(work, ()) if other not in listed]
    return list({other: (other, work) for other, work in found}.values())


def in_order(works: Iterable[Work]) -> list[Work]:
    """Works in an order that keeps every rule.

    Arguments: works, each once.
    Returns: the same works in order.
    Raises: nothing.
    Source: common practice, no source; sorted by Kahn's method (graphlib).
    """
    wanted = set(works)
    befores = {work: {rule.first for rule in RULES if rule.then == work and rule.first in wanted} for work in wanted}
    sorter = TopologicalSorter({work: befores[work] for work in Work if work in wanted})
    return list(sorter.static_order())
