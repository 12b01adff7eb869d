"""What an engine loses along its path, element by element."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import inf, sqrt

import numpy as np

from elvarn.core.arrays import Array
from elvarn.core.engine.strokes import Strokes, drawing_factor, peak_over_mean
from elvarn.core.errors import require_positive
from elvarn.core.gas.air import Weather
from elvarn.core.path.areas import areas_along, carried_areas, parts_of_stage, stage_area, unknown_places
from elvarn.core.path.backsolve import SHARE
from elvarn.core.path.chain import pressures_along, steps_along
from elvarn.core.path.charge import Charge, Conditions, conditions, held_ratio
from elvarn.core.path.ledger import Row, rows_of
from elvarn.core.path.passage import Passage
from elvarn.core.path.routes import Routes, Stage


@dataclass(frozen=True)
class Draw:
    """The air that an engine draws: mass flow [kg/s], the weather in front, when the cylinders draw, and the charge of
    a boosted one."""

    mass_flow: float
    weather: Weather
    strokes: Strokes
    charge: Charge | None = None


@dataclass(frozen=True)
class RowLoss:
    """Loss of a line of the ledger at an engine speed.

    `drop` [Pa] averaged over the engine's air, None where it is not known or the element chokes; `met` [Pa] by the air
    that passes it, more where the rest goes another way; `share` [-] of all known losses; `per_millimetre` [-]: air
    gained by a bore wider by 1 mm, as a fraction; `wanted_area` [m²]: what it would have to have for its share to fall
    to the limit asked for, None where it is below.
    """

    row: Row
    drop: float | None
    met: float | None
    share: float | None
    per_millimetre: float | None
    wanted_area: float | None


@dataclass(frozen=True)
class EngineLosses:
    """What the path loses at an engine speed: drops [Pa] averaged over the engine's air.

    `to_plenum` ends in front of what each cylinder has for itself. `peak_to_plenum` and `peak` are the same two at the
    height of the strokes, each element at the most that flows through it; endless where that chokes it. `low` and
    `high` bracket `total`: jets carried over, and the passages' own ranges. `choked` are places of elements that can't
    pass the air: the drops are endless then. `end` and `end_carried` [Pa] are the pressures left behind it all, with
    each jet lost and with the jets carried on. A boosted engine's compressor makes the pressure `ratio` [-], else 1.
    """

    rows: tuple[RowLoss, ...]
    to_plenum: float
    total: float
    low: float
    high: float
    unknown: tuple[int, ...]
    choked: tuple[int, ...]
    end: float
    end_carried: float
    peak_to_plenum: float
    peak: float
    ratio: float = 1.0


def engine_losses(
    routes: Routes, passages: Sequence[Passage | None], draw: Draw, share_limit: float = 0.25
) -> EngineLosses:
    """What the path loses at the air that the engine draws.

    Arguments: routes; passages: by place; draw: the air; share_limit [-]: for `wanted_area`.
    Returns: losses.
    Raises: OutOfRange for a mass flow not above zero or a limit outside 0 to 1.
    Source: compressible chain of `chain` at each stage's own flow, raised by the `drawing_factor` where no plenum
    lies between; averaged over the engine's air. What lies behind a compressor is counted at its own pressure and
    temperature.
    """
    require_positive(mass_flow=draw.mass_flow)
    SHARE.check(share_limit)
    rows = rows_of(routes, passages)
    ways, flows, peaks = _engine_flows(routes, draw)
    areas = [areas_along(way, passages, "area")[:, 0] for way in ways]
    wider = [row.places for row in rows if row.area and row.bore]
    ratio = _ratio(routes, ways, areas, flows, draw)
    found = _drops(ways, passages, areas, (flows, peaks), draw, ratio, wider)
    drops = _by_place(ways, passages, areas, found.base)
    total = inf if found.choked else float(np.mean([np.sum(base) for base in found.base]))
    unknown = tuple(sorted({place for way in ways for place in unknown_places(way, passages)}))
    gains = dict(zip(wider, found.gains, strict=True))
    return EngineLosses(
        rows=tuple(_row_loss(row, drops, total, gains, share_limit, _part_of_air(row, ways)) for row in rows),
        to_plenum=inf if found.choked else _to_plenum(routes, ways, found.base),
        total=total,
        low=found.low,
        high=inf if unknown else found.high,
        unknown=unknown,
        choked=found.choked,
        end=found.end,
        end_carried=found.end_carried,
        peak_to_plenum=_to_plenum(routes, ways, found.peak),
        peak=float(np.mean([np.sum(steps) for steps in found.peak])),
        ratio=ratio,
    )


def drops_to_plenum(routes: Routes, passages: Sequence[Passage | None], mass_flows: Array, draw: Draw) -> Array:
    """Drop in front of what each cylinder has for itself, at many flows at once.

    Arguments: routes; passages: by place; mass_flows [kg/s] of the engine, shape (flows,); draw: weather, strokes and
    charge, whatever its own mass flow.
    Returns: drops [Pa], shape (flows,), averaged over the engine's air; NaN where the path chokes.
    Raises: nothing.
    Source: as `engine_losses`.
    """
    total = np.zeros(len(mass_flows))
    seen: dict[tuple[Stage, ...], Array] = {}
    for number in routes.cylinders:
        front = tuple(routes.stages[number][: _front_count(routes, routes.stages[number])])
        if front not in seen:
            seen[front] = _drop_along(front, passages, mass_flows / len(routes.cylinders), draw)
        total += seen[front]
    return total / len(routes.cylinders)


def _drop_along(stages: Sequence[Stage], passages: Sequence[Passage | None], each: Array, draw: Draw) -> Array:
    if not stages:
        return np.zeros(len(each))
    factors = [1.0 if stage.smoothed else drawing_factor(draw.strokes, stage.cylinders) for stage in stages]
    carried = np.array([len(s.cylinders) * sqrt(f) for s, f in zip(stages, factors, strict=True)])
    areas = np.broadcast_to(areas_along(stages, passages, "area"), (len(stages), len(each)))
    flows = carried[:, None] * each[None, :]
    charge = draw.charge
    if charge is None:
        return np.asarray(np.sum(steps_along(pressures_along(areas, flows, draw.weather)), axis=0))

    def along(ratio: Array) -> tuple[Array, Conditions]:
        at = conditions(charge, ratio, stages, draw.weather)
        return pressures_along(areas, flows, draw.weather, at.rises, at.temperatures), at

    ratio = held_ratio(charge, draw.weather, lambda guess: along(guess)[0][-1], len(each))
    pressures, at = along(ratio)
    return np.asarray(np.sum(steps_along(pressures, at.rises), axis=0))


@dataclass(frozen=True)
class _Drops:
    base: list[Array]
    peak: list[Array]
    gains: list[float]
    low: float
    high: float
    choked: tuple[int, ...]
    end: float
    end_carried: float


def _ratio(
    routes: Routes, ways: Sequence[Sequence[Stage]], areas: Sequence[Array], flows: Sequence[Array], draw: Draw
) -> float:
    """What the compressor has to make for the boost at the plenum, on average over the ways; 1 without one."""
    charge = draw.charge
    if charge is None:
        return 1.0

    def at_plenum(ratio: Array) -> Array:
        found = []
        for way, base, flow in zip(ways, areas, flows, strict=True):
            count = _front_count(routes, way) or len(way)
            at = conditions(charge, ratio, way[:count], draw.weather)
            pressures = pressures_along(base[:count, None], flow[:count, None], draw.weather, at.rises, at.temperatures)
            found.append(pressures[-1])
        return np.asarray(np.mean(found, axis=0))

    return float(held_ratio(charge, draw.weather, at_plenum, 1)[0])


def _drops(
    ways: Sequence[Sequence[Stage]],
    passages: Sequence[Passage | None],
    areas: Sequence[Array],
    flows: tuple[Sequence[Array], Sequence[Array]],
    draw: Draw,
    ratio: float,
    wider: Sequence[tuple[int, ...]],
) -> _Drops:
    """Drop of each stage on each way, the air gained by widening each set of places, and the bracket of the mean drop,
    all in one pass: variant 0 is the path as it is, then one for each set, then the path at the height of the strokes
    and the two ends. `flows`: by way, averaged for their loss, and at their height."""
    stage_count, variants = max(map(len, ways)), 4 + len(wider)
    table = np.full((stage_count, len(ways), variants), inf)
    carried = np.zeros((stage_count, len(ways), variants))
    rises = np.ones((stage_count, len(ways), 1))
    temperatures = np.full_like(rises, draw.weather.temperature)
    for number, (way, base, flow, peak) in enumerate(zip(ways, areas, *flows, strict=True)):
        table[: len(way), number, :] = base[:, None]
        carried[: len(way), number, :] = flow[:, None]
        carried[: len(way), number, -3] = peak
        if draw.charge is not None:
            at = conditions(draw.charge, np.array([ratio]), way, draw.weather)
            rises[: len(way), number], temperatures[: len(way), number] = at.rises, at.temperatures
        for variant, places in enumerate(wider, start=1):
            for index, stage in enumerate(way):
                if any(place in duct for duct in stage.ducts for place in places):
                    table[index, number, variant] = stage_area(stage, passages, "area", places)
        table[: len(way), number, -2] = carried_areas(way, passages, areas_along(way, passages, "high"))[:, 0]
        table[: len(way), number, -1] = areas_along(way, passages, "low")[:, 0]
    shape = (stage_count, len(ways) * variants)
    flat = [np.broadcast_to(one, table.shape).reshape(shape) for one in (carried, rises, temperatures)]
    pressures = pressures_along(table.reshape(shape), flat[0], draw.weather, flat[1], flat[2])
    steps = steps_along(pressures, flat[1]).reshape(stage_count, len(ways), variants)
    totals = np.nan_to_num(np.mean(np.sum(steps, axis=0), axis=0), nan=inf)
    ends = np.nan_to_num(np.mean(pressures[-1].reshape(len(ways), variants), axis=0), nan=0.0)
    return _Drops(
        [steps[: len(way), number, 0] for number, way in enumerate(ways)],
        [np.nan_to_num(steps[: len(way), number, -3], nan=inf) for number, way in enumerate(ways)],
        [float(end / ends[0] - 1) if end and ends[0] else 0.0 for end in ends[1:-3]],
        float(totals[-2]),
        float(totals[-1]),
        _choked(ways, steps[:, :, 0]),
        float(ends[0]),
        float(ends[-2]),
    )


def _engine_flows(routes: Routes, draw: Draw) -> tuple[list[tuple[Stage, ...]], list[Array], list[Array]]:
    """The ways, and the flow through each stage: the steady one that loses the same, and the most in the cycle."""
    each = draw.mass_flow / len(routes.cylinders)
    ways = [routes.stages[number] for number in routes.cylinders]
    flows, peaks = [], []
    for way in ways:
        steady = np.array([each * len(stage.cylinders) for stage in way])
        flows.append(steady * [1.0 if s.smoothed else sqrt(drawing_factor(draw.strokes, s.cylinders)) for s in way])
        peaks.append(steady * [1.0 if s.smoothed else peak_over_mean(draw.strokes, s.cylinders) for s in way])
    return ways, flows, peaks


def _by_place(
    ways: Sequence[Sequence[Stage]], passages: Sequence[Passage | None], areas: Sequence[Array], drops: Sequence[Array]
) -> dict[int, float]:
    """Drop of each element, averaged over the engine's air; one that only some air passes counts for that air."""
    found: dict[int, float] = {}
    for way, base, steps in zip(ways, areas, drops, strict=True):
        for stage, area, step in zip(way, base, steps, strict=True):
            for place, part in parts_of_stage(stage, passages, float(area)).items():
                found[place] = found.get(place, 0.0) + part * float(step) / len(ways)
    return found


