"""What a pull's channels say: the drop to the manifold, where boost is reached and held, fuel for the work."""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from elvarn.core.dyno.channels import Channel, specific_fuel_consumption
from elvarn.core.dyno.pull import Curve

HELD_SHARE = 0.95  # of the highest boost: so much is held; common practice, no source
LEAST_BOOST = 10.0  # kPa above outside: below it nothing blows; common practice, no source


@dataclass(frozen=True)
class Boost:
    """The highest boost [kPa] above outside, and the speeds [rpm] at which 95 % of it is reached first, and held last;
    `to_the_end` where it is held as far as was pulled."""

    highest: float
    reached_rpm: float
    held_rpm: float
    to_the_end: bool


def boost_over(channels: Mapping[str, Channel], outside: float | None) -> Channel | None:
    """Boost above outside over engine speed.

    Arguments: channels by name: "boost_kpa", or "manifold_kpa" and "outside_kpa" [kPa]; outside [kPa] where no channel
    tells it.
    Returns: boost [kPa], or None where it is not known.
    Raises: nothing.
    Source: definition; absolute less outside.
    """
    if "boost_kpa" in channels:
        return channels["boost_kpa"]
    drop = drop_over(channels, outside)
    return None if drop is None else Channel(drop.engine_speed_rpm, -drop.values)


def drop_over(channels: Mapping[str, Channel], outside: float | None) -> Channel | None:
    """Pressure drop from outside to the manifold over engine speed.

    Arguments: channels by name: "manifold_kpa", and "outside_kpa" where it was logged [kPa]; outside [kPa], else.
    Returns: drop [kPa], or None where it is not known.
    Raises: nothing.
    Source: definition.
    """
    manifold = channels.get("manifold_kpa")
    if manifold is None:
        return None
    logged = channels.get("outside_kpa")
    if logged is not None:
        level = np.interp(manifold.engine_speed_rpm, logged.engine_speed_rpm, logged.values)
        return Channel(manifold.engine_speed_rpm, level - manifold.values)
    return None if outside is None else Channel(manifold.engine_speed_rpm, outside - manifold.values)


def boost_of(boost: Channel) -> Boost | None:
    """Where boost is reached and held.

    Arguments: boost [kPa] over engine speed [rpm].
    Returns: how high it is, where it is reached and held; None below 10 kPa.
    Raises: nothing.
    Source: common practice, no source: 95 % of the highest.
    """
    highest = float(boost.values.max())
    if highest < LEAST_BOOST:
        return None
    held = np.flatnonzero(boost.values >= HELD_SHARE * highest)
    speeds = boost.engine_speed_rpm
    return Boost(highest, float(speeds[held[0]]), float(speeds[held[-1]]), bool(held[-1] == len(speeds) - 1))


def power_at_boost(
    curve: Curve, boost: Channel, wanted: Channel, outside: float, low: float, high: float
) -> float | None:
    """Mean power of a pull over a band at another boost, by the air alone: power goes with the manifold's absolute
    pressure at each speed, charge temperature, ignition and mixture staying as they were.

    Arguments: curve; boost: what was logged with it, and wanted: the other one [kPa] above outside, both over engine
    speed; outside [kPa]; low, high [rpm].
    Returns: power [W], or None where curve and both channels do not reach over the band together.
    Raises: nothing.
    Source: derivation: indicated work in proportion to the charge's density (Heywood, Internal Combustion Engine
    Fundamentals, section 5.8); an estimate.
    """
    speeds = curve.engine_speed_rpm
    ends = [(one.engine_speed_rpm[0], one.engine_speed_rpm[-1]) for one in (boost, wanted)]
    low, high = max(low, curve.lowest, *(end[0] for end in ends)), min(high, curve.highest, *(end[1] for end in ends))
    if low >= high:
        return None
    had, has = (outside + np.interp(speeds, one.engine_speed_rpm, one.values) for one in (boost, wanted))
    factor = has / had
    return Curve(speeds, curve.torque * factor, curve.power * factor).mean_power(low, high)


def consumption_over(fuel: Channel, curve: Curve, low: float, high: float) -> float | None:
    """Fuel for the work over a band: all of the fuel by all of the work, each speed alike.

    Arguments: fuel [kg/h] over engine speed; curve as observed; low, high [rpm].
    Returns: brake specific fuel consumption [g/kWh], or None where the band was not logged.
    Raises: nothing.
    Source: definition.
    """
    low, high = max(low, curve.lowest, fuel.engine_speed_rpm[0]), min(high, curve.highest, fuel.engine_speed_rpm[-1])
    if low >= high:
        return None
    return specific_fuel_consumption(fuel.mean(low, high) / 3600, curve.mean_power(low, high))
