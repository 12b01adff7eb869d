"""Air gained by putting other parts at a place, many at once: between two bounds, as far as the loss model tells."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt
from typing import Any

import numpy as np
from numpy.typing import NDArray

from elvarn.core.arrays import Array
from elvarn.core.engine.strokes import drawing_factor
from elvarn.core.errors import Inconsistent, NotEnoughData
from elvarn.core.finding import Grade
from elvarn.core.path.areas import LEAST_LOSS_LEFT
from elvarn.core.path.chain import pressures_along, steps_along
from elvarn.core.path.charge import conditions
from elvarn.core.path.engine_losses import Draw, engine_losses
from elvarn.core.path.passage import Passage
from elvarn.core.path.routes import Routes, Stage


@dataclass(frozen=True)
class Substitutes:
    """Candidates for one kind of place: effective area [m²] with its range and the bores [m] at both ends, each shape
    (candidates,), NaN where unknown; `estimated`, of the same shape, where the area follows from geometry. The same
    candidate stands at each of `places`: a manifold's runners are exchanged together."""

    places: tuple[int, ...]
    areas: Array
    lows: Array
    highs: Array
    estimated: NDArray[np.bool_]
    bores_in: Array
    bores_out: Array

    @property
    def columns(self) -> tuple[NDArray[Any], ...]:
        return self.areas, self.lows, self.highs, self.estimated, self.bores_in, self.bores_out


@dataclass(frozen=True)
class Gains:
    """Air gained as a fraction, shape (candidates,): `low` and `high` over jets that carry on or are lost, and over
    what the sources of an estimate differ by; NaN where the loss model can't tell. `drops` [Pa] up to the
    plenum or ports."""

    low: Array
    high: Array
    drops: Array


def gains_of(
    routes: Routes, passages: Sequence[Passage | None], given: Substitutes, draws: Sequence[Draw]
) -> list[Gains]:
    """Air gained by each candidate against the part that stands there now, at each air that the engine draws.

    Arguments: routes; passages: by place, as the path is; given: the candidates; draws: the air, at one weather.
    Returns: gains, one for each draw. What was read is held against what was estimated over the estimate's whole range;
    two estimates of one kind of part share their error.
    Raises: Inconsistent for arrays of unlike length; NotEnoughData where the part there now is unknown.
    Source: compressible chain of `chain`; carry-over by Borda and Carnot as in `flow.carried_areas`.
    """
    if len({len(column) for column in given.columns}) != 1:
        raise Inconsistent("candidates", "Areas and bores differ in number.", "Give one of each.")
    if any((passage := passages[place]) is None or passage.area is None for place in given.places):
        raise NotEnoughData("path", "The part there now is unknown.", "Flow it or measure its bore.")
    sums = np.zeros((len(draws), 4, 3 * (1 + len(given.areas))))
    ratios = [engine_losses(routes, passages, draw).ratio if draw.charge else 1.0 for draw in draws]
    for number, weight in _ways(routes, passages, given).items():
        sums += weight * _ends(routes, passages, given, draws, ratios, number)
    means = sums / len(routes.cylinders)
    read = any((passage := passages[place]) and passage.grade is Grade.MEASURED for place in given.places)
    alike = given.estimated & (not read)
    return [_gains(mean[:2], mean[2], alike) for mean in means]


def _gains(left: Array, drops: Array, alike: NDArray[np.bool_]) -> Gains:
    """From pressures that are left [Pa], shape (2, 3 × (1 + candidates)): each jet lost, and the jets carried on; of
    the part there now and the candidates as usual, at their least and at their most area; and the drops [Pa] with each
    jet lost. `alike`: whose error the part there now shares."""
    usual, least, most = np.split(left, 3, axis=1)
    pairs = [(usual[:, :1], usual[:, 1:])]
    pairs += [(np.where(alike, least[:, :1], most[:, :1]), least[:, 1:])]
    pairs += [(np.where(alike, most[:, :1], least[:, :1]), most[:, 1:])]
    ends = np.vstack([there / now - 1 for now, there in pairs])
    return Gains(np.min(ends, axis=0), np.max(ends, axis=0), drops[1 : 1 + len(alike)])


def _ways(routes: Routes, passages: Sequence[Passage | None], given: Substitutes) -> dict[int, int]:
    """One cylinder for each way that differs, with how many are alike: their stages pass the same air alike."""
    seen: dict[tuple[object, ...], int] = {}
    found: dict[int, int] = {}
    for number in routes.cylinders:
        key = tuple(
            (passages[duct[0]], duct[0] in given.places, len(stage.cylinders), len(stage.ducts))
            if len(stage.ducts) == 1 and len(duct) == 1
            else stage
            for stage in routes.stages[number]
            for duct in stage.ducts[:1]
        )
        first = seen.setdefault(key, number)
        found[first] = found.get(first, 0) + 1
    return found


