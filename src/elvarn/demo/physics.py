"""Figures that a real part and engine could show: runners by area and discharge coefficient, pulls by filling."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE, REFERENCE_DEPRESSION
from elvarn.core.dyno.correction import power_from_torque
from elvarn.core.gas.air import STANDARD_AIR, Weather, density_cipm_2007
from elvarn.core.gas.discharge import isentropic_volume_flow, round_area

BENCH_SCATTER = 0.003  # set-up to set-up
SESSION_SHIFT = 0.002
SAMPLE_SCATTER = 0.0012  # of one dyno sample
HEAT_OF_AIR = 2.98e6  # J of fuel for a kilogram of air, petrol near best power
INDICATED_EFFICIENCY = 0.375


@dataclass(frozen=True)
class Runners:
    """Bore [m] and discharge coefficient [-] of each runner, before and after."""

    bore_before: float
    bore_after: float
    coefficients_before: tuple[float, ...]
    coefficients_after: tuple[float, ...]

    def readings(self, side: str, generator: np.random.Generator) -> list[float]:
        """What a bench would read of each runner in one session, in CFM at the reference depression."""
        bore = self.bore_before if side == "before" else self.bore_after
        coefficients = self.coefficients_before if side == "before" else self.coefficients_after
        most = isentropic_volume_flow(round_area(bore), REFERENCE_DEPRESSION, STANDARD_AIR)
        shift = 1 + generator.normal(0, SESSION_SHIFT)
        return [
            float(most * c * shift * (1 + generator.normal(0, BENCH_SCATTER)) / CUBIC_FOOT_PER_MINUTE)
            for c in coefficients
        ]


@dataclass(frozen=True)
class Breathing:
    """Volumetric efficiency over speed: a broad hump at `tuned_rpm`, falling away where the flow no longer suffices."""

    displacement: float
    best: float
    tuned_rpm: float
    breadth_rpm: float
    choke_rpm: float

    def volumetric_efficiency(self, rpm: NDArray[np.float64]) -> NDArray[np.float64]:
        hump = 0.80 + (self.best - 0.80) * np.exp(-(((rpm - self.tuned_rpm) / self.breadth_rpm) ** 2))
        ripple = 0.006 * np.sin((rpm - 1500) / 420)
        return (hump + ripple) / (1 + (rpm / self.choke_rpm) ** 8)

    def torque(self, rpm: NDArray[np.float64], weather: Weather) -> NDArray[np.float64]:
        """Brake torque [N m] in this weather: indicated work of the air drawn less friction growing with speed."""
        air = density_cipm_2007(weather) * self.displacement * self.volumetric_efficiency(rpm)
        indicated = air * HEAT_OF_AIR * INDICATED_EFFICIENCY / (4 * np.pi)
        friction = self.displacement / (4 * np.pi) * (0.9e5 + 1.9 * rpm + 1.2e-3 * rpm**2)
        return np.asarray(indicated - friction)


def pull_file(
    filling: Breathing, weather: Weather, span: tuple[int, int], generator: np.random.Generator, day: str
) -> str:
    """A dyno file as a cell would write it: a few seconds of sweep and the run-down after it."""
    low, high = span
    rising = np.arange(low, high, 24.0) + generator.normal(0, 4, len(np.arange(low, high, 24.0)))
    rpm = np.concatenate((np.sort(rising), np.arange(high - 60.0, high - 900.0, -120.0)))
    torque = filling.torque(rpm, weather) * (1 + generator.normal(0, SAMPLE_SCATTER, len(rpm)))
    torque[len(rising) :] *= 0.4
    rows = "\n".join(
        f"{n:.0f};{m:.1f};{power_from_torque(round(m, 1), round(n)) / 1000:.2f}".replace(".", ",")
        for n, m in zip(rpm, torque, strict=True)
    )
    return f"# Engine cell log, {day}\nEngine speed;Torque;Power\nrpm;Nm;kW\n{rows}\n"
