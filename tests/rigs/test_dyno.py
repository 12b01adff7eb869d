"""The simulated dyno: what it truly makes is known, what it shows differs as dynos do."""

import math

import numpy as np
import pytest
import pyvisa

from elvarn.core.dyno.correction import Standard, correct
from elvarn.core.gas.air import Weather
from elvarn.rigs.dyno import DEMO_DESIGNS, NOT_A_NUMBER, Dyno
from elvarn.rigs.dyno_model import DRAG, FAULTS, HOLD_S, DynoModel
from tests.loop import serving


class Clock:
    def __init__(self):
        self.now = 100.0

    def __call__(self):
        return self.now


def model(*faults, scatter=False, seed=1):
    made = DynoModel(DEMO_DESIGNS, Clock(), np.random.default_rng(seed), scatter=scatter)
    made.faults = set(faults)
    return made


def swept(made, step=0.05):
    """Samples of a whole pull, hold and coast-down too."""
    made.run(True)
    samples = []
    while made.pulling:
        samples.append(made.sample())
        made.clock.now += step
    return samples


def at(samples, speed):
    rising = samples[: int(np.argmax([one.speed for one in samples])) + 1]
    return min(rising, key=lambda one: abs(one.speed - speed))


def test_brought_to_the_standard_it_gives_the_curve_that_is_known():
    driven = [one for one in swept(model()) if one.torque > 0]
    assert len(driven) > 200
    for one in driven:
        air = Weather(one.air + 273.15, one.outside * 1000, one.humidity / 100)
        known = DEMO_DESIGNS[0].torque_at(one.speed)
        assert one.torque * correct(Standard.SAE_J1349, air).factor == pytest.approx(known, rel=1e-6)


def test_it_holds_rises_and_coasts_down():
    samples = swept(model())
    speeds = np.array([one.speed for one in samples])
    assert speeds[: int(HOLD_S / 0.05)] == pytest.approx(2600.0)
    top = int(speeds.argmax())
    assert speeds[top] == pytest.approx(7400, abs=25)
    assert np.diff(speeds[30 : top + 1]) == pytest.approx(20.0)
    assert samples[-1].torque == -DRAG
    assert samples[-1].throttle == 0


def test_each_pull_warms_the_inlet_and_an_hour_cools_it():
    made = model()
    first, second = swept(made), swept(made)
    assert at(second, 5000).air > at(first, 5000).air + 1
    assert at(second, 5000).torque < at(first, 5000).torque
    made.clock.now += 3600
    assert at(swept(made), 5000).air == pytest.approx(at(first, 5000).air, abs=0.1)


def test_pulls_and_days_scatter_as_they_are_said_to():
    """Standard deviations of 0.3 % and 0.6 %, over 200 pulls and days."""
    made = model(scatter=True)
    pulls, days = [], []
    for _ in range(200):
        made.another_day()
        days.append(made._day)
        made.run(False)
        made.run(True)
        pulls.append(made._pull)
    assert np.std(pulls) == pytest.approx(0.003, rel=0.2)
    assert np.std(days) == pytest.approx(0.006, rel=0.2)


@pytest.mark.parametrize(
    ("fault", "seen"),
    [
        ("SLIP", lambda bad, good: bad.torque < 0.95 * good.torque),
        ("GEAR", lambda bad, good: abs(bad.torque / good.torque - 1 / 1.27) < 0.01),
        ("CYLINDER", lambda bad, good: bad.torque < 0.8 * good.torque and bad.mixture > 1),
        ("KNOCK", lambda bad, good: bad.retard > 5 and bad.torque < 0.95 * good.torque),
        ("WEATHER", lambda bad, good: math.isnan(bad.outside) and not math.isnan(good.outside)),
        ("LEAN", lambda bad, good: bad.mixture > good.mixture + 0.05),
        ("OIL", lambda bad, good: bad.oil_pressure < 100 < good.oil_pressure),
    ],
)
def test_every_fault_shows(fault, seen):
    """Of the engine's speed, whatever the dyno takes that for: a tyre slips at the highest torque."""
    speed = 4500 if fault == "SLIP" else 6500
    shown = speed * (1.27 if fault == "GEAR" else 1.0)
    assert seen(at(swept(model(fault)), shown), at(swept(model()), speed))


def test_every_fault_is_tried():
    assert set(FAULTS) == {"SLIP", "GEAR", "CYLINDER", "KNOCK", "WEATHER", "LEAN", "OIL"}


def test_the_wrong_gear_leaves_the_power_as_it_is():
    bad, good = at(swept(model("GEAR")), 6000 * 1.27), at(swept(model()), 6000)
    assert bad.torque * bad.speed == pytest.approx(good.torque * good.speed, rel=0.01)


def test_it_speaks_to_an_independent_client():
    with serving(Dyno(model("WEATHER"))) as port:
        manager = pyvisa.ResourceManager("@py")
        visa = manager.open_resource(f"TCPIP::127.0.0.1::{port}::SOCKET")
        visa.read_termination = visa.write_termination = "\n"
        assert visa.query("*IDN?").split(",")[1] == "Simulated dyno"
        visa.write("ROUT:DES 3")
        assert visa.query("ROUTe:DESign?") == "3"
        assert (
            visa.query("ROUT:DES:CAT?") == '"stock","stage 2","stage 2, throttle 70","sheet S5","sheet S5, throttle 70"'
        )
        assert visa.query("SIM:FAUL?") == "WEATHER"
        assert visa.query("READ?").split(",")[-2:] == [NOT_A_NUMBER, NOT_A_NUMBER]
        visa.write("SOUR:SPE:STOP 9900")
        assert visa.query("SYST:ERR?").startswith("-222")
        visa.write("SIM:FAUL RUST")
        assert visa.query("SYST:ERR?").startswith("-224")
        visa.close()
        manager.close()
