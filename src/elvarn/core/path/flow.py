"""What the whole path passes to one port, and what it loses at an engine speed: estimate, bounds, shares, pinch."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import inf, nan, sqrt

import numpy as np

from elvarn.core.errors import NotEnoughData, OutOfRange, require_positive
from elvarn.core.gas.air import STANDARD_AIR, Weather, density_ideal
from elvarn.core.gas.discharge import round_area
from elvarn.core.path.chain import Array, chain_flow, parallel_area, pressures_along, series_area
from elvarn.core.path.drawing import Strokes, drawing_factor
from elvarn.core.path.passage import Passage, volume_flow_of
from elvarn.core.path.routes import Routes, Stage

ONE_MILLIMETRE = 0.001
LEAST_LOSS_LEFT = 0.05  # of an element's loss, where the next one takes over its jet whole


@dataclass(frozen=True)
class Row:
    """One line of the ledger: an element, or those that each cylinder has for itself, taken together.

    `places` are the elements' places in the tree; `each` tells that every cylinder has its own. `area` [m²] is the
    effective area, of one of them on average; None where it is not known. `bore` [m] is the smallest known.
    """

    label: str
    kind: str
    places: tuple[int, ...]
    each: bool
    area: float | None
    bore: float | None


@dataclass(frozen=True)
class PortFlow:
    """What one port draws through the path at a depression, in m³/s of the air in front.

    `series`: losses add, each jet lost: the estimate, usually low. `carried`: each jet carried over into the next
    bore as far as Borda and Carnot allow. `weakest`: the most that the tightest element lets through: a bound. Where
    an element is `unknown`, `series` is an upper bound too, and `low` is None.
    """

    cylinder: int
    series: float
    low: float | None
    high: float
    carried: float
    weakest: float
    weakest_place: int
    shares: dict[int, float]
    unknown: tuple[int, ...]


@dataclass(frozen=True)
class Draw:
    """The air that an engine draws: mass flow [kg/s], the weather in front, and when the cylinders draw."""

    mass_flow: float
    weather: Weather
    strokes: Strokes


@dataclass(frozen=True)
class RowLoss:
    """Loss of a line of the ledger at an engine speed.

    `drop` [Pa] averaged over the engine's air, None where it is not known or the element chokes; `share` [-] of all
    known losses; `per_millimetre` [-]: air gained by a bore wider by 1 mm, as a fraction; `wanted_area` [m²]: what it
    would have to have for its share to fall to the limit asked for, None where it is below.
    """

    row: Row
    drop: float | None
    share: float | None
    per_millimetre: float | None
    wanted_area: float | None


@dataclass(frozen=True)
class EngineLosses:
    """What the path loses at an engine speed: drops [Pa] averaged over the engine's air.

    `to_plenum` ends in front of what each cylinder has for itself. `low` and `high` bracket `total`: jets carried
    over, and the passages' own ranges. `choked` are places of elements that can't pass the air:
    the drops are endless then.
    """

    rows: tuple[RowLoss, ...]
    to_plenum: float
    total: float
    low: float
    high: float
    unknown: tuple[int, ...]
    choked: tuple[int, ...]

    @property
    def pinch(self) -> RowLoss | None:
        """The line with the largest share."""
        known = [row for row in self.rows if row.share is not None]
        return max(known, key=lambda row: row.share or 0.0, default=None)

    @property
    def pinch_before_runners(self) -> RowLoss | None:
        """The largest share among what feeds all cylinders: the part in front of the manifold to spend money on."""
        known = [row for row in self.rows if row.share and not row.row.each]
        return max(known, key=lambda row: row.share or 0.0, default=None)


def rows_of(routes: Routes, passages: Sequence[Passage | None]) -> tuple[Row, ...]:
    """The lines of a ledger: an element each, those that belong to one cylinder together by their kind.

    Arguments: routes; passages: by place.
    Returns: rows, in the order of the air.
    Raises: nothing.
    Source: none.
    """
    places: dict[str, list[int]] = {}
    for place, element in enumerate(routes.elements):
        key = f"each {element.kind}" if element.cylinder is not None else f"{place}"
        places.setdefault(key, []).append(place)
    return tuple(_row(routes, passages, found) for found in places.values())


def port_flow(
    routes: Routes,
    passages: Sequence[Passage | None],
    cylinder: int,
    depression: float,
    weather: Weather = STANDARD_AIR,
) -> PortFlow:
    """What one port draws through the whole path on a bench, the other ports shut.

    Arguments: routes; passages: by place, None where nothing is known; cylinder [-]: its number; depression [Pa];
    weather in front.
    Returns: port flow.
    Raises: NotEnoughData where nothing on the way is known; OutOfRange for an unknown cylinder or a depression not
    above zero.
    Source: series rule and compressible chain of `chain`, carry-over of `carried_areas`.
    """
    stages = _stages(routes, cylinder)
    areas = _areas(stages, passages, "area")
    if not np.isfinite(areas).any():
        raise NotEnoughData("path", "Nothing on this way is measured.", "Flow an element or measure its bore.")
    unknown = _unknown(stages, passages)
    high, low = _areas(stages, passages, "high"), _areas(stages, passages, "low")
    variants = (areas, carried_areas(stages, passages, areas), carried_areas(stages, passages, high), low)
    series, carried, upper, lower = (
        chain_flow(np.hstack(variants), depression, weather) / density_ideal(weather)
    ).tolist()
    tightest = int(np.argmin(areas[:, 0]))
    weakest = volume_flow_of(float(areas[tightest, 0]), depression, weather)
    bound = volume_flow_of(float(np.min(high)), depression, weather)
    return PortFlow(
        cylinder,
        series,
        None if unknown else lower,
        max(min(upper, bound), series),
        min(carried, weakest),
        weakest,
        stages[tightest].ducts[0][0],
        _shares(stages, passages, areas),
        unknown,
    )


def engine_losses(
    routes: Routes, passages: Sequence[Passage | None], draw: Draw, share_limit: float = 0.25
) -> EngineLosses:
    """What the path loses at the air that the engine draws.

    Arguments: routes; passages: by place; draw: the air; share_limit [-]: for `wanted_area`.
    Returns: losses.
    Raises: OutOfRange for a mass flow not above zero or a limit outside 0 to 1.
    Source: compressible chain of `chain` at each stage's own flow, raised by the `drawing_factor` where no plenum
    lies between; averaged over the engine's air.
    """
    require_positive(mass_flow=draw.mass_flow)
    if not 0 < share_limit < 1:
        raise OutOfRange("share_limit", f"The limit of a share is {share_limit:g}.", "0 to 1 can be.")
    rows = rows_of(routes, passages)
    ways, flows = _engine_flows(routes, draw)
    areas = [_areas(way, passages, "area")[:, 0] for way in ways]
    wider = [row.places for row in rows if row.area and row.bore]
    found = _drops(ways, passages, areas, flows, draw.weather, wider)
    drops = _by_place(ways, passages, areas, found.base)
    total = inf if found.choked else float(np.mean([np.sum(base) for base in found.base]))
    unknown = tuple(sorted({place for way in ways for place in _unknown(way, passages)}))
    gains = dict(zip(wider, found.gains, strict=True))
    pressure = draw.weather.pressure - total
    return EngineLosses(
        rows=tuple(_row_loss(row, drops, total, gains, pressure, share_limit) for row in rows),
        to_plenum=inf if found.choked else _to_plenum(routes, ways, found.base),
        total=total,
        low=found.low,
        high=inf if unknown else found.high,
        unknown=unknown,
        choked=found.choked,
    )


def drops_to_plenum(
    routes: Routes, passages: Sequence[Passage | None], mass_flows: Array, weather: Weather, strokes: Strokes
) -> Array:
    """Drop in front of what each cylinder has for itself, at many flows at once.

    Arguments: routes; passages: by place; mass_flows [kg/s] of the engine, shape (flows,); weather in front; strokes.
    Returns: drops [Pa], shape (flows,), averaged over the engine's air; NaN where the path chokes.
    Raises: nothing.
    Source: as `engine_losses`.
    """
    total = np.zeros(len(mass_flows))
    seen: dict[tuple[Stage, ...], Array] = {}
    for number in routes.cylinders:
        front = tuple(routes.stages[number][: _front_count(routes, routes.stages[number])])
        if front not in seen:
            seen[front] = _drop_along(front, passages, mass_flows / len(routes.cylinders), weather, strokes)
        total += seen[front]
    return total / len(routes.cylinders)


def _drop_along(
    stages: Sequence[Stage], passages: Sequence[Passage | None], each: Array, weather: Weather, strokes: Strokes
) -> Array:
    if not stages:
        return np.zeros(len(each))
    factors = [1.0 if stage.smoothed else drawing_factor(strokes, stage.cylinders) for stage in stages]
    carried = np.array([len(s.cylinders) * sqrt(f) for s, f in zip(stages, factors, strict=True)])
    areas = np.broadcast_to(_areas(stages, passages, "area"), (len(stages), len(each)))
    pressures = pressures_along(areas, carried[:, None] * each[None, :], weather)
    return np.asarray(pressures[0] - pressures[-1])


def carried_areas(stages: Sequence[Stage], passages: Sequence[Passage | None], areas: Array) -> Array:
    """Effective areas of a chain in which each jet goes on into the next bore, as far as that takes it.

    Flowed alone, an element loses the whole velocity head at its exit; in front of a bore A2 only (1/A1 − 1/A2)²
    of it where the stream widens, and none where it does not.
    Arguments: stages: of one way; passages: by place; areas [m²]: effective, shape (stages, variants).
    Returns: effective areas [m²] of the same shape.
    Raises: nothing.
    Source: Borda and Carnot; at least a twentieth of each loss is left.
    """
    inverse = np.where(np.isfinite(areas), 1 / np.square(areas), 0.0)
    for index in range(len(stages) - 1):
        out, following = _only(stages[index], passages), _only(stages[index + 1], passages)
        if out is None or following is None or not out.bore_out or not following.bore_in:
            continue
        exit_area, next_area = round_area(out.bore_out), round_area(following.bore_in)
        kept = max(1 / exit_area - 1 / next_area, 0.0) ** 2 - 1 / exit_area**2
        inverse[index] = np.maximum(inverse[index] + kept, LEAST_LOSS_LEFT * inverse[index])
    with np.errstate(divide="ignore"):
        return np.asarray(1 / np.sqrt(inverse))


@dataclass(frozen=True)
class _Drops:
    base: list[Array]
    gains: list[float]
    low: float
    high: float
    choked: tuple[int, ...]


def _drops(
    ways: Sequence[Sequence[Stage]],
    passages: Sequence[Passage | None],
    areas: Sequence[Array],
    flows: Sequence[Array],
    weather: Weather,
    wider: Sequence[tuple[int, ...]],
) -> _Drops:
    """Drop of each stage on each way, the mean drop saved by widening each set of places, and the bracket of the
    mean drop, all in one pass: variant 0 is the path as it is, then one for each set, then the two ends."""
    stage_count, variants = max(map(len, ways)), 3 + len(wider)
    table = np.full((stage_count, len(ways), variants), inf)
    carried = np.zeros((stage_count, len(ways), 1))
    for number, (way, base, flow) in enumerate(zip(ways, areas, flows, strict=True)):
        table[: len(way), number, :] = base[:, None]
        carried[: len(way), number, 0] = flow
        for variant, places in enumerate(wider, start=1):
            for index, stage in enumerate(way):
                if any(place in duct for duct in stage.ducts for place in places):
                    table[index, number, variant] = _stage_area(stage, passages, "area", places)
        table[: len(way), number, -2] = carried_areas(way, passages, _areas(way, passages, "high"))[:, 0]
        table[: len(way), number, -1] = _areas(way, passages, "low")[:, 0]
    shape = (stage_count, len(ways) * variants)
    spread = np.broadcast_to(carried, table.shape).reshape(shape)
    pressures = pressures_along(table.reshape(shape), spread, weather).reshape(stage_count + 1, len(ways), variants)
    steps = pressures[:-1] - pressures[1:]
    totals = np.nan_to_num(np.mean(pressures[0] - pressures[-1], axis=0), nan=inf)
    return _Drops(
        [steps[: len(way), number, 0] for number, way in enumerate(ways)],
        [float(totals[0] - total) if total < inf else 0.0 for total in totals[1:-2]],
        float(totals[-2]),
        float(totals[-1]),
        _choked(ways, steps[:, :, 0]),
    )


def _engine_flows(routes: Routes, draw: Draw) -> tuple[list[tuple[Stage, ...]], list[Array]]:
    each = draw.mass_flow / len(routes.cylinders)
    ways = [routes.stages[number] for number in routes.cylinders]
    flows = []
    for way in ways:
        factors = [1.0 if stage.smoothed else drawing_factor(draw.strokes, stage.cylinders) for stage in way]
        flows.append(np.array([each * len(s.cylinders) * sqrt(f) for s, f in zip(way, factors, strict=True)]))
    return ways, flows


def _by_place(
    ways: Sequence[Sequence[Stage]], passages: Sequence[Passage | None], areas: Sequence[Array], drops: Sequence[Array]
) -> dict[int, float]:
    """Drop of each element, averaged over the engine's air; one that only some air passes counts for that air."""
    found: dict[int, float] = {}
    for way, base, steps in zip(ways, areas, drops, strict=True):
        for stage, area, step in zip(way, base, steps, strict=True):
            for place, part in _parts(stage, passages, float(area)).items():
                found[place] = found.get(place, 0.0) + part * float(step) / len(ways)
    return found