def _row_loss(
    row: Row,
    drops: dict[int, float],
    total: float,
    gains: dict[tuple[int, ...], float],
    limit: float,
    part_of_air: float,
) -> RowLoss:
    if row.area is None or any(place not in drops for place in row.places):
        return RowLoss(row, None, None, None, None, None)
    drop = sum(drops[place] for place in row.places)
    if not np.isfinite(drop) or not np.isfinite(total):
        return RowLoss(row, None, None, None, None, None)
    share = drop / total if total > 0 else 0.0
    wanted = None
    if share > limit:
        wanted = row.area * sqrt(drop * (1 - limit) / (limit * (total - drop))) if total > drop else None
    return RowLoss(row, drop, drop / part_of_air, share, gains.get(row.places), wanted)


def _part_of_air(row: Row, ways: Sequence[Sequence[Stage]]) -> float:
    """The part of the cylinders whose air passes a line of the ledger; ducts side by side pass the same air."""
    mine = set(row.places)
    through = [any(mine.intersection(duct) for stage in way for duct in stage.ducts) for way in ways]
    return sum(through) / len(ways) or 1.0


def _to_plenum(routes: Routes, ways: Sequence[Sequence[Stage]], drops: Sequence[Array]) -> float:
    """Mean drop in front of the first element that a cylinder has for itself."""
    found = []
    for way, steps in zip(ways, drops, strict=True):
        found.append(float(np.sum(steps[: _front_count(routes, way)])))
    return float(np.mean(found))


def _front_count(routes: Routes, way: Sequence[Stage]) -> int:
    """How many stages lie in front of the first that a cylinder has for itself."""
    own = [any(routes.elements[place].cylinder is not None for place in stage.ducts[0]) for stage in way]
    return own.index(True) if True in own else len(way)


def _choked(ways: Sequence[Sequence[Stage]], steps: Array) -> tuple[int, ...]:
    places = set()
    for number, way in enumerate(ways):
        lost = np.flatnonzero(np.isnan(steps[: len(way), number]))
        if len(lost):
            places.add(way[int(lost[0])].ducts[0][0])
    return tuple(sorted(places))
