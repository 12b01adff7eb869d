"""The line to a dyno: where it answers, and what one of its samples looks like."""

import re

from elvarn.core.dyno.channels import CHANNELS
from elvarn.given import given
from elvarn.instruments.reach import GREETINGS, LOAD_OFF
from elvarn.instruments.spoken import figures_in, pattern_of

# What a sample may hold by name: speed [rpm], torque [N m], and every channel in its unit.
FIELDS = ("speed", "torque", *CHANNELS)
STREAMED = (
    "time_s", "speed", "torque", "manifold_kpa", "mixture_lambda", "duty_percent", "retard_deg", "throttle_percent",
    "air_c", "coolant_c", "oil_c", "oil_kpa", "outside_kpa", "humidity_percent",
)  # fmt: skip
SCPI_PATTERN = "DATA " + ",".join(f"{{{name}}}" for name in STREAMED)
NO_FIGURE = 9.9e37  # SCPI-99, 7.2.1.5: 9.91E+37 is not a number, ±9.9E+37 infinity


@given
class DynoLine:
    """How a dyno's samples come in. The pattern names its figures: "{speed};{torque}", speed and
    torque are needed. A device ("/dev/ttyUSB0") is a serial line; without one, the dyno answers at host and
    port."""

    host: str = "127.0.0.1"
    port: int = 5126
    pattern: str = SCPI_PATTERN
    greeting: str = GREETINGS[0]
    farewell: str = LOAD_OFF[0]
    device: str = ""
    baud: int = 9600

    @property
    def where(self) -> str:
        return self.device or f"{self.host}:{self.port}"


def sample_pattern(words: str) -> re.Pattern[str]:
    """A dyno's pattern as a regular expression. Raises ValueError where it names no speed or torque, or something
    unknown."""
    if "{torque}" not in words:
        raise ValueError("The pattern has to name {torque}, and each figure once.")
    return pattern_of(words, FIELDS, "speed")


def read_sample(pattern: re.Pattern[str], text: str) -> dict[str, float] | None:
    """A line as figures by name, without those that the dyno says it has not; None where the line does not fit."""
    figures = figures_in(pattern, text)
    if figures is None:
        return None
    return {name: value for name, value in figures.items() if abs(value) < NO_FIGURE}