def _parts(stage: Stage, passages: Sequence[Passage | None], area: float) -> dict[int, float]:
    """By which part each element of a stage is to blame for its loss, weighed by the air that passes it."""
    found: dict[int, float] = {}
    for duct in stage.ducts:
        own = _duct_area(duct, passages, "area")
        of_air = 1.0 if len(stage.ducts) == 1 else own / area
        for place in duct:
            known = _pick(passages[place], "area")
            if known is not None:
                found[place] = of_air * (own / known) ** 2 if np.isfinite(known) else 0.0
    return found


def _row_loss(
    row: Row,
    drops: dict[int, float],
    total: float,
    gains: dict[tuple[int, ...], float],
    pressure: float,
    limit: float,
) -> RowLoss:
    if row.area is None or any(place not in drops for place in row.places):
        return RowLoss(row, None, None, None, None)
    drop = sum(drops[place] for place in row.places)
    if not np.isfinite(drop) or not np.isfinite(total):
        return RowLoss(row, None, None, None, None)
    share = drop / total if total > 0 else 0.0
    wanted = None
    if share > limit:
        wanted = row.area * sqrt(drop * (1 - limit) / (limit * (total - drop))) if total > drop else None
    gain = gains.get(row.places)
    return RowLoss(row, drop, share, None if gain is None else gain / pressure, wanted)


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


