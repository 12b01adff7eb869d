"""Air gained by putting other parts at a place, many at once: between two bounds, as far as the loss model tells."""

from collections.abc import Mapping, Sequence
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

Column = tuple[Array, Array, Array]  # of a place: effective area [m²], bores at both ends [m], by variant
Columns = Mapping[int, Column]


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
    routes: Routes,
    passages: Sequence[Passage | None],
    given: Substitutes,
    draws: Sequence[Draw],
    denser: Array | None = None,
) -> list[Gains]:
    """Air gained by each candidate against the part that stands there now, at each air that the engine draws.

    Arguments: routes; passages: by place, as the path is; given: the candidates; draws: the air, at one weather; denser
    [-]: of compressors or coolers by how much denser each leaves the air, shape (draws, candidates): more air is drawn
    then, and what lies behind is colder.
    Returns: gains, one for each draw. What was read is held against what was estimated over the estimate's whole range;
    two estimates of one kind of part share their error.
    Raises: Inconsistent for arrays of unlike length; NotEnoughData where the part there now is unknown.
    Source: compressible chain of `chain`; carry-over by Borda and Carnot as in `flow.carried_areas`.
    """
    _require_like(passages, (given,))
    n = len(given.areas)
    columns = {place: _side_by_side(passages[place], given) for place in given.places}
    by = np.ones((len(draws), 3 * (1 + n)))
    if denser is not None:
        by = np.tile(np.column_stack((np.ones(len(draws)), denser)), 3)
    means = _left(routes, passages, columns, by, draws)
    alike = given.estimated & (not _read(passages, given))
    return [_gains(mean[:2] * one, mean[2], alike) for mean, one in zip(means, by, strict=True)]


def gains_of_sets(
    routes: Routes,
    passages: Sequence[Passage | None],
    groups: Sequence[Substitutes],
    picks: NDArray[np.intp],
    draws: Sequence[Draw],
) -> list[Gains]:
    """Air gained by exchanging several parts at once, against the path as it is, at each air that the engine draws.

    Arguments: routes; passages: by place, as the path is; groups: the choices for each kind of place, no place in two;
    picks, shape (sets, groups): which choice each set takes of each group, −1 for what is there now; draws: the air, at
    one weather.
    Returns: gains, one for each draw, shape (sets,). A group that a set leaves as it is has no error in it.
    Raises: Inconsistent for arrays of unlike length; NotEnoughData where a part there now is unknown.
    Source: as `gains_of`.
    """
    _require_like(passages, groups)
    if picks.ndim != 2 or picks.shape[1] != len(groups):
        raise Inconsistent("sets", "Sets and groups differ in number.", "Give one choice of each group.")
    columns = {
        place: _picked(passages[place], group, picks[:, n], _read(passages, group))
        for n, group in enumerate(groups)
        for place in group.places
    }
    means = _left(routes, passages, columns, np.ones((len(draws), 6 * len(picks))), draws)
    return [_held_against_now(mean, len(picks)) for mean in means]


def _require_like(passages: Sequence[Passage | None], groups: Sequence[Substitutes]) -> None:
    if any(len({len(column) for column in given.columns}) != 1 for given in groups):
        raise Inconsistent("candidates", "Areas and bores differ in number.", "Give one of each.")
    places = [place for given in groups for place in given.places]
    if any((passage := passages[place]) is None or passage.area is None for place in places):
        raise NotEnoughData("path", "The part there now is unknown.", "Flow it or measure its bore.")


def _read(passages: Sequence[Passage | None], given: Substitutes) -> bool:
    return any((passage := passages[place]) and passage.grade is Grade.MEASURED for place in given.places)


def _left(
    routes: Routes, passages: Sequence[Passage | None], columns: Columns, denser: Array, draws: Sequence[Draw]
) -> Array:
    """Pressure left and drops as `_ends` says, as the mean over the cylinders."""
    sums = np.zeros((len(draws), 4, denser.shape[1]))
    ratios = [engine_losses(routes, passages, draw).ratio if draw.charge else 1.0 for draw in draws]
    for number, weight in _ways(routes, passages, columns).items():
        sums += weight * _ends(routes, passages, columns, denser, draws, ratios, number)
    return sums / len(routes.cylinders)


def _held_against_now(mean: Array, sets: int) -> Gains:
    """From columns of `_picked`: the path as it is before each set, thrice."""
    now, there = mean[:2].reshape(2, 3, 2, sets).transpose(2, 0, 1, 3)
    ends = (there / now - 1).reshape(6, sets)
    return Gains(np.min(ends, axis=0), np.max(ends, axis=0), mean[2, sets : 2 * sets])


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


