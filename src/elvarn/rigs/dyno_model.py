"""An engine on a dyno as it behaves: what it truly makes, what heat, day and air make of it, what the dyno shows."""

from collections.abc import Callable
from dataclasses import dataclass, field
from math import exp, nan

import numpy as np

from elvarn.core.constants import ZERO_CELSIUS
from elvarn.core.dyno.correction import Standard, correct
from elvarn.core.gas.air import Weather, saturation_pressure

FAULTS = {
    "SLIP": "the tyre slips on the roller",
    "GEAR": "the pull runs in another gear than the dyno reckons with",
    "CYLINDER": "one cylinder does not fire",
    "KNOCK": "the engine computer takes ignition back for knock",
    "WEATHER": "the weather station sends nothing",
    "LEAN": "the fuel pump gives out at the top",
    "OIL": "the oil pump draws air at the top",
}
HOLD_S = 1.5  # at the start speed, before a sweep
COAST_RPM_S = 1100.0  # by which the speed falls once the throttle is shut
IDLE_RPM = 950.0
DRAG = 28.0  # N m that a shut engine takes
SOAK_K, SOAK_GONE_S = 1.6, 420.0  # warmer air in the inlet after each pull, and how fast that goes
PULL_SCATTER, DAY_SHIFT, NOISE = 0.003, 0.006, 0.004  # of the torque, standard deviations; NOISE of one sample
SLIPPED, SLIP_FROM = 0.86, 0.80  # of the torque left, and from which share of the highest on
OTHER_GEAR = 1.27
RETARD_DEG, LOST_A_DEGREE = 6.5, 0.014
KNOCK_FROM, LEAN_FROM, OIL_FROM = 0.62, 0.78, 0.85  # of the limit
INTAKE_LOSS = 2.6  # kPa from outside to the manifold at the limit; it grows with the square of the speed
DUTY_AT_LIMIT = 86.0


@dataclass(frozen=True)
class MountedDesign:
    """An engine as it stands on the dyno: torque [N m] at speeds [rpm], in the air of the standard."""

    name: str
    speeds: tuple[float, ...]
    torques: tuple[float, ...]

    def torque_at(self, engine_speed_rpm: float) -> float:
        """Torque [N m] at a speed [rpm]."""
        return float(np.interp(engine_speed_rpm, self.speeds, self.torques))


@dataclass(frozen=True)
class DynoSample:
    """One sample as the dyno shows it: time [s], speed [rpm], torque [N m], manifold pressure [kPa], mixture [lambda],
    injector duty [%], ignition taken back [deg], throttle [%], air in the inlet, coolant and oil [°C], oil pressure
    [kPa], and pressure [kPa] and humidity [%] of the air in the inlet; NaN where an instrument says nothing."""

    time: float
    speed: float
    torque: float
    manifold: float
    mixture: float
    duty: float
    retard: float
    throttle: float
    air: float
    coolant: float
    oil: float
    oil_pressure: float
    outside: float
    humidity: float