def _shares(stages: Sequence[Stage], passages: Sequence[Passage | None], areas: Array) -> dict[int, float]:
    whole = float(series_area(areas)[0])
    found: dict[int, float] = {}
    for stage, area in zip(stages, areas[:, 0], strict=True):
        of_whole = (whole / float(area)) ** 2 if np.isfinite(area) else 0.0
        found.update({p: part * of_whole for p, part in _parts(stage, passages, float(area)).items()})
    return found


def _stages(routes: Routes, cylinder: int) -> tuple[Stage, ...]:
    if cylinder not in routes.stages:
        raise OutOfRange("cylinder", f"Cylinder {cylinder} is not fed.", f"Known: {routes.cylinders}.")
    return routes.stages[cylinder]


def _areas(stages: Sequence[Stage], passages: Sequence[Passage | None], pick: str) -> Array:
    return np.array([[_stage_area(stage, passages, pick)] for stage in stages])


def _stage_area(stage: Stage, passages: Sequence[Passage | None], pick: str, wider: tuple[int, ...] = ()) -> float:
    if len(stage.ducts) == 1:
        return _duct_area(stage.ducts[0], passages, pick, wider)
    return float(parallel_area(np.array([_duct_area(duct, passages, pick, wider) for duct in stage.ducts])))