def _ways(routes: Routes, passages: Sequence[Passage | None], columns: Columns) -> dict[int, int]:
    """One cylinder for each way that differs, with how many are alike: their stages pass the same air alike."""
    seen: dict[tuple[object, ...], int] = {}
    found: dict[int, int] = {}
    for number in routes.cylinders:
        key = tuple(
            (passages[duct[0]], _exchange(duct[0], columns), len(stage.cylinders), len(stage.ducts))
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
    columns: Columns,
    denser: Array,
    draws: Sequence[Draw],
    ratios: Sequence[float],
    number: int,
) -> Array:
    """Pressure left on one cylinder's way with each jet lost and with the jets carried on, and the two drops, shape
    (draws, 4, variants). `denser` [-], shape (draws, variants): by how much more air is drawn, colder behind."""
    stages, variants = routes.stages[number], denser.shape[1]
    areas, exits, entries = (np.empty((len(stages), variants)) for _ in range(3))
    flows = np.empty((len(stages), len(draws)))
    each = np.array([draw.mass_flow for draw in draws]) / len(routes.cylinders)
    for index, stage in enumerate(stages):
        factor = 1.0 if stage.smoothed else drawing_factor(draws[0].strokes, stage.cylinders)
        flows[index] = each * len(stage.cylinders) * sqrt(factor)
        inverse, exits[index], entries[index] = _stage(stage.ducts, passages, columns, variants)
        with np.errstate(divide="ignore"):
            areas[index] = 1 / inverse
    both = np.hstack((areas, _carried(areas, exits, entries)))
    by = np.tile(denser, 2).reshape(-1)
    every = np.tile(both, len(draws)), np.repeat(flows, both.shape[1], axis=1) * by
    risen, temperatures = (np.repeat(one, both.shape[1], axis=1) for one in _charged(stages, draws, ratios))
    colder = np.where(temperatures > draws[0].weather.temperature, temperatures / by, temperatures)
    pressures = pressures_along(*every, draws[0].weather, risen, colder)
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
    ducts: tuple[tuple[int, ...], ...], passages: Sequence[Passage | None], columns: Columns, variants: int
) -> tuple[Array, Array, Array]:
    """Inverse effective area of a stage, and the areas of its outlet and inlet (NaN where there are several ducts)."""
    total = np.zeros(variants)
    outlet, inlet = np.full(variants, np.nan), np.full(variants, np.nan)
    for duct in ducts:
        squares = np.zeros(variants)
        for place in duct:
            own, bore_in, bore_out = columns.get(place) or _unchanged(passages[place], variants)
            squares += 1 / np.square(own)
            if len(ducts) == 1 and len(duct) == 1:
                inlet, outlet = np.pi / 4 * bore_in**2, np.pi / 4 * bore_out**2
        if len(ducts) == 1:
            return np.sqrt(squares), outlet, inlet
        with np.errstate(divide="ignore"):
            total += 1 / np.sqrt(squares)
    return 1 / total, outlet, inlet


def _unchanged(passage: Passage | None, variants: int) -> Column:
    area = np.inf if passage is None or passage.area is None else passage.area
    bore_in, bore_out = _bores(passage)
    return np.full(variants, area), np.full(variants, bore_in), np.full(variants, bore_out)


def _bores(passage: Passage | None) -> tuple[float, float]:
    return (passage.bore_in or np.nan, passage.bore_out or np.nan) if passage else (np.nan, np.nan)


def _range(passage: Passage | None) -> tuple[float, float, float]:
    """Effective area of a part that is known, as usual, at its least and at its most."""
    area = passage.area if passage and passage.area is not None else np.inf
    return area, (passage and passage.low) or area, (passage and passage.high) or area


def _side_by_side(passage: Passage | None, given: Substitutes) -> Column:
    """Three times what stands there now and each candidate: as usual, at the least and at the most area."""
    ranges = zip(_range(passage), (given.areas, given.lows, given.highs), strict=True)
    bore_in, bore_out = _bores(passage)
    return (
        np.concatenate([np.concatenate(([one], others)) for one, others in ranges]),
        np.tile(np.concatenate(([bore_in], given.bores_in)), 3),
        np.tile(np.concatenate(([bore_out], given.bores_out)), 3),
    )


def _picked(passage: Passage | None, given: Substitutes, pick: NDArray[np.intp], read: bool) -> Column:
    """Three times what stands there now and what each set puts there. Now's error is that of the set's part where both
    were estimated, its opposite where one was read, and none where the set leaves it."""
    changed = pick >= 0
    usual, least, most = _range(passage)
    shared = changed & given.estimated[pick] & (not read) if len(given.areas) else changed
    now = (
        np.full(len(pick), usual),
        np.where(changed, np.where(shared, least, most), usual),
        np.where(changed, np.where(shared, most, least), usual),
    )
    there = [_choose(column, pick, usual) for column in (given.areas, given.lows, given.highs)]
    areas = np.concatenate([half for pair in zip(now, there, strict=True) for half in pair])
    bore_in, bore_out = _bores(passage)
    return areas, _thrice(bore_in, given.bores_in, pick), _thrice(bore_out, given.bores_out, pick)


def _thrice(now: float, column: Array, pick: NDArray[np.intp]) -> Array:
    return np.tile(np.concatenate((np.full(len(pick), now), _choose(column, pick, now))), 3)


def _choose(column: Array, pick: NDArray[np.intp], now: float) -> Array:
    """Of each set's choice, or what is there now."""
    return np.where(pick >= 0, np.append(column, now)[pick], now)


def _exchange(place: int, columns: Columns) -> bytes:
    """What tells two exchanged places apart; nothing of a place that is left."""
    return columns[place][0].tobytes() if place in columns else b""


def _carried(areas: Array, exits: Array, entries: Array) -> Array:
    """`flow.carried_areas` for many candidates at once."""
    with np.errstate(divide="ignore"):
        inverse = 1 / np.square(areas)
    kept = np.square(np.maximum(1 / exits[:-1] - 1 / entries[1:], 0)) - 1 / np.square(exits[:-1])
    left = np.maximum(inverse[:-1] + np.nan_to_num(kept), LEAST_LOSS_LEFT * inverse[:-1])
    inverse[:-1] = left
    with np.errstate(divide="ignore"):
        return np.asarray(1 / np.sqrt(inverse))
