"""How often the rule cries wolf: benches are drawn on which nothing is gained, and what is called real is counted."""

from collections.abc import Iterator
from dataclasses import dataclass
from math import sqrt

import numpy as np

from elvarn.core.difference import Known, Term, difference
from elvarn.core.statistics.scatter import ASSUMED_WEIGHT, learned, learned_beside_slips

ASSUMED = {"refit": 0.5, "session": 0.5, "plate": 0.3}  # % of reading
RESTS = 0.1
LEARNED = {"nothing": (0, 0), "some": (10, 3), "much": (40, 11)}  # repeats of refits, and of sessions
ALARMS = 0.055  # promised is 5 %; a little more where learned scatters are common to several figures
BY_CHANCE = "drawn"  # the truth of each bench drawn as shops differ

Generator = np.random.Generator


@dataclass(frozen=True)
class Case:
    """What is compared: runners, readings on each side of each, and whether the sides are of two sessions; whether a
    plate is read twice in each, and whether all runners' mean is judged or each of them."""

    name: str
    runners: int = 1
    readings: int = 1
    apart: bool = False
    plate: bool = False
    mean: bool = False
    copy: bool = False
    points: int = 0


CASES = (
    Case("runner, once each, one session"),
    Case("runner, twice each, another session", readings=2, apart=True),
    Case("runner, twice each, plate", readings=2, apart=True, plate=True),
    Case("mean of six, one session", runners=6, mean=True),
    Case("mean of six, another session", runners=6, apart=True, mean=True),
    Case("six runners, twice each, one session", runners=6, readings=2),
    Case("six runners, twice each, another session", runners=6, readings=2, apart=True),
    Case("effect over two ports, one session", runners=2, readings=2, mean=True),
    Case("copy", copy=True),
    Case("curve of six points, one session", points=6),
    Case("curve of six points, another session", points=6, apart=True),
    Case("mean over a curve, one session", points=6, mean=True),
)


def false_alarms(case: Case, times: float | str, known: str, draws: int, seed: int) -> float:
    """The share of benches on which something unchanged is called real.

    `times` is how much worse than assumed every bench is, or BY_CHANCE; `known` which repeats were learned from before.
    """
    generator = np.random.default_rng(seed)
    return sum(_cries_wolf(case, times, LEARNED[known], generator) for _ in range(draws)) / draws


def _cries_wolf(case: Case, times: float | str, learnt: tuple[int, int], generator: Generator) -> bool:
    true = {name: _truth(assumed, times, generator) for name, assumed in ASSUMED.items()}
    compared = list(_drawn(case, true, generator))
    refits = [[float(y) for y in generator.normal(0, true["refit"], 2)] for _ in range(learnt[0])]
    sessions = [float(y) for y in generator.normal(0, true["session"], learnt[1] + 1)] if learnt[1] else []
    plates = [[float(y) for y in generator.normal(0, true["plate"], 2)] for _ in range(max(learnt[1], 2 * case.plate))]
    knowledge = Known(
        learned_beside_slips(ASSUMED["refit"], refits + ([] if case.points else _repeats(compared))),
        learned(ASSUMED["session"], [sessions]),
        learned_beside_slips(ASSUMED["plate"], plates),
        plates={0: 2, 1: 2} if case.plate else {},
    )
    judged = 1 if case.mean or case.copy else max(case.runners, case.points)
    found = [difference(terms, knowledge) for terms in _judged(case, compared)]
    return any(abs(one.value) > one.half_width(judged) for one in found)


def _truth(assumed: float, times: float | str, generator: Generator) -> float:
    if times == BY_CHANCE:
        return assumed * sqrt(ASSUMED_WEIGHT / float(generator.chisquare(ASSUMED_WEIGHT)))
    return assumed * float(times)


def _drawn(case: Case, true: dict[str, float], generator: Generator) -> Iterator[list[Term]]:
    if case.copy:
        return _copy(true, generator)
    return _curves(case, true, generator) if case.points else _runners(case, true, generator)


def _runners(case: Case, true: dict[str, float], generator: Generator) -> Iterator[list[Term]]:
    """The terms of each runner: nothing was gained."""
    shifts = [_shift(case, true, generator) for _ in range(2)] if case.apart else [0.0, 0.0]
    for number in range(case.runners):
        terms = []
        for side, sign in ((0, -1), (1, 1)):
            for reading in range(case.readings):
                y = shifts[side] + float(generator.normal(0, true["refit"]))
                cell = (number, side)
                terms.append(Term(y, sign / case.readings, cell, (*cell, reading), side if case.apart else 0))
        yield terms


def _curves(case: Case, true: dict[str, float], generator: Generator) -> Iterator[list[Term]]:
    """The terms of each point of two curves: what mounting and session do is common to a curve, and to its points comes
    a fifth of it each."""
    levels = [float(generator.normal(0, true["refit"])) for _ in range(2)]
    shifts = [_shift(case, true, generator) for _ in range(2)] if case.apart else [0.0, 0.0]
    for _ in range(case.points):
        flows = [levels[s] + shifts[s] + float(generator.normal(0, true["refit"] / 5)) for s in range(2)]
        yield [Term(flows[s], 2.0 * s - 1, s, s, s if case.apart else 0) for s in range(2)]


def _shift(case: Case, true: dict[str, float], generator: Generator) -> float:
    """What a session does to its readings; with a plate only what its own two readings leave of it."""
    if not case.plate:
        return float(generator.normal(0, true["session"]))
    return float(generator.normal(0, true["plate"] / sqrt(2))) + float(generator.normal(0, RESTS))


def _copy(true: dict[str, float], generator: Generator) -> Iterator[list[Term]]:
    order = ((-0.5, "a"), (0.5, "b"), (0.5, "b"), (-0.5, "a"))
    flows = generator.normal(0, true["refit"], len(order))
    yield [Term(float(y), *of, place, 0) for place, (y, of) in enumerate(zip(flows, order, strict=True))]


def _judged(case: Case, compared: list[list[Term]]) -> list[list[Term]]:
    if not case.mean:
        return compared
    share = 1 / len(compared)
    return [[Term(t.log, t.coefficient * share, t.cell, t.setup, t.session) for terms in compared for t in terms]]


def _repeats(compared: list[list[Term]]) -> list[list[float]]:
    """The readings compared teach, too: those of one cell are repeats of each other."""
    cells: dict[object, list[float]] = {}
    for terms in compared:
        for term in terms:
            cells.setdefault(term.cell, []).append(term.log)
    return [group for group in cells.values() if len(group) > 1]