def _duct_area(
    duct: Sequence[int], passages: Sequence[Passage | None], pick: str, wider: tuple[int, ...] = ()
) -> float:
    inverse = 0.0
    for place in duct:
        area = _pick(passages[place], pick)
        if area is not None and area < inf:
            inverse += 1 / (area * _widening(passages[place], place in wider)) ** 2
    return 1 / sqrt(inverse) if inverse else inf


def _widening(passage: Passage | None, wider: bool) -> float:
    bore = _bore(passage)
    return ((bore + ONE_MILLIMETRE) / bore) ** 2 if wider and bore else 1.0


def _bore(passage: Passage | None) -> float | None:
    bores = [bore for bore in (passage.bore_in, passage.bore_out) if bore] if passage else []
    return min(bores, default=None)


def _pick(passage: Passage | None, pick: str) -> float | None:
    if passage is None:
        return None
    value: float | None = getattr(passage, pick)
    return value


def _unknown(stages: Sequence[Stage], passages: Sequence[Passage | None]) -> tuple[int, ...]:
    places = (place for stage in stages for duct in stage.ducts for place in duct)
    return tuple(place for place in places if _pick(passages[place], "area") is None)


def _only(stage: Stage, passages: Sequence[Passage | None]) -> Passage | None:
    if len(stage.ducts) != 1 or len(stage.ducts[0]) != 1:
        return None
    return passages[stage.ducts[0][0]]


def _row(routes: Routes, passages: Sequence[Passage | None], places: list[int]) -> Row:
    first = routes.elements[places[0]]
    known = [_pick(passages[place], "area") for place in places]
    bores = [bore for place in places if (bore := _bore(passages[place]))]
    label = first.label if len(places) == 1 else f"{first.kind.value.capitalize()}s"
    areas = [area for area in known if area is not None]
    area = nan if not areas else float(np.mean([a**-2 for a in areas])) ** -0.5 if min(areas) < inf else inf
    known_area = None if len(areas) < len(places) else area
    each = first.cylinder is not None
    return Row(label, first.kind.value, tuple(places), each, known_area, min(bores, default=None))
