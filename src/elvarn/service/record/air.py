"""Air as it is stored beside readings, made into weather."""

from typing import Protocol

from elvarn.core.constants import ZERO_CELSIUS
from elvarn.core.errors import OutOfRange
from elvarn.core.gas.air import Weather
from elvarn.service.kernel.errors import Invalid

HUMIDITY_ASSUMED = 50.0  # %, the middle of what can be, where it is not known; choice, no source


class HasAir(Protocol):
    """A row or command that carries the air; humidity may be missing, the other two make it usable."""

    @property
    def air_temperature_c(self) -> float | None: ...
    @property
    def air_pressure_kpa(self) -> float | None: ...
    @property
    def air_humidity_percent(self) -> float | None: ...


def weather_of(holder: HasAir) -> Weather | None:
    """The weather, or None where temperature or pressure is missing; humidity that is not known stands at the middle of
    what it can be. Raises Invalid for air that can't be."""
    if holder.air_temperature_c is None or holder.air_pressure_kpa is None:
        return None
    try:
        return Weather(
            holder.air_temperature_c + ZERO_CELSIUS,
            holder.air_pressure_kpa * 1000,
            (HUMIDITY_ASSUMED if holder.air_humidity_percent is None else holder.air_humidity_percent) / 100,
        )
    except OutOfRange as error:
        raise Invalid(str(error), path=f"air_{error.quantity}") from error
