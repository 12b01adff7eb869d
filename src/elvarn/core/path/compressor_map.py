"""A compressor's map: its efficiency over corrected flow and pressure ratio, and whether a point lies on it."""

from dataclasses import dataclass
from functools import cached_property
from math import sqrt
from typing import Any

import numpy as np

from elvarn.core.arrays import Array
from elvarn.core.errors import Inconsistent, NotEnoughData
from elvarn.core.gas.air import Weather

REFERENCE = Weather(
    298.15, 100e3, 0.0
)  # of the corrected flow, unless the map says otherwise; common practice, no source
FEWEST = 6  # points; choice, no source


@dataclass(frozen=True)
class CompressorMap:
    """Points of a map: corrected flow [kg/s], pressure ratio [-] and isentropic efficiency [-], each shape (n,)."""

    flows: Array
    ratios: Array
    efficiencies: Array

    def __post_init__(self) -> None:
        if not len(self.flows) == len(self.ratios) == len(self.efficiencies):
            raise Inconsistent("map", "Flows, ratios and efficiencies differ in number.", "Give one of each a point.")
        if len(self.flows) < FEWEST:
            raise NotEnoughData("map", f"The map holds {len(self.flows)} points.", f"Give {FEWEST} or more.")

    @cached_property
    def _surface(self) -> Any:
        from scipy.interpolate import LinearNDInterpolator  # heavy: only where a compressor has a map

        points = np.column_stack((self.flows / np.ptp(self.flows), self.ratios / np.ptp(self.ratios)))
        return LinearNDInterpolator(points, self.efficiencies)

    def efficiency(self, flow: float, ratio: float) -> float | None:
        """Efficiency at a point of the map.

        Arguments: flow [kg/s], corrected; ratio [-]; scalars.
        Returns: efficiency [-], None outside of what the map covers.
        Raises: nothing.
        Source: definition: linear between the points, over their triangulation (SciPy's LinearNDInterpolator).
        """
        found = float(self._surface(flow / np.ptp(self.flows), ratio / np.ptp(self.ratios)))
        return found if np.isfinite(found) else None


def corrected_flow(mass_flow: float, weather: Weather) -> float:
    """Flow as a compressor's map counts it.

    Arguments: mass_flow [kg/s]; weather in front of the compressor; scalars.
    Returns: flow [kg/s] at 25 °C and 100 kPa.
    Raises: nothing.
    Source: Heywood, Internal Combustion Engine Fundamentals, section 6.8: m √(T/T₀)/(p/p₀).
    """
    at = sqrt(weather.temperature / REFERENCE.temperature)
    return mass_flow * at / (weather.pressure / REFERENCE.pressure)
