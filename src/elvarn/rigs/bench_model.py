"""A flow bench as it behaves: what a mounted part truly passes, and what the bench makes of it."""

from collections.abc import Callable
from dataclasses import dataclass, field
from math import exp, pi, sqrt

import numpy as np

from elvarn.core.bench.leak import leak_at_depression
from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE, REFERENCE_DEPRESSION
from elvarn.core.gas.air import Weather, density_ideal
from elvarn.core.gas.discharge import volume_flow_of
from elvarn.core.path.losses import butterfly
from elvarn.core.path.throttle import WIDE_OPEN_COEFFICIENT

FAULTS = {
    "INJECTOR": "an injector hole was left open",
    "GASKET": "the gasket under the part leaks",
    "BLADE": "the throttle's blade stops at 84 degrees",
    "LIP": "the adapter has a lip",
    "HOSE": "a soft hose draws together under depression",
    "RANGE": "the range is too small: the meter is at its end",
}
RANGES = (60.0, 120.0, 250.0, 500.0)  # CFM at full scale, by number from 1
INJECTOR_HOLE = pi / 4 * 0.011**2 * 0.62  # m², a hole of 11 mm with a sharp edge
GASKET_LEAK = 3.2 * CUBIC_FOOT_PER_MINUTE  # m³/s at the reference depression, thin gap
OWN_LEAK = 0.35 * CUBIC_FOOT_PER_MINUTE  # m³/s at the reference depression, a sound set-up
LIP_LOSS = 0.06  # of the flow
HOSE_LOSS = 0.05  # of the flow at the reference depression, growing with its square
BLADE_DEG = 84.0
NEARLY_SHUT_DEG = 70.0  # from open; the table of losses ends there
MOTOR_FLOW = 420 * CUBIC_FOOT_PER_MINUTE  # m³/s that the motor draws at the reference depression
SAG = 0.07  # of the depression, at the motor's flow; beyond it the motor gives out
GIVING_OUT = 3.0  # share of the depression lost for a share of flow beyond it
BISECTIONS = 24
WARMING_K, WARMING_S = 6.0, 420.0  # air in the bench against the room, and how fast it gets there
TURBULENCE = 0.004  # of the flow, standard deviation of one sample
TURBULENCE_S = 0.25  # how long an eddy lasts
PRESSURE_NOISE = 6.0  # Pa
SPIN_UP_S = 2.5  # the motor's, to within a third


@dataclass(frozen=True)
class MountedPart:
    """Effective area [m²] of each port that can be flowed, by its number; whether a throttle is in front."""

    areas: tuple[float, ...]
    throttled: bool = False


@dataclass(frozen=True)
class BenchSample:
    """One sample: flow [m³/s] as the bench reckons it, depression [Pa], air [K] in front, share of the range [-]."""

    flow: float
    depression: float
    temperature: float
    range_used: float


