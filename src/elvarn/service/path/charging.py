"""What another compressor or cooler makes of the air, at the ratio that the path takes now."""

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from elvarn.core.arrays import Array
from elvarn.core.path.charge import COOLING, EFFICIENCY, Charge, denser_air
from elvarn.core.path.conflict import Conflict, Remedy, Severity
from elvarn.core.path.engine_losses import Draw, engine_losses
from elvarn.core.path.unchecked import Unchecked
from elvarn.service.record.part import PartFacts
from elvarn.service.record.places import PlaceInPath
from elvarn.service.record.solved import (
    CHARGING,
    COMPRESSOR,
    SolvedPath,
    compressor_maps,
    least_stated,
    mapped_efficiency,
)

OTHER_COMPRESSOR = Remedy("Choose a compressor that can, or less boost")


def denser_by(path: SolvedPath, place: PlaceInPath, facts: Sequence[PartFacts], draws: Sequence[Draw]) -> Array | None:
    """Air that fills by its temperature with each compressor or cooler at the place, over that with the one there now,
    shape (draws, parts); NaN where one of the two isn't stated. None for other kinds of part."""
    if place.kind not in CHARGING:
        return None
    ratios = [engine_losses(path.routes, path.passages, draw).ratio for draw in draws]
    pairs = list(zip(draws, ratios, strict=True))
    now = [stated_charge(place.kind, path.known, *pair) for pair in pairs]
    rows = []
    for one in facts:
        known = [one if at in place.places else there for at, there in enumerate(path.known)]
        other = [stated_charge(place.kind, known, *pair) for pair in pairs]
        rows.append([_denser(a, b, *pair) for a, b, pair in zip(now, other, pairs, strict=True)])
    return np.array(rows, dtype=float).reshape(len(facts), len(draws)).T


def stated_charge(kind: str, known: Sequence[PartFacts | None], draw: Draw, ratio: float) -> Charge | None:
    """The charge as these parts make it; None where the part of this kind does not say what it makes of the air."""
    if draw.charge is None:
        return None
    if kind != COMPRESSOR:
        cooling = least_stated(known, "cooling_percent")
        return None if cooling is None else replace(draw.charge, cooling=COOLING.nearest(cooling / 100))
    efficiency = mapped_efficiency(known, draw, ratio)
    if efficiency is None and not compressor_maps(known):
        stated = least_stated(known, "efficiency_percent")
        efficiency = None if stated is None else stated / 100
    return None if efficiency is None else replace(draw.charge, efficiency=EFFICIENCY.nearest(efficiency))


def against_ratio(path: SolvedPath, facts: PartFacts) -> tuple[tuple[Conflict, ...], tuple[Unchecked, ...]]:
    """Whether a compressor can make the ratio that the path takes, or nobody said so."""
    ratio = path.losses.ratio if path.losses else 1.0
    if facts.part.kind != COMPRESSOR or not np.isfinite(ratio) or ratio <= 1:
        return (), ()
    limit, points = facts.features.ratio_limit, facts.features.map_points
    most = limit if limit is not None else max((point.ratio for point in points), default=None)
    if most is None:
        return (), (Unchecked("the highest pressure ratio", decides=True),)
    if most >= ratio:
        return (), ()
    text = f"The path takes {ratio:.2f} to 1 at {path.rpm} rpm; it makes {most:g}."
    return (Conflict("ratio_limit", Severity.HARD, text, OTHER_COMPRESSOR),), ()


def _denser(now: Charge | None, other: Charge | None, draw: Draw, ratio: float) -> float:
    if now is None or other is None or not np.isfinite(ratio):
        return np.nan
    return float(denser_air(now, other, np.array([ratio]), draw.weather.temperature)[0])
