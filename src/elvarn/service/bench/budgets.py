"""The uncertainty of a figure on the sheet, and what it is made of."""

from collections.abc import Sequence
from dataclasses import dataclass
from statistics import fmean

from elvarn import units
from elvarn.core.bench.budget import COVERAGE, Budget, BudgetInputs, budget_of, mean_scatter
from elvarn.core.bench.reference import conversion_shortfall
from elvarn.core.bench.samples import series_of
from elvarn.core.bench.stated import MeterKind
from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.service.record.refits import refits_of
from elvarn.service.record.stated import state_of
from elvarn.service.record.trust import Trust, plate_uncertainty
from elvarn.store.models import FlowReading


@dataclass(frozen=True)
class BudgetPart:
    """One part of a budget, standard, in percent of the figure."""

    name: str
    percent: str
    in_ratio: bool
    origin: str


@dataclass(frozen=True)
class BudgetView:
    """Half-widths at about 95 %: of the figure itself, and of its part in a comparison on this bench; the parts."""

    absolute: units.Shown
    relative: units.Shown
    parts: list[BudgetPart]


def budget_view(readings: Sequence[FlowReading], mean: float, trust: Trust, preset: units.Preset) -> BudgetView:
    """The budget of the mean of a runner's readings."""
    budget = budget_of_readings(readings, trust)
    return BudgetView(
        units.show(COVERAGE * budget.absolute * mean, "flow", preset),
        units.show(COVERAGE * budget.relative * mean, "flow", preset),
        [BudgetPart(p.name, f"{p.fraction * 100:.2f} %", p.in_ratio, p.origin) for p in budget.parts],
    )


def budget_of_readings(readings: Sequence[FlowReading], trust: Trust) -> Budget:
    """The same in the core's terms."""
    latest = readings[-1]
    state = state_of(latest)
    scatters = [_scatter(reading.samples) for reading in readings if len(reading.samples) > 1]
    return budget_of(
        BudgetInputs(
            sample_scatter=mean_scatter(scatters),
            setups=len(refits_of(readings)),
            repeatability=trust.repeatability,
            session=trust.session_shift,
            calibration=plate_uncertainty(latest.setup.bench, latest, trust.repeatability),
            needs_air=state.meter is not MeterKind.RATIO,
            air_known=state.weather is not None,
            leak=state.leak / fmean(reading.flow_m3_s for reading in readings),
            same_session=trust.near,
            conversion=conversion_shortfall(latest.pulled_pa, REFERENCE_DEPRESSION),
            converted=trust.conversion > 0,
        )
    )


def _scatter(samples: Sequence[float]) -> float:
    series = series_of(samples)
    return series.scatter_of_mean / series.mean