def _ends(
    routes: Routes,
    passages: Sequence[Passage | None],
    given: Substitutes,
    draws: Sequence[Draw],
    ratios: Sequence[float],
    number: int,
) -> Array:
    """Pressure left on one cylinder's way with each jet lost and with the jets carried on, and the two drops, shape
    (draws, 4, variants); three times the path as it is and with each candidate: as usual, at the least and at the most
    area of what is exchanged."""
    stages = routes.stages[number]
    variants = 3 * (1 + len(given.areas))
    areas, exits, entries = (np.empty((len(stages), variants)) for _ in range(3))
    flows = np.empty((len(stages), len(draws)))
    each = np.array([draw.mass_flow for draw in draws]) / len(routes.cylinders)
    for index, stage in enumerate(stages):
        factor = 1.0 if stage.smoothed else drawing_factor(draws[0].strokes, stage.cylinders)
        flows[index] = each * len(stage.cylinders) * sqrt(factor)
        inverse, exits[index], entries[index] = _stage(stage.ducts, passages, given, variants)
        with np.errstate(divide="ignore"):
            areas[index] = 1 / inverse
    both = np.hstack((areas, _carried(areas, exits, entries)))
    every = np.tile(both, len(draws)), np.repeat(flows, both.shape[1], axis=1)
    rises, temperatures = _charged(stages, draws, ratios)
    risen = np.repeat(rises, both.shape[1], axis=1)
    pressures = pressures_along(*every, draws[0].weather, risen, np.repeat(temperatures, both.shape[1], axis=1))
    drops = np.sum(steps_along(pressures, risen), axis=0)
    found = (one.reshape(len(draws), 2, variants) for one in (pressures[-1], drops))
    return np.concatenate(list(found), axis=1)


def _charged(stages: Sequence[Stage], draws: Sequence[Draw], ratios: Sequence[float]) -> tuple[Array, Array]:
    """Rises and temperatures by stage and draw."""
    rises = np.ones((len(stages), len(draws)))
    temperatures = np.full((len(stages), len(draws)), draws[0].weather.temperature)
    for index, (draw, ratio) in enumerate(zip(draws, ratios, strict=True)):
        if draw.charge is not None:
            at = conditions(draw.charge, np.array([ratio]), stages, draw.weather)
            rises[:, index], temperatures[:, index] = at.rises[:, 0], at.temperatures[:, 0]
    return rises, temperatures


def _stage(
    ducts: tuple[tuple[int, ...], ...], passages: Sequence[Passage | None], given: Substitutes, variants: int
) -> tuple[Array, Array, Array]:
    """Inverse effective area of a stage, and the areas of its outlet and inlet (NaN where there are several ducts)."""
    total = np.zeros(variants)
    outlet, inlet = np.full(variants, np.nan), np.full(variants, np.nan)
    for duct in ducts:
        squares = np.zeros(variants)
        for place in duct:
            own, bore_in, bore_out = _element(passages[place], place in given.places, given, variants)
            squares += 1 / np.square(own)
            if len(ducts) == 1 and len(duct) == 1:
                inlet, outlet = np.pi / 4 * bore_in**2, np.pi / 4 * bore_out**2
        if len(ducts) == 1:
            return np.sqrt(squares), outlet, inlet
        with np.errstate(divide="ignore"):
            total += 1 / np.sqrt(squares)
    return 1 / total, outlet, inlet


def _element(passage: Passage | None, exchanged: bool, given: Substitutes, variants: int) -> tuple[Array, Array, Array]:
    area = np.inf if passage is None or passage.area is None else passage.area
    bore_in = passage.bore_in if passage and passage.bore_in else np.nan
    bore_out = passage.bore_out if passage and passage.bore_out else np.nan
    if not exchanged or passage is None:
        return np.full(variants, area), np.full(variants, bore_in), np.full(variants, bore_out)
    now = (area, passage.low or area, passage.high or area)
    ranges = zip(now, (given.areas, given.lows, given.highs), strict=True)
    return (
        np.concatenate([np.concatenate(([one], others)) for one, others in ranges]),
        np.tile(np.concatenate(([bore_in], given.bores_in)), 3),
        np.tile(np.concatenate(([bore_out], given.bores_out)), 3),
    )


def _carried(areas: Array, exits: Array, entries: Array) -> Array:
    """`flow.carried_areas` for many candidates at once."""
    with np.errstate(divide="ignore"):
        inverse = 1 / np.square(areas)
    kept = np.square(np.maximum(1 / exits[:-1] - 1 / entries[1:], 0)) - 1 / np.square(exits[:-1])
    left = np.maximum(inverse[:-1] + np.nan_to_num(kept), LEAST_LOSS_LEFT * inverse[:-1])
    inverse[:-1] = left
    with np.errstate(divide="ignore"):
        return np.asarray(1 / np.sqrt(inverse))
