"""The simulated flow bench: the model behind SCPI over TCP on this machine alone."""

import time
from dataclasses import replace

import numpy as np

from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE, INCH_OF_WATER, ZERO_CELSIUS
from elvarn.rigs.bench_model import FAULTS, RANGES, BenchSample, FlowBenchModel, MountedPart
from elvarn.rigs.scpi import Command, Instrument, figure, switch, switch_fault

MOST_SAMPLES_A_SECOND = 200.0
PRESSURES = {"INH2O": INCH_OF_WATER, "PA": 1.0, "KPA": 1000.0}
# Effective areas of a made-up manifold's five runners, in m²: about 200 CFM at 28 inH2O, the third behind the others.
DEMO_PART = MountedPart((9.24e-4, 9.16e-4, 8.82e-4, 9.10e-4, 9.18e-4))

DEMO_MOUNTING, DEMO_SESSION = 0.003, 0.003  # standard deviations of a mounting and of a session


class FlowBench:
    """One bench and its commands."""

    def __init__(self, model: FlowBenchModel, serial: str = "0001") -> None:
        self.model = model
        self.rate = 20.0
        self.instrument = Instrument(self._commands(serial))

    def line(self) -> str:
        """One sample as it is streamed: flow [CFM], depression [inH2O], air [°C], share of the range [%]."""
        return _line(self.model.sample())

    def _commands(self, serial: str) -> list[Command]:
        model = self.model
        return [
            Command("*IDN", ask=lambda _: f"Elvarn,Simulated flow bench,{serial},1"),
            Command("*RST", do=lambda _: self._reset()),
            Command("*CLS", do=lambda _: self.instrument.clear()),
            Command("*OPC", do=lambda _: None, ask=lambda _: "1"),
            Command("SYSTem:ERRor", ask=lambda _: self.instrument.next_error()),
            Command("OUTPut", lambda p: model.run(switch(p)), lambda _: str(int(model.running))),
            Command("SOURce:DEPRession", self._set_depression, lambda _: f"{model.target / INCH_OF_WATER:.3f}"),
            Command("SENSe:RANGe", self._set_range, lambda _: str(model.range_number)),
            Command("SENSe:RANGe:LIMit", ask=lambda _: f"{RANGES[model.range_number - 1]:.1f}"),
            Command("ROUTe:PORT", self._set_port, lambda _: str(model.port)),
            Command("ROUTe:THRottle", self._set_throttle, lambda _: str(int(model.part.throttled))),
            Command("ROUTe:OPENing", self._set_opening, lambda _: f"{model.opening_percent:g}"),
            Command("ROUTe:HOLD", self._set_hold, lambda _: str(int(model.held_open))),
            Command("ROUTe:BLANk", self._set_blank, lambda _: str(int(model.blanked))),
            Command("MEASure:FLOW", ask=lambda _: f"{model.sample().flow / CUBIC_FOOT_PER_MINUTE:.3f}"),
            Command("MEASure:DEPRession", ask=lambda _: f"{model.sample().depression / INCH_OF_WATER:.4f}"),
            Command("MEASure:TEMPerature", ask=lambda _: f"{model.sample().temperature - ZERO_CELSIUS:.2f}"),
            Command("READ", ask=lambda _: self.line()),
            Command("SAMPle:RATE", self._set_rate, lambda _: f"{self.rate:g}"),
            Command("SIMulate:FAULt", self._set_fault, lambda _: ",".join(sorted(model.faults)) or "NONE"),
            Command("SIMulate:FAULt:CATalog", ask=lambda _: ",".join(FAULTS)),
        ]

    def _reset(self) -> None:
        self.model.run(False)
        self.model.faults.clear()
        self.model.range_number, self.model.port, self.model.blanked = len(RANGES), 1, False
        self.model.opening_percent, self.model.held_open = 100.0, False
        self.model.part = replace(self.model.part, throttled=False)
        self.model.target, self.rate = 28 * INCH_OF_WATER, 20.0

    def _set_depression(self, parameters: list[str]) -> None:
        bare = parameters and len(parameters[0].split()) == 1
        typed = [f"{parameters[0]} INH2O"] if bare else parameters
        self.model.target = figure(typed, 2 * INCH_OF_WATER, 60 * INCH_OF_WATER, PRESSURES)

    def _set_range(self, parameters: list[str]) -> None:
        self.model.range_number = round(figure(parameters, 1, len(RANGES), {}))

    def _set_port(self, parameters: list[str]) -> None:
        self.model.mount(round(figure(parameters, 1, len(self.model.part.areas), {})))

    def _set_throttle(self, parameters: list[str]) -> None:
        self.model.part = replace(self.model.part, throttled=switch(parameters))
        self.model.mount(self.model.port)

    def _set_opening(self, parameters: list[str]) -> None:
        self.model.opening_percent = figure(parameters, 1, 100, {})

    def _set_hold(self, parameters: list[str]) -> None:
        self.model.held_open = switch(parameters)

    def _set_blank(self, parameters: list[str]) -> None:
        self.model.blanked = switch(parameters)

    def _set_rate(self, parameters: list[str]) -> None:
        self.rate = figure(parameters, 1, MOST_SAMPLES_A_SECOND, {})

    def _set_fault(self, parameters: list[str]) -> None:
        switch_fault(parameters, FAULTS, self.model.faults)


def demo_bench(seed: int = 1) -> FlowBench:
    """A bench with the made-up manifold on it, on this machine's clock."""
    generator = np.random.default_rng(seed)
    session = 1 + float(generator.normal(0, DEMO_SESSION))
    model = FlowBenchModel(DEMO_PART, time.monotonic, generator, mounting_scatter=DEMO_MOUNTING, session=session)
    return FlowBench(model)


def _line(sample: BenchSample) -> str:
    flow, depression = sample.flow / CUBIC_FOOT_PER_MINUTE, sample.depression / INCH_OF_WATER
    return f"{flow:.3f},{depression:.4f},{sample.temperature - ZERO_CELSIUS:.2f},{100 * sample.range_used:.1f}"
