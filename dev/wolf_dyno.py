"""How often the rule cries wolf on the dyno: designs that gain nothing are drawn, what is called real is counted."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import exp, sqrt

import numpy as np

from dev.wolf import BY_CHANCE, LEARNED, Generator
from elvarn.core.dyno.assumed import DAY, MOUNT, PULL
from elvarn.core.dyno.compare import compare, over_band
from elvarn.core.dyno.learned import DynoKnown, learned_dyno
from elvarn.core.dyno.pairing import Pull
from elvarn.core.dyno.pull import clean_pull
from elvarn.core.statistics.scatter import ASSUMED_WEIGHT

TRUE = {"pull": PULL, "mount": MOUNT, "day": DAY}  # % of reading
FLAT = clean_pull(np.linspace(3000, 7000, 9), np.full(9, 200.0))


@dataclass(frozen=True)
class DynoCase:
    """Mounts in the order in which they are pulled: the design (0 is stock), the day, and how many pulls; and by how
    much [%] the dyno drifts from the first mount of a day to the last. `humidity` [%]: half-range that is not known."""

    name: str
    mounts: tuple[tuple[int, int, int], ...]
    drift: float = 0.0
    humidity: float = 0.0

    @property
    def designs(self) -> int:
        return max(design for design, _, _ in self.mounts)


DYNO_CASES = (
    DynoCase("dyno, 3 against 3, one day", ((0, 1, 3), (1, 1, 3))),
    DynoCase("dyno, once each, one day", ((0, 1, 1), (1, 1, 1))),
    DynoCase("dyno, 3 against 3, another day", ((0, 1, 3), (1, 2, 3))),
    DynoCase("dyno, another day, humidity not known", ((0, 1, 3), (1, 2, 3)), humidity=0.7),
    DynoCase("dyno, stock again at the end, drift 1 %", ((0, 1, 2), (1, 1, 3), (0, 1, 2)), drift=1.0),
    DynoCase("dyno, two days that both share", ((0, 1, 3), (1, 1, 3), (0, 2, 3), (1, 2, 3))),
    DynoCase("dyno, 4 designs against one stock", ((0, 1, 3), (1, 1, 3), (2, 1, 3), (3, 1, 3), (4, 1, 3))),
)


def dyno_alarms(case: DynoCase, times: float | str, known: str, draws: int, seed: int) -> float:
    """The share of days on which a design that gains nothing is called real. `times` and `known` as for the bench."""
    generator = np.random.default_rng(seed)
    return sum(_cries_wolf(case, times, LEARNED[known], generator) for _ in range(draws)) / draws


def _cries_wolf(case: DynoCase, times: float | str, learnt: tuple[int, int], generator: Generator) -> bool:
    true = {name: _truth(assumed, times, generator) for name, assumed in TRUE.items()}
    designs = _drawn(case, true, generator)
    known = learned_dyno([*_earlier(true, learnt, generator), *designs.values()])
    return any(_is_real(designs[0], designs[n], known, case.designs) for n in range(1, case.designs + 1))


def _is_real(stock: Sequence[Pull], other: Sequence[Pull], known: DynoKnown, designs: int) -> bool:
    found = compare(stock, other, known, designs)
    return found.traces is not None and over_band(found).power.verdict.real


def _drawn(case: DynoCase, true: dict[str, float], generator: Generator) -> dict[int, list[Pull]]:
    found: dict[int, list[Pull]] = {}
    shifts = {day: _day(case, true, generator) for _, day, _ in case.mounts}
    steps = max(len(case.mounts) - 1, 1)
    for place, (design, day, pulls) in enumerate(case.mounts):
        level = shifts[day] + case.drift * place / steps + float(generator.normal(0, true["mount"]))
        for _ in range(pulls):
            found.setdefault(design, []).append(_pull(level, true, (day, place), generator, case.humidity))
    return found


def _day(case: DynoCase, true: dict[str, float], generator: Generator) -> float:
    return float(generator.normal(0, true["day"])) + float(generator.uniform(-case.humidity, case.humidity))


def _earlier(true: dict[str, float], learnt: tuple[int, int], generator: Generator) -> list[list[Pull]]:
    """Repeats of before: pairs of pulls, a thing that was mounted anew each time, and one pulled day after day."""
    pairs = [[_pull(0.0, true, (f"p{n}", 0), generator) for _ in range(2)] for n in range(learnt[0])]
    mounts = [
        _pull(float(generator.normal(0, true["mount"])), {"pull": 0.0}, ("m", n), generator)
        for n in range(learnt[1] + 1 if learnt[1] else 0)
    ]
    days = [
        _pull(float(generator.normal(0, true["day"])), {"pull": 0.0}, (f"d{n}", 0), generator)
        for n in range(learnt[1] + 1 if learnt[1] else 0)
    ]
    return [thing for thing in (*pairs, mounts, days) if thing]


def _pull(
    level: float, true: dict[str, float], at: tuple[object, int], generator: Generator, humidity: float = 0.0
) -> Pull:
    log = level + float(generator.normal(0, true["pull"]))
    return Pull(FLAT.times(exp(log / 100)), at[0], at[1], humidity=humidity)


def _truth(assumed: float, times: float | str, generator: Generator) -> float:
    if times == BY_CHANCE:
        return assumed * sqrt(ASSUMED_WEIGHT / float(generator.chisquare(ASSUMED_WEIGHT)))
    return assumed * float(times)
