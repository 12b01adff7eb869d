"""How a recording ended, in words."""

from elvarn.core.dyno.abort import Breach
from elvarn.core.dyno.channels import CHANNELS

LIMIT_OF = {
    "mixture_lambda": "leanest",
    "duty_percent": "most_duty",
    "retard_deg": "most_retard",
    "coolant_c": "hottest_coolant",
    "oil_c": "hottest_oil",
    "oil_kpa": "least_oil_pressure",
}


def broken(breach: Breach) -> str:
    """A limit that was broken."""
    label, value, limit = CHANNELS[breach.channel].label, breach.value, breach.limit
    return (
        f"Stopped at {breach.engine_speed_rpm:.0f} rpm: {label} {written(breach.channel, value)}, "
        f"limit {written(breach.channel, limit)}."
    )


def nothing_heard(where: str, seconds: float) -> str:
    """A line that stayed silent."""
    return f"Ended: nothing came from {where} for {seconds:.0f} s. Is the dyno on, and is that its address?"


def left_alone(seconds: float) -> str:
    """A recording that nobody recorded for a while: no pull is begun anew by itself."""
    return f"Ended: Elvarn was away for {seconds:.0f} s during this pull. What came before is kept."


def endless(seconds: float) -> str:
    """A recording in which no sweep came to an end."""
    return f"Ended after {seconds / 60:.0f} minutes without a whole sweep."


def written(name: str, value: float) -> str:
    """A channel's value with its unit, as it is said."""
    unit = CHANNELS[name].unit
    decimals = 2 if unit == "lambda" else 1 if unit == "°" else 0
    return f"{value:.{decimals}f}{'' if unit == '°' else ' '}{unit}"
