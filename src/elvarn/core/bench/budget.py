"""What the uncertainty of a bench figure is made of, for the figure itself and for a ratio on one bench."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt

from elvarn.core.errors import OutOfRange, require_positive
from elvarn.core.statistics.uncertainty import rectangular

COVERAGE = 2.0  # GUM 6.3: about 95 %
DEPRESSION_READING = 0.005  # of the depression, half-range of a gauge or manometer; common practice, no source
AIR_TEMPERATURE = 1.0  # K, half-range of a thermometer in the shop; common practice, no source
AIR_PRESSURE = 200.0  # Pa, half-range of a barometer in the shop; common practice, no source
AIR_UNKNOWN_TEMPERATURE = 10.0  # K, half-range where nobody noted it; common practice, no source
AIR_UNKNOWN_PRESSURE = 4000.0  # Pa, half-range where nobody noted it; common practice, no source
SCALE_UNKNOWN = 0.03  # of the figure, half-range of an uncalibrated bench; 2 to 3 % is common practice, no source


@dataclass(frozen=True)
class Contribution:
    """One part of a budget: its name, standard uncertainty as a fraction of the figure, whether a ratio on one bench
    still carries it, and where it comes from."""

    name: str
    fraction: float
    in_ratio: bool
    origin: str


@dataclass(frozen=True)
class Budget:
    """The parts of a figure's uncertainty. Both sums are standard uncertainties as fractions of the figure."""

    parts: tuple[Contribution, ...]

    @property
    def absolute(self) -> float:
        return sqrt(sum(part.fraction**2 for part in self.parts))

    @property
    def relative(self) -> float:
        return sqrt(sum(part.fraction**2 for part in self.parts if part.in_ratio))

    @property
    def largest(self) -> Contribution:
        return max(self.parts, key=lambda part: part.fraction)


@dataclass(frozen=True)
class BudgetInputs:
    """What a figure's budget is reckoned from; fractions of the figure unless a unit stands there.

    sample_scatter: of the mean of its samples, 0 where it was typed; setups [-]: refits in the mean; repeatability,
    session: of the bench; calibration: standard uncertainty of the plate, None where the bench was never calibrated;
    needs_air: whether the meter needs the weather; air_known: whether it was noted; leak: the leak taken off;
    same_session: whether the figure that it is compared with was read in the same session; conversion: by how much the
    square-root law may be out from the depression at which it was read to the stated one; converted: whether what it is
    compared with was read at another depression.
    """

    sample_scatter: float
    setups: int
    repeatability: float
    session: float
    calibration: float | None
    needs_air: bool
    air_known: bool
    leak: float
    same_session: bool = False
    conversion: float = 0.0
    converted: bool = False
    temperature: float = 293.15
    pressure: float = 101_325.0


def budget_of(inputs: BudgetInputs) -> Budget:
    """The budget of a mean of readings.

    Arguments: inputs.
    Returns: the budget, its parts independent.
    Raises: OutOfRange for a scatter below zero or no set-up.
    Source: JCGM 100:2008 (GUM), eq. (10) with sensitivities of Q ~ K sqrt(dp) and Q ~ sqrt(T/p): half a per cent of the
    depression is a quarter of a per cent of the flow; rectangular ranges by 4.3.7. In a ratio on one bench its scale
    and the kind of air cancel (5.2.2, fully correlated).
    """
    require_positive(setups=inputs.setups, repeatability=inputs.repeatability)
    if min(inputs.sample_scatter, inputs.session, inputs.leak, inputs.conversion) < 0:
        raise OutOfRange("scatter", "A scatter is below 0.", "Enter 0 or more.")
    own = inputs.calibration
    scale = rectangular(SCALE_UNKNOWN) if own is None else own
    scale_origin = "not calibrated; ±3 % assumed" if own is None else "its reference plate"
    refits = f"repeatability, {inputs.setups} reading{'s' if inputs.setups > 1 else ''} refitted"
    parts = [
        Contribution("samples", inputs.sample_scatter, True, "scatter of the samples"),
        Contribution("set-up", inputs.repeatability / sqrt(inputs.setups), True, refits),
        Contribution("session", inputs.session, not inputs.same_session, "session shift"),
        Contribution("calibration", scale, False, scale_origin),
        Contribution("depression", rectangular(DEPRESSION_READING) / 2, True, "reading of the depression, ±0.5 %"),
        Contribution(
            "conversion", rectangular(inputs.conversion), inputs.converted, "converting from another depression"
        ),
        Contribution("leak", rectangular(0.5 * inputs.leak), True, "half the leak subtracted"),
    ]
    if inputs.needs_air:
        parts.append(_air_part(inputs))
    return Budget(tuple(part for part in parts if part.fraction > 0))


def mean_scatter(scatters: Sequence[float]) -> float:
    """Scatter of a mean of means.

    Arguments: scatters [-] of each mean.
    Returns: scatter [-] of their mean; 0 for none.
    Raises: nothing.
    Source: variance of a mean of independent values.
    """
    return sqrt(sum(one**2 for one in scatters)) / len(scatters) if scatters else 0.0


def _air_part(inputs: BudgetInputs) -> Contribution:
    known = inputs.air_known
    warm = rectangular(AIR_TEMPERATURE if known else AIR_UNKNOWN_TEMPERATURE) / inputs.temperature / 2
    heavy = rectangular(AIR_PRESSURE if known else AIR_UNKNOWN_PRESSURE) / inputs.pressure / 2
    origin = "thermometer and barometer" if known else "air not noted"
    return Contribution("weather", sqrt(warm**2 + heavy**2), True, origin)
