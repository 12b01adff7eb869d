"""What was logged beside torque, as a curve over engine speed: manifold pressure, mixture, duty, fuel, air."""

from dataclasses import dataclass

import numpy as np

from elvarn.core.arrays import Array
from elvarn.core.errors import Inconsistent


@dataclass(frozen=True)
class ChannelKind:
    """What is logged beside speed and torque: what it is called, and the unit in which it is kept."""

    label: str
    unit: str


CHANNELS = {
    "time_s": ChannelKind("time", "s"),
    "boost_kpa": ChannelKind("boost above outside", "kPa"),
    "manifold_kpa": ChannelKind("manifold pressure", "kPa"),
    "mixture_lambda": ChannelKind("mixture", "lambda"),
    "duty_percent": ChannelKind("injector duty", "%"),
    "retard_deg": ChannelKind("ignition taken back for knock", "°"),
    "throttle_percent": ChannelKind("throttle", "%"),
    "coolant_c": ChannelKind("coolant temperature", "°C"),
    "oil_c": ChannelKind("oil temperature", "°C"),
    "oil_kpa": ChannelKind("oil pressure", "kPa"),
    "outside_kpa": ChannelKind("outside pressure", "kPa"),
    "air_c": ChannelKind("inlet air temperature", "°C"),
    "humidity_percent": ChannelKind("humidity", "%"),
    "air_kg_h": ChannelKind("air mass flow", "kg/h"),
    "fuel_kg_h": ChannelKind("fuel flow", "kg/h"),
}
BIN_RPM = 100.0  # samples within are averaged; common practice, no source
FEWEST = 5  # speeds of a channel; common practice, no source


@dataclass(frozen=True)
class Channel:
    """A channel over rising engine speed [rpm], in its own unit, both shape (n,)."""

    engine_speed_rpm: Array
    values: Array

    def at(self, engine_speed_rpm: float) -> float | None:
        """The value at a speed, or None outside of what was logged: half a step beyond its first and last mean."""
        if not self.engine_speed_rpm[0] - BIN_RPM / 2 <= engine_speed_rpm <= self.engine_speed_rpm[-1] + BIN_RPM / 2:
            return None
        return float(np.interp(engine_speed_rpm, self.engine_speed_rpm, self.values))

    def highest(self, low: float, high: float) -> tuple[float, float]:
        """The highest value between two speeds, and its speed [rpm]."""
        return self._extreme(low, high, 1)

    def lowest(self, low: float, high: float) -> tuple[float, float]:
        """The lowest value between two speeds, and its speed [rpm]."""
        return self._extreme(low, high, -1)

    def mean(self, low: float, high: float) -> float:
        """Mean between two speeds, as far as was logged; not a number where nothing was."""
        low, high = max(low, float(self.engine_speed_rpm[0])), min(high, float(self.engine_speed_rpm[-1]))
        if low >= high:
            return float("nan")
        inside = self.engine_speed_rpm[(self.engine_speed_rpm > low) & (self.engine_speed_rpm < high)]
        speeds = np.concatenate(([low], inside, [high]))
        return float(np.trapezoid(np.interp(speeds, self.engine_speed_rpm, self.values), speeds) / (high - low))

    def _extreme(self, low: float, high: float, sign: int) -> tuple[float, float]:
        inside = np.flatnonzero((self.engine_speed_rpm >= low) & (self.engine_speed_rpm <= high))
        places = inside if len(inside) else np.arange(len(self.values))
        at = places[int((sign * self.values[places]).argmax())]
        return float(self.values[at]), float(self.engine_speed_rpm[at])


def channel_of(engine_speed_rpm: Array, values: Array) -> Channel | None:
    """A channel of a sweep as a curve: samples are averaged within steps of 100 rpm, so that one alone is no extreme.

    Arguments: engine_speed_rpm [rpm] and values [any unit] of the sweep, shape (n,), NaN where nothing was logged.
    Returns: the curve, or None with fewer than 5 steps.
    Raises: Inconsistent for unlike lengths.
    Source: common practice, no source.
    """
    if len(engine_speed_rpm) != len(values):
        raise Inconsistent("channel", f"{len(engine_speed_rpm)} speeds, {len(values)} values.", "Give as many of both.")
    known = np.isfinite(engine_speed_rpm) & np.isfinite(values)
    steps = np.round(engine_speed_rpm[known] / BIN_RPM)
    distinct, place, count = np.unique(steps, return_inverse=True, return_counts=True)
    if len(distinct) < FEWEST:
        return None
    speeds = np.bincount(place, weights=engine_speed_rpm[known]) / count
    return Channel(speeds, np.bincount(place, weights=values[known]) / count)


def specific_fuel_consumption(fuel_flow: float, power: float) -> float:
    """Fuel for the work that it does.

    Arguments: fuel_flow [kg/s] and power [W], scalars.
    Returns: brake specific fuel consumption [g/kWh]; not a number without power.
    Raises: nothing.
    Source: definition.
    """
    return fuel_flow / power * 3.6e9 if power > 0 else float("nan")
