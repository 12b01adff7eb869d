"""Room between parts that meet: what is needed, and whether there is enough."""

from enum import StrEnum
from types import MappingProxyType

from elvarn.core.errors import OutOfRange, require_positive


class Gauge(StrEnum):
    """How room was measured; each reads to so much [m]."""

    CLAY = "clay"
    FEELER = "feeler"
    DROP = "drop"


READS_TO = MappingProxyType({Gauge.CLAY: 0.0003, Gauge.FEELER: 0.00005, Gauge.DROP: 0.0005})  # m; choice, no source


class Meets(StrEnum):
    """How two parts stand to each other."""

    FIXED = "both on the engine"
    BODY = "engine against body"
    HOT = "beside something hot"
    MOVING = "beside something that moves"


# m: common practice, no source; a maker's figure goes before it
NEEDED = MappingProxyType({Meets.FIXED: 0.002, Meets.BODY: 0.012, Meets.HOT: 0.025, Meets.MOVING: 0.006})


def lacking(measured: float, needed: float, gauge: Gauge, rocks: float = 0.0) -> float:
    """How much room is lacking, with what the gauge may be out.

    Arguments: measured [m] at rest, needed [m], gauge; rocks [m]: how far the engine comes nearer when it rocks;
    scalars.
    Returns: lack [m], 0 or below where there is enough.
    Raises: OutOfRange for a negative room or rocking, or a need that is not above zero.
    Source: definition; interval of the gauge.
    """
    require_positive(needed=needed)
    if measured < 0 or rocks < 0:
        worse = "measured" if measured < 0 else "rocks"
        raise OutOfRange(worse, f"{1000 * min(measured, rocks):g} mm can't be.", "Enter 0 where they touch.")
    return needed - (measured - READS_TO[gauge] - rocks)