@dataclass
class FlowBenchModel:
    """The bench with its part. Time is what `clock` says [s], noise what `generator` gives. Each mounting differs by
    `mounting_scatter`, a session by the factor `session`."""

    part: MountedPart
    clock: Callable[[], float]
    generator: np.random.Generator
    room: Weather = field(default_factory=lambda: Weather(292.15, 99_600.0, 0.5))
    target: float = REFERENCE_DEPRESSION
    range_number: int = 4
    port: int = 1
    blanked: bool = False
    faults: set[str] = field(default_factory=set)
    opening_percent: float = 100.0
    held_open: bool = False
    mounting_scatter: float = 0.0
    session: float = 1.0
    _mounting: float = 1.0
    _started: float | None = None
    _eddy: float = 0.0
    _last: float = 0.0

    def run(self, running: bool) -> None:
        """Start or stop the motor."""
        if running and self._started is None:
            self._started = self._last = self.clock()
        elif not running:
            self._started = None

    def mount(self, port: int) -> None:
        """Take the part off and put it on at a port."""
        self.port = port
        self._mounting = 1 + float(self.generator.normal(0, self.mounting_scatter))

    @property
    def running(self) -> bool:
        return self._started is not None

    def sample(self) -> BenchSample:
        """What the bench shows now. With the motor off nothing flows."""
        now = self.clock()
        if self._started is None:
            noise = abs(self.generator.normal(0, 0.05)) * CUBIC_FOOT_PER_MINUTE
            return BenchSample(noise, abs(self.generator.normal(0, PRESSURE_NOISE)), self.room.temperature, 0.0)
        depression, true = self._balance(self.target * (1 - exp(-(now - self._started) / SPIN_UP_S * 1.1)))
        shown = true * self.session * self._density_error(now) * (1 + self._turbulence(now))
        full = RANGES[self.range_number - 1] * CUBIC_FOOT_PER_MINUTE
        if "RANGE" in self.faults:
            full = min(full, 0.7 * true)
        pressure = depression + self.generator.normal(0, PRESSURE_NOISE)
        return BenchSample(min(shown, full), max(pressure, 0.0), self.room.temperature, min(shown / full, 1.0))

    def true_flow(self, depression: float) -> float:
        """What the part and every leak truly pass at a depression, in m³/s of the air in front."""
        leak = OWN_LEAK + (GASKET_LEAK if "GASKET" in self.faults else 0.0)
        leaking = leak_at_depression(leak, REFERENCE_DEPRESSION, max(depression, 1.0))
        if self.blanked:
            return leaking
        area = self.part.areas[self.port - 1] * self._mounting * self._throttled() * self._narrowed(depression)
        if "INJECTOR" in self.faults:
            area += INJECTOR_HOLE
        return volume_flow_of(area, max(depression, 1.0), self.room) + leaking

    def _throttled(self) -> float:
        """Share of the flow that the blade leaves of it. A hand may hold it wide open beyond its stop."""
        if not self.part.throttled or self.held_open:
            return 1.0
        angle = 90 * self.opening_percent / 100
        angle = min(angle, BLADE_DEG if "BLADE" in self.faults else 90.0)
        loss = butterfly(min(90 - angle, NEARLY_SHUT_DEG)).value
        return float((1 + loss * WIDE_OPEN_COEFFICIENT[1] ** 2) ** -0.5)

    def _narrowed(self, depression: float) -> float:
        left = 1 - LIP_LOSS if "LIP" in self.faults else 1.0
        if "HOSE" in self.faults:
            left *= 1 - HOSE_LOSS * (depression / REFERENCE_DEPRESSION) ** 2
        return left

    def _balance(self, wanted: float) -> tuple[float, float]:
        """Depression at which what the motor gives meets what the part draws, and the flow there."""
        low, high = 0.0, wanted
        for _ in range(BISECTIONS):
            middle = (low + high) / 2
            drawn = self.true_flow(middle) / MOTOR_FLOW
            low, high = (middle, high) if _given(wanted, drawn) > middle else (low, middle)
        return low, self.true_flow(low)

    def _density_error(self, now: float) -> float:
        """The meter sits in air that the motor has warmed: it reads high by the root of the densities."""
        assert self._started is not None
        warmer = WARMING_K * (1 - exp(-(now - self._started) / WARMING_S))
        meter = Weather(self.room.temperature + warmer, self.room.pressure, self.room.relative_humidity)
        return sqrt(density_ideal(self.room) / density_ideal(meter))

    def _turbulence(self, now: float) -> float:
        """Eddies: each sample remembers the last for a while."""
        kept = exp(-max(now - self._last, 0.0) / TURBULENCE_S)
        self._eddy = kept * self._eddy + sqrt(1 - kept**2) * float(self.generator.normal(0, TURBULENCE))
        self._last = now
        return self._eddy


def _given(wanted: float, drawn: float) -> float:
    """Depression that the motor holds at a share of its flow: it sags, and gives out beyond all of it."""
    if drawn <= 1:
        return wanted * (1 - SAG * drawn**2)
    return wanted * (1 - SAG) * max(1 - GIVING_OUT * (drawn - 1), 0.0)