@dataclass
class DynoModel:
    """The dyno with its engine. Time is what `clock` says [s], scatter what `generator` gives."""

    designs: tuple[MountedDesign, ...]
    clock: Callable[[], float]
    generator: np.random.Generator
    cylinders: int = 5
    cell: Weather = field(default_factory=lambda: Weather(292.65, 98_400.0, 0.45))
    mounted: int = 1
    start_rpm: float = 2600.0
    limit_rpm: float = 7400.0
    rate_rpm_s: float = 400.0
    faults: set[str] = field(default_factory=set)
    scatter: bool = True
    _day: float = 1.0
    _pull: float = 1.0
    _began: float | None = None
    _switched_on: float = 0.0
    _pulls: list[float] = field(default_factory=list)

    def __post_init__(self) -> None:
        self._switched_on = self.clock()
        self.another_day()

    def another_day(self) -> None:
        """Another day: the engine is cold, and makes a little more or less."""
        self._day = 1 + self._drawn(DAY_SHIFT)
        self._pulls.clear()

    def run(self, running: bool) -> None:
        """Begin a pull, or take the load off and let the engine idle. A pull that runs goes on."""
        if running and not self.pulling:
            self._began, self._pull = self.clock(), 1 + self._drawn(PULL_SCATTER)
            self._pulls.append(self._began)
        elif not running:
            self._began = None

    @property
    def pulling(self) -> bool:
        """Whether a pull is on its way, its coast-down too."""
        return self._began is not None and self.clock() - self._began < self._seconds

    def true_torque(self, engine_speed_rpm: float) -> float:
        """What the mounted engine gives at a speed [rpm] in the air of the standard, today: torque [N m]."""
        return self.designs[self.mounted - 1].torque_at(engine_speed_rpm) * self._day * self._pull

    def sample(self) -> DynoSample:
        """What the dyno shows now."""
        now = self.clock()
        speed, throttle = self._turns(now)
        share, full = speed / self.limit_rpm, throttle > 50
        air = self.cell.temperature + self._soak(now)
        retard = self._retard(share) if full else 0.0
        torque = self._torque(speed, air, retard) if full else -DRAG
        known = "WEATHER" not in self.faults
        slipping = "SLIP" in self.faults and full and torque > SLIP_FROM * max(self.designs[self.mounted - 1].torques)
        gear = OTHER_GEAR if "GEAR" in self.faults else 1.0
        shown = torque * (SLIPPED + self._drawn(0.04) if slipping else 1.0) / gear
        outside = self.cell.pressure / 1000
        return DynoSample(
            time=now - self._switched_on,
            speed=speed * gear * (1 + self._drawn(0.0004)),
            torque=shown * (1 + self._drawn(NOISE)),
            manifold=outside - INTAKE_LOSS * share**2 if full else 32.0,
            mixture=self._mixture(share) + self._drawn(0.003) if full else 1.0,
            duty=DUTY_AT_LIMIT * share**0.9 if full else 6.0,
            retard=retard,
            throttle=throttle,
            air=air - ZERO_CELSIUS,
            coolant=86.0 + 0.6 * len(self._pulls) + 3 * share,
            oil=94.0 + 1.1 * len(self._pulls) + 6 * share,
            oil_pressure=self._oil_pressure(share) * (1 + self._drawn(0.01)),
            outside=outside if known else nan,
            humidity=100 * self._breathes(air).relative_humidity if known else nan,
        )

    @property
    def _sweep_s(self) -> float:
        return (self.limit_rpm - self.start_rpm) / self.rate_rpm_s

    @property
    def _seconds(self) -> float:
        return HOLD_S + self._sweep_s + (self.limit_rpm - IDLE_RPM) / COAST_RPM_S

    def _turns(self, now: float) -> tuple[float, float]:
        """Speed [rpm] and throttle [%] at a time."""
        if self._began is None or now - self._began >= self._seconds:
            return IDLE_RPM, 2.0
        since = now - self._began - HOLD_S
        if since <= self._sweep_s:
            return self.start_rpm + self.rate_rpm_s * max(since, 0.0), 100.0
        return max(self.limit_rpm - COAST_RPM_S * (since - self._sweep_s), IDLE_RPM), 0.0

    def _torque(self, speed: float, air: float, retard: float) -> float:
        """Torque in the air that the engine really breathes, as the standard reckons with it."""
        torque = self.true_torque(speed) / correct(Standard.SAE_J1349, self._breathes(air)).factor
        if "CYLINDER" in self.faults:
            torque *= 1 - 1.15 / self.cylinders
        return torque * (1 - LOST_A_DEGREE * retard)

    def _breathes(self, air: float) -> Weather:
        """The air in the inlet: the cell's, warmed [K]."""
        humidity = self.cell.relative_humidity * saturation_pressure(self.cell.temperature) / saturation_pressure(air)
        return Weather(air, self.cell.pressure, humidity)

    def _retard(self, share: float) -> float:
        return (
            RETARD_DEG * min((share - KNOCK_FROM) / 0.08, 1.0) if "KNOCK" in self.faults and share > KNOCK_FROM else 0
        )

    def _mixture(self, share: float) -> float:
        rich = 0.875 + (0.2 if "CYLINDER" in self.faults else 0.0)
        return rich + (0.9 * (share - LEAN_FROM) if "LEAN" in self.faults and share > LEAN_FROM else 0.0)

    def _oil_pressure(self, share: float) -> float:
        return 85.0 if "OIL" in self.faults and share > OIL_FROM else 160.0 + 300.0 * min(share, 0.8)

    def _soak(self, now: float) -> float:
        """By how much the air in the inlet is warmer than the cell's, for the pulls made so far."""
        return SOAK_K * sum(exp(-(now - began) / SOAK_GONE_S) for began in self._pulls)

    def _drawn(self, deviation: float) -> float:
        return float(self.generator.normal(0, deviation)) if self.scatter else 0.0
