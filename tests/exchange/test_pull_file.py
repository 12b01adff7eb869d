"""Dyno files: columns guessed, contradictions found, figures in SI."""

import numpy as np
import pytest

from elvarn.core.dyno.correction import power_from_torque
from elvarn.exchange.pull_columns import ColumnMap, guess_columns, guess_map
from elvarn.exchange.pull_file import Contradiction, extract_pull
from elvarn.exchange.pull_out import write_pull
from elvarn.exchange.table import TableError, read_table

RPM = np.arange(2500, 7001, 250)
TORQUE = np.full(len(RPM), 200.0)
POWER_KW = np.array([power_from_torque(m, n) / 1000 for m, n in zip(TORQUE, RPM, strict=True)])


def table(headings, *columns):
    rows = "\n".join(",".join(f"{value:.6g}" for value in row) for row in zip(*columns, strict=True))
    return read_table(f"{headings}\n{rows}\n".encode())


@pytest.mark.parametrize(
    ("headings", "expected"),
    [
        ("rpm,Nm,kW", ("N·m", "kW")),
        ("Engine Speed [rpm],Torque [lb-ft],Power [hp]", ("lbf·ft", "hp")),
        ("Drehzahl,Drehmoment Nm,Leistung PS", ("N·m", "PS")),
        ("RPM,Tq,Pwr", ("", "")),
        ("RPM,Torque lbf.ft,Power [stone]", ("lbf·ft", "")),
        ("RPM,Torque [kgf.m],Power [PS]", ("kgf·m", "PS")),
    ],
)
def test_recognises_columns_and_units(headings, expected):
    mapping = guess_map(guess_columns(table(headings, RPM, TORQUE, POWER_KW)))
    assert (mapping.speed_column, mapping.torque_column, mapping.power_column) == (0, 1, 2)
    assert (mapping.torque_unit, mapping.power_unit) == expected


def test_other_channels_are_left_alone():
    guesses = guess_columns(table("rpm,Nm,AFR,oil °C", RPM, TORQUE, TORQUE, TORQUE))
    assert [guess.role for guess in guesses] == ["speed", "torque", "other", "other"]


def test_no_mapping_without_speed_or_without_torque_and_power():
    assert guess_map(guess_columns(table("time,Nm,kW", RPM, TORQUE, POWER_KW))) is None
    assert guess_map(guess_columns(table("rpm,AFR,oil", RPM, TORQUE, POWER_KW))) is None


def test_power_alone_gives_torque():
    rows = extract_pull(table("rpm,kW", RPM, POWER_KW), ColumnMap(0, None, "N·m", 1, "kW"))
    np.testing.assert_allclose(rows.torque, TORQUE, rtol=1e-5)


def test_a_wrong_unit_is_found_and_the_fitting_one_named():
    horsepower = POWER_KW / 0.7457
    with pytest.raises(Contradiction) as caught:
        extract_pull(table("rpm,Nm,kW", RPM, TORQUE, horsepower), ColumnMap(0, 1, "N·m", 2, "kW"))
    assert caught.value.fitting == ("N·m", "hp")
    rows = extract_pull(table("rpm,Nm,kW", RPM, TORQUE, horsepower), ColumnMap(0, 1, "N·m", 2, "kW"), trust="torque")
    np.testing.assert_allclose(rows.torque, TORQUE)


def test_refuses_columns_that_are_not_there_or_hold_no_figures():
    wordy = read_table(b"rpm,Nm,note\n2000,150,ok\n2500,160,ok\n")
    with pytest.raises(TableError, match="no column 8"):
        extract_pull(wordy, ColumnMap(0, 7, "N·m", None, "kW"))
    with pytest.raises(TableError, match="'note' holds no figures"):
        extract_pull(wordy, ColumnMap(0, 2, "N·m", None, "kW"))
    with pytest.raises(TableError, match="Neither"):
        extract_pull(wordy, ColumnMap(0, None, "N·m", None, "kW"))


def test_an_exported_pull_imports_again_unchanged():
    speed, torque = [2500.3, 2600.7, 7001.123456789], [201.1, 202.2, 0.1 + 0.2]
    again = read_table(write_pull(speed, torque, {}, ["Elvarn pull: stock"]).encode())
    rows = extract_pull(again, guess_map(guess_columns(again)))
    assert rows.engine_speed_rpm.tolist() == speed
    assert rows.torque.tolist() == torque
