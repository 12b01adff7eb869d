"""From what a bench shows to the flow that it means: zero, leak, calibration, and the air where the meter needs it."""

from dataclasses import dataclass, replace
from enum import StrEnum
from math import sqrt

from elvarn.core.bench.leak import without_leak
from elvarn.core.bench.reference import flow_at_depression
from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.errors import OutOfRange, require_positive
from elvarn.core.finding import Finding
from elvarn.core.gas.air import STANDARD_AIR, Weather, density_ideal


class MeterKind(StrEnum):
    """What a bench's meter answers to: the ratio of two drops in the same air, actual volume, or mass."""

    RATIO = "ratio"
    VOLUME = "volume"
    MASS = "mass"


@dataclass(frozen=True)
class BenchState:
    """What is known of a bench when a figure is read.

    meter: its kind; weather: of the air in front of the part, None where nobody noted it; meter_temperature [K] of the
    air at a ratio meter, None where it is that in front of the part; zero [m³/s] shown at rest; leak [m³/s] shown with
    everything blanked at leak_depression [Pa]; correction [-]: the reference plate's known flow over its `plate_flow`.
    """

    meter: MeterKind = MeterKind.RATIO
    weather: Weather | None = None
    meter_temperature: float | None = None
    zero: float = 0.0
    leak: float = 0.0
    leak_depression: float | None = None
    correction: float = 1.0


def air_factor(state: BenchState) -> float:
    """What the shown flow is multiplied by so that it is the flow in standard air at the same depression.

    Arguments: state.
    Returns: factor [-]; 1 where the air was not noted.
    Raises: OutOfRange for air that can't be.
    Source: Bernoulli at a fixed depression. The ratio of two drops in the same air needs no correction for the weather,
    only the density of the air at the meter to that in front of the part, by the root; actual volume goes with
    1/sqrt(rho), and a mass shown as volume of standard air with sqrt(rho).
    """
    if state.weather is None:
        return 1.0
    density = density_ideal(state.weather)
    if state.meter is MeterKind.RATIO:
        if state.meter_temperature is None:
            return 1.0
        require_positive(meter_temperature=state.meter_temperature)
        return sqrt(state.weather.temperature / state.meter_temperature)
    thinner = sqrt(density / density_ideal(STANDARD_AIR))
    return thinner if state.meter is MeterKind.VOLUME else 1 / thinner


def stated_flow(shown: float, depression: float, state: BenchState) -> float:
    """The flow through the part that a shown flow means, at the depression at which it was read.

    Arguments: shown [m³/s], depression [Pa], state.
    Returns: volume flow [m³/s] in standard air at this depression.
    Raises: OutOfRange where zero and leak leave nothing of it.
    Source: zero and leak are taken off, the leak by `without_leak`; then calibration and air.
    """
    require_positive(depression=depression, correction=state.correction)
    left = without_leak(shown - state.zero, state.leak, state.leak_depression, depression)
    if left <= 0:
        message = f"Zero and leak are as much as the figure itself ({shown * 1000:.3g} l/s)."
        raise OutOfRange("flow", message, "Take zero and leak again; find the leak.")
    return left * state.correction * air_factor(state)


def plate_flow(shown: float, depression: float, state: BenchState) -> float:
    """The flow through a reference plate that a shown flow means, before any calibration: what its known flow is held
    against, so that the part's own air is reckoned with once and not again in the plate's ratio.

    Arguments: shown [m³/s], depression [Pa], state: its meter, air and zero count; leak and correction do not.
    Returns: volume flow [m³/s] in standard air at the reference depression.
    Raises: OutOfRange where the zero leaves nothing of it.
    Source: as `stated_flow`. The plate is alone on the bench: the leak of a part's set-up is not behind it.
    """
    alone = replace(state, leak=0.0, leak_depression=None, correction=1.0)
    return flow_at_depression(stated_flow(shown, depression, alone), depression, REFERENCE_DEPRESSION)


def air_findings(state: BenchState) -> list[Finding]:
    """What is assumed where the air was not noted.

    Arguments: state.
    Returns: a finding for a meter that needs the air, else none.
    Raises: nothing.
    Source: as `air_factor`.
    """
    if state.weather is not None or state.meter is MeterKind.RATIO:
        return []
    text = (
        f"Air not noted; standard air assumed. Enter °C and kPa in the set-up (this meter reads {state.meter.value})."
    )
    return [Finding("air_assumed", text, doubt=True)]
