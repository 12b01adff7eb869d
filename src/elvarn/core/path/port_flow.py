"""What one port passes on the bench, and how its drop divides over the elements."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from elvarn.core.arrays import Array
from elvarn.core.errors import NotEnoughData, OutOfRange
from elvarn.core.gas.air import STANDARD_AIR, Weather, density_ideal
from elvarn.core.gas.discharge import volume_flow_of
from elvarn.core.path.areas import areas_along, carried_areas, parts_of_stage, unknown_places
from elvarn.core.path.chain import chain_flow, series_area
from elvarn.core.path.passage import Passage
from elvarn.core.path.routes import Routes, Stage


@dataclass(frozen=True)
class PortFlow:
    """What one port draws through the path at a depression, in m³/s of the air in front.

    `series`: losses add, each jet lost, the air expanding: the estimate, usually low. `by_rule`: the same by the rule
    of thumb that 1/Q² adds up. `carried`: each jet carried over into the next
    bore as far as Borda and Carnot allow. `weakest`: the most that the tightest element lets through: a bound. Where
    an element is `unknown`, `series` is an upper bound too, and `low` is None.
    """

    cylinder: int
    series: float
    by_rule: float
    low: float | None
    high: float
    carried: float
    weakest: float
    weakest_place: int
    shares: dict[int, float]
    unknown: tuple[int, ...]


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
    areas = areas_along(stages, passages, "area")
    if not np.isfinite(areas).any():
        raise NotEnoughData("path", "Nothing on this way is measured.", "Flow a component or measure its bore.")
    unknown = unknown_places(stages, passages)
    high, low = areas_along(stages, passages, "high"), areas_along(stages, passages, "low")
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
        volume_flow_of(float(series_area(areas)[0]), depression, weather),
        None if unknown else lower,
        max(min(upper, bound), series),
        min(carried, weakest),
        weakest,
        stages[tightest].ducts[0][0],
        _shares(stages, passages, areas),
        unknown,
    )


def _shares(stages: Sequence[Stage], passages: Sequence[Passage | None], areas: Array) -> dict[int, float]:
    whole = float(series_area(areas)[0])
    found: dict[int, float] = {}
    for stage, area in zip(stages, areas[:, 0], strict=True):
        of_whole = (whole / float(area)) ** 2 if np.isfinite(area) else 0.0
        found.update({p: part * of_whole for p, part in parts_of_stage(stage, passages, float(area)).items()})
    return found


def _stages(routes: Routes, cylinder: int) -> tuple[Stage, ...]:
    if cylinder not in routes.stages:
        raise OutOfRange("cylinder", f"Cylinder {cylinder} is not fed.", f"Known: {routes.cylinders}.")
    return routes.stages[cylinder]
