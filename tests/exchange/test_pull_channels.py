"""What is logged beside torque: taken by heading and unit, never guessed."""

import numpy as np
import pytest

from elvarn.exchange.pull_columns import guess_columns, guess_map
from elvarn.exchange.pull_file import channels_in, extract_pull, runs_of, trace_of
from elvarn.exchange.pull_out import write_pull
from elvarn.exchange.table import read_table

RPM = np.arange(2500, 7001, 50.0)


def logged(heading, values, unit_row=""):
    rows = [f"{n:.0f},200,{value}" for n, value in zip(RPM, values, strict=True)]
    units = [f"rpm,Nm,{unit_row}"] if unit_row else []
    return read_table("\n".join([f"rpm,Nm,{heading}" if not units else f"n,M,{heading}", *units, *rows]).encode())


def channels(table):
    return channels_in(table, guess_map(guess_columns(table)))


@pytest.mark.parametrize(
    ("heading", "unit_row", "value", "name", "kept"),
    [
        ("MAP [kPa]", "", 98.4, "manifold_kpa", 98.4),
        ("Manifold pressure", "psi", 14.5, "manifold_kpa", 99.974),
        ("Boost [bar]", "", 0.6, "boost_kpa", 60.0),
        ("MAP [psig]", "", 8.0, "boost_kpa", 55.158),
        ("MAP [kPa]", "", -1.5, "boost_kpa", -1.5),
        ("Lambda", "", 0.88, "mixture_lambda", 0.88),
        ("AFR", "", 12.9, "mixture_lambda", 0.8776),
        ("Wideband [lambda]", "", 0.9, "mixture_lambda", 0.9),
        ("Injector duty [%]", "", 82, "duty_percent", 82),
        ("TPS [%]", "", 99, "throttle_percent", 99),
        ("Knock retard [deg]", "", 2.5, "retard_deg", 2.5),
        ("IAT [°F]", "", 77, "air_c", 25.0),
        ("Coolant [°C]", "", 90, "coolant_c", 90),
        ("Oil temp [°C]", "", 110, "oil_c", 110),
        ("Oil pressure [psi]", "", 60, "oil_kpa", 413.69),
        ("Baro [inHg]", "", 29.5, "outside_kpa", 99.9),
        ("MAF [g/s]", "", 150, "air_kg_h", 540),
        ("Fuel flow [lb/h]", "", 90, "fuel_kg_h", 40.82),
        ("time [ms]", "", 1500, "time_s", 1.5),
    ],
)
def test_a_channel_is_known_by_heading_and_unit(heading, unit_row, value, name, kept):
    found = channels(logged(heading, [value] * len(RPM), unit_row))
    assert list(found) == [name]
    assert found[name] == pytest.approx(kept, rel=1e-3)


@pytest.mark.parametrize("heading", ["Manifold pressure", "Oil pressure [turns]", "Coolant", "Gear", "Mixture"])
def test_what_has_no_unit_is_left_out(heading):
    assert channels(logged(heading, [3.0] * len(RPM))) == {}


def test_the_same_channel_twice_is_taken_once():
    rows = "\n".join(f"{n:.0f},200,0.88,0.91" for n in RPM)
    assert channels(read_table(f"rpm,Nm,lambda 1,lambda 2\n{rows}".encode()))["mixture_lambda"][0] == 0.88


def test_a_row_of_units_of_a_log_is_one():
    rows = "\n".join(f"{i / 20:.2f},{n:.0f},200,0.88,80" for i, n in enumerate(RPM))
    table = read_table(f"time,speed,torque,mixture,duty\ns,rpm,Nm,lambda,%\n{rows}".encode())
    assert [column.unit for column in table.columns] == ["s", "rpm", "Nm", "lambda", "%"]
    assert set(channels(table)) == {"time_s", "mixture_lambda", "duty_percent"}


def test_a_sweep_ends_where_the_throttle_is_shut():
    """Part throttle at the start, and the first rows of the coast-down, which still rise by noise."""
    throttle = np.full(len(RPM), 100.0)
    throttle[:7], throttle[-2:] = 40.0, 0.0
    table = logged("Throttle [%]", throttle)
    (run,) = runs_of(table, guess_map(guess_columns(table)))
    assert (run.first_row, run.last_row) == (7, len(RPM) - 3)
    assert (run.low, run.high) == (RPM[7], RPM[-3])


def test_a_pull_goes_out_with_its_channels_and_comes_in_the_same():
    values = [0.88 + 0.001 * i for i in range(len(RPM))]
    duty = [None if i == 3 else 50.0 + i for i in range(len(RPM))]
    written = write_pull(RPM.tolist(), [200.0] * len(RPM), {"mixture_lambda": values, "duty_percent": duty}, [])
    table = read_table(written.encode())
    again = extract_pull(table, guess_map(guess_columns(table)))
    assert again.channels["mixture_lambda"].tolist() == values
    assert np.isnan(again.channels["duty_percent"][3])
    assert again.channels["duty_percent"][4] == 54.0


def test_a_trace_is_thinned_and_keeps_its_ends():
    rows = "\n".join(f"{2000 + i / 10:.1f},200" for i in range(5000))
    trace = trace_of(read_table(f"rpm,Nm\n{rows}".encode()), 0)
    assert len(trace.rows) <= 401
    assert (trace.rows[0], trace.rows[-1]) == (0, 4999)
    assert trace.speeds[-1] == pytest.approx(2499.9)
