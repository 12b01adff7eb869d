"""The simulated dyno: the model behind SCPI over TCP on this machine alone."""

import math
import time
from dataclasses import astuple

import numpy as np

from elvarn.core.constants import ZERO_CELSIUS
from elvarn.rigs.dyno_model import FAULTS, DynoModel, MountedDesign
from elvarn.rigs.scpi import Command, Instrument, figure, switch, switch_fault

MOST_SAMPLES_A_SECOND = 200.0
NOT_A_NUMBER = "9.91E+37"  # SCPI-99, 7.2.1.5
SPEEDS = (1000.0, 2600.0, 3200.0, 3800.0, 4400.0, 5000.0, 5600.0, 6200.0, 6800.0, 7400.0, 8000.0)
# Made-up torques [N m] of a five-cylinder of 2.4 litres, at SPEEDS.
DEMO_DESIGNS = (
    MountedDesign("stock", SPEEDS, (188, 210, 217, 223, 226, 222, 209, 191, 171, 145, 115)),
    MountedDesign("stage 2", SPEEDS, (185, 203, 210, 218, 225, 224, 214, 198, 179, 155, 125)),
    MountedDesign("stage 2, throttle 70", SPEEDS, (185, 203, 210, 218, 225, 225, 216, 202, 184, 163, 136)),
    MountedDesign("sheet S5", SPEEDS, (180, 184, 185, 190, 199, 207, 209, 205, 195, 174, 144)),
    MountedDesign("sheet S5, throttle 70", SPEEDS, (180, 184, 185, 190, 199, 207, 210, 208, 199, 182, 156)),
)


class Dyno:
    """One dyno and its commands."""

    def __init__(self, model: DynoModel, serial: str = "0001") -> None:
        self.model = model
        self.rate = 50.0
        self.instrument = Instrument(self._commands(serial))

    def line(self) -> str:
        """One sample as it is streamed, in the order and the units of DynoSample."""
        return ",".join(NOT_A_NUMBER if math.isnan(value) else f"{value:.6g}" for value in astuple(self.model.sample()))

    def _commands(self, serial: str) -> list[Command]:
        model = self.model
        return [
            Command("*IDN", ask=lambda _: f"Elvarn,Simulated dyno,{serial},1"),
            Command("*RST", do=lambda _: self._reset()),
            Command("*CLS", do=lambda _: self.instrument.clear()),
            Command("*OPC", do=lambda _: None, ask=lambda _: "1"),
            Command("SYSTem:ERRor", ask=lambda _: self.instrument.next_error()),
            Command("OUTPut", lambda p: model.run(switch(p)), lambda _: str(int(model.pulling))),
            Command("ROUTe:DESign", self._set_design, lambda _: str(model.mounted)),
            Command("ROUTe:DESign:CATalog", ask=lambda _: ",".join(f'"{one.name}"' for one in model.designs)),
            Command("SOURce:SPEed:STARt", self._set_start, lambda _: f"{model.start_rpm:g}"),
            Command("SOURce:SPEed:STOP", self._set_limit, lambda _: f"{model.limit_rpm:g}"),
            Command("SOURce:SPEed:RATE", self._set_rise, lambda _: f"{model.rate_rpm_s:g}"),
            Command("MEASure:TEMPerature", ask=lambda _: f"{model.cell.temperature - ZERO_CELSIUS:.2f}"),
            Command("READ", ask=lambda _: self.line()),
            Command("SAMPle:RATE", self._set_rate, lambda _: f"{self.rate:g}"),
            Command("SIMulate:DAY", do=lambda _: model.another_day()),
            Command("SIMulate:FAULt", self._set_fault, lambda _: ",".join(sorted(model.faults)) or "NONE"),
            Command("SIMulate:FAULt:CATalog", ask=lambda _: ",".join(FAULTS)),
        ]

    def _reset(self) -> None:
        self.model.run(False)
        self.model.faults.clear()
        self.model.mounted, self.rate = 1, 50.0
        self.model.start_rpm, self.model.limit_rpm, self.model.rate_rpm_s = 2600.0, 7400.0, 400.0

    def _set_design(self, parameters: list[str]) -> None:
        self.model.mounted = round(figure(parameters, 1, len(self.model.designs), {}))

    def _set_start(self, parameters: list[str]) -> None:
        self.model.start_rpm = figure(parameters, 1000, self.model.limit_rpm - 500, {})

    def _set_limit(self, parameters: list[str]) -> None:
        self.model.limit_rpm = figure(parameters, self.model.start_rpm + 500, 9000, {})

    def _set_rise(self, parameters: list[str]) -> None:
        self.model.rate_rpm_s = figure(parameters, 50, 3000, {})

    def _set_rate(self, parameters: list[str]) -> None:
        self.rate = figure(parameters, 1, MOST_SAMPLES_A_SECOND, {})

    def _set_fault(self, parameters: list[str]) -> None:
        switch_fault(parameters, FAULTS, self.model.faults)


def demo_dyno(seed: int = 1) -> Dyno:
    """A dyno with the made-up engine on it, on this machine's clock."""
    return Dyno(DynoModel(DEMO_DESIGNS, time.monotonic, np.random.default_rng(seed)))
