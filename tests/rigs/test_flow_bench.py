"""The simulated bench over the wire, asked by an independent VISA client."""

import socket

import numpy as np
import pytest
import pyvisa

from elvarn.rigs.bench_model import FAULTS, FlowBenchModel
from elvarn.rigs.flow_bench import DEMO_PART, FlowBench
from elvarn.rigs.scpi import MOST_ERRORS, Command, Instrument, ScpiError, figure, switch
from tests.loop import serving


@pytest.fixture
def port():
    """A bench whose motor has been running for a minute, on a free port in a thread of its own."""
    seconds = iter(np.arange(0.0, 1e6, 0.05))
    model = FlowBenchModel(DEMO_PART, lambda: float(next(seconds)), np.random.default_rng(3))
    with serving(FlowBench(model)) as found:
        yield found


@pytest.fixture
def visa(port):
    manager = pyvisa.ResourceManager("@py")
    instrument = manager.open_resource(f"TCPIP::127.0.0.1::{port}::SOCKET")
    instrument.read_termination = instrument.write_termination = "\n"
    instrument.timeout = 5000
    yield instrument
    instrument.close()
    manager.close()


def test_it_says_who_it_is_and_has_no_error(visa):
    assert visa.query("*IDN?").split(",") == ["Elvarn", "Simulated flow bench", "0001", "1"]
    assert visa.query("SYST:ERR?") == '0,"No error"'
    assert visa.query("*OPC?") == "1"


@pytest.mark.parametrize(
    ("long", "short"), [("SOURce:DEPRession", "sour:depr"), ("SENSe:RANGe", "SENS:RANG"), ("ROUTe:PORT", "ROUT:PORT")]
)
def test_commands_may_be_written_long_or_short(visa, long, short):
    assert visa.query(f"{long}?") == visa.query(f":{short}?")


def test_a_depression_is_taken_in_its_unit(visa):
    for typed, inches in (("25", 25), ("6 KPA", 24.088), ("5000 PA", 20.073)):
        visa.write(f"SOUR:DEPR {typed}")
        assert float(visa.query("SOUR:DEPR?")) == pytest.approx(inches, abs=0.001)


def test_runners_are_read_one_after_the_other(visa):
    visa.write("OUTP ON")
    for _ in range(200):
        visa.query("READ?")
    means = []
    for number in range(1, 6):
        visa.write(f"ROUT:PORT {number}")
        means.append(np.mean([float(visa.query("MEAS:FLOW?")) for _ in range(60)]))
    assert 180 < min(means) < max(means) < 220
    assert int(np.argmin(means)) == 2
    depression, temperature = float(visa.query("MEAS:DEPR?")), float(visa.query("MEAS:TEMP?"))
    assert (25 < depression < 28, temperature) == (True, pytest.approx(19.0))


def test_a_throttle_is_put_on_and_taken_off(visa):
    visa.write("OUTP ON")
    for _ in range(200):
        visa.query("READ?")

    def mean():
        return np.mean([float(visa.query("MEAS:FLOW?")) for _ in range(60)])

    bare = mean()
    assert visa.query("ROUT:THR?").strip() == "0"
    visa.write("ROUT:THR ON")
    visa.write("ROUT:OPEN 50")
    assert mean() < 0.6 * bare
    visa.write("ROUT:OPEN 100")
    assert mean() == pytest.approx(bare, rel=0.02)
    visa.write("ROUT:OPEN 50")
    visa.write("*RST")
    assert visa.query("ROUT:THR?").strip() == "0"


def test_faults_are_switched_on_and_off(visa):
    assert visa.query("SIM:FAUL:CAT?").split(",") == list(FAULTS)
    visa.write("SIM:FAUL GASKET,ON;SIM:FAUL LIP")
    assert visa.query("SIM:FAUL?") == "GASKET,LIP"
    visa.write("SIM:FAUL GASKET,OFF")
    assert visa.query("SIM:FAUL?") == "LIP"
    visa.write("*RST")
    assert visa.query("SIM:FAUL?") == "NONE"


@pytest.mark.parametrize(
    ("line", "number"),
    [("NONSENSE", -113), ("MEAS:FLOW", -113), ("OUTP?;OUTP MAYBE", -224), ("SOUR:DEPR", -109), ("SOUR:DEPR 900", -222),
     ("SOUR:DEPR 5 FURLONG", -131), ("SENS:RANG four", -120), ("ROUT:PORT 9", -222), ("SIM:FAUL FIRE", -224),
     ("SENS:RANG 1,2", -108)],
)  # fmt: skip
def test_what_it_does_not_know_goes_to_the_error_queue(visa, line, number):
    if "?" in line:
        visa.query(line)
    else:
        visa.write(line)
    assert int(visa.query("SYST:ERR?").split(",")[0]) == number
    assert visa.query("SYST:ERR?").startswith("0,")


def test_samples_stream_until_they_are_stopped(port):
    with socket.create_connection(("127.0.0.1", port), timeout=5) as connection:
        lines = connection.makefile("rw", newline="\n")
        lines.write("OUTP ON;SAMP:RATE 200\nINIT\n")
        lines.flush()
        rows = [lines.readline() for _ in range(30)]
        lines.write("ABOR\n*IDN?\n")
        lines.flush()
        while (line := lines.readline()).startswith("DATA"):
            pass
    assert all(row.startswith("DATA ") and row.count(",") == 3 for row in rows)
    assert line.startswith("Elvarn,")


def test_a_client_that_goes_away_leaves_the_bench_running(port):
    for _ in range(3):
        connection = socket.create_connection(("127.0.0.1", port), timeout=5)
        connection.sendall(b"INIT\n")
        connection.recv(10)
        connection.close()
    with socket.create_connection(("127.0.0.1", port), timeout=5) as again:
        again.sendall(b"\xff\xfe garbage\n*IDN?\n")
        assert again.recv(100).startswith(b"Elvarn,")


def test_the_error_queue_overflows_as_the_standard_says():
    instrument = Instrument([Command("A", do=lambda _: None)])
    instrument.run(";".join(["B"] * (MOST_ERRORS + 5)))
    errors = [instrument.next_error() for _ in range(MOST_ERRORS)]
    assert errors[0].startswith("-113")
    assert errors[-1].startswith("-350")
    assert instrument.next_error().startswith("0,")


def test_parameters():
    assert figure(["2 KPA"], 0, 5000, {"KPA": 1000.0}) == 2000
    assert (switch(["on"]), switch(["0"])) == (True, False)
    for bad in ([], ["1", "2"], ["x"]):
        with pytest.raises(ScpiError):
            figure(bad, 0, 1, {})
        with pytest.raises(ScpiError):
            switch(bad)
