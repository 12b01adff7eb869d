"""Fields that several calculations share."""

from pydantic import BaseModel, ConfigDict, Field

from elvarn.core.constants import ZERO_CELSIUS
from elvarn.core.finding import Finding
from elvarn.core.gas.air import Weather


class Fields(BaseModel):
    """Unknown fields are refused, so that a misspelt one is not taken for absent."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class Air(Fields):
    temperature_c: float = Field(description="air temperature, °C")
    pressure_kpa: float = Field(description="absolute station pressure, kPa")
    humidity_percent: float = Field(0.0, description="relative humidity, %")

    def weather(self) -> Weather:
        return Weather(self.temperature_c + ZERO_CELSIUS, self.pressure_kpa * 1000, self.humidity_percent / 100)


def texts(findings: tuple[Finding, ...] | list[Finding]) -> list[str]:
    """Findings as plain sentences."""
    return [finding.text for finding in findings]
