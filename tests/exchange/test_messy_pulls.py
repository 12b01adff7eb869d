"""Dyno files as they come: each a mess of its own, read right or asked about, none guessed."""

from dataclasses import replace
from io import BytesIO

import numpy as np
import pytest
from openpyxl import Workbook

from elvarn.core.dyno.correction import power_from_torque
from elvarn.core.dyno.detect import sweeps
from elvarn.core.dyno.pull import clean_pull
from elvarn.exchange.pull_columns import ColumnMap, guess_columns, guess_maps
from elvarn.exchange.pull_file import UnitAsked, extract_pull, runs_of
from elvarn.exchange.pull_head import stated_in
from elvarn.exchange.pull_out import write_designs
from elvarn.exchange.table import TableError, read_table

RPM = np.arange(2500, 7001, 50.0)
TORQUE = 230 - ((RPM - 4600) / 300) ** 2
KW = np.array([power_from_torque(m, n) / 1000 for m, n in zip(TORQUE, RPM, strict=True)])


def rows(*columns, delimiter=",", comma=False, decimals=2):
    lines = [delimiter.join(f"{v:.{decimals}f}" for v in row) for row in zip(*columns, strict=True)]
    return [line.replace(".", ",") if comma else line for line in lines]


def read(lines, encoding="utf-8", end="\n"):
    return read_table(end.join(lines).encode(encoding))


def runs(table):
    return [run for mapping in guess_maps(guess_columns(table)) for run in runs_of(table, mapping)]


def curves(table):
    found = [extract_pull(table, run.mapping, rows=(run.first_row, run.last_row)) for run in runs(table)]
    return [clean_pull(one.engine_speed_rpm, one.torque) for one in found]


def is_the_pull(curve, scale=1.0):
    speeds = np.linspace(3000, 6800, 20)
    expected = np.interp(speeds, RPM, TORQUE) * scale
    np.testing.assert_allclose(np.interp(speeds, curve.engine_speed_rpm, curve.torque), expected, rtol=2e-3)


LB_FT = TORQUE / 1.3558179
WITH_UNITS = {
    "plain": (["rpm,Nm,kW", *rows(RPM, TORQUE, KW)], {}),
    "units in the heading": (["Engine speed [rpm],Torque [N m],Power [kW]", *rows(RPM, TORQUE, KW)], {}),
    "a row of units": (["n,M,P", "1/min,Nm,kW", *rows(RPM, TORQUE, KW)], {}),
    "semicolons and decimal commas": (["rpm;Nm;kW", *rows(RPM, TORQUE, KW, delimiter=";", comma=True)], {}),
    "tabs": (["rpm\tNm\tkW", *rows(RPM, TORQUE, KW, delimiter="\t")], {}),
    "UTF-16": (["rpm,Nm,kW", *rows(RPM, TORQUE, KW)], {"encoding": "utf-16"}),
    "Windows line ends": (["rpm,Nm,kW", *rows(RPM, TORQUE, KW)], {"end": "\r\n"}),
    "old letters": (
        ["Drehzahl rpm,Drehmoment Nm,Leistung kW,Öl °C", *rows(RPM, TORQUE, KW, KW)],
        {"encoding": "cp1252"},
    ),
    "pounds and feet": (["RPM,Torque (ft-lb),Power (hp)", *rows(RPM, LB_FT, KW / 0.745699872)], {}),
    "lbf.ft": (["RPM,Torque lbf.ft", *rows(RPM, LB_FT)], {}),
    "kilogram metres": (["RPM,Torque [kgf.m]", *rows(RPM, TORQUE / 9.80665, decimals=4)], {}),
    "metric horses alone": (["U/min,PS", *rows(RPM, KW / 0.73549875)], {}),
    "a preamble and a blank line": (["Cell 2, run 14", "Operator: R", "", "rpm,Nm,kW", *rows(RPM, TORQUE, KW)], {}),
    "trailing words": (["rpm,Nm,kW", *rows(RPM, TORQUE, KW), "end of run", "checksum,ok"], {}),
    "an empty last column": (["rpm,Nm,kW,", *(f"{row}," for row in rows(RPM, TORQUE, KW))], {}),
    "listed downwards": (["rpm,Nm,kW", *rows(RPM, TORQUE, KW)[::-1]], {}),
    "a cell that starts like a formula": (["rpm,Nm,note", *(f"{row},=1+1" for row in rows(RPM, TORQUE))], {}),
}


@pytest.mark.parametrize("name", WITH_UNITS)
def test_reads_right(name):
    lines, written = WITH_UNITS[name]
    (curve,) = curves(read(lines, **written))
    is_the_pull(curve)


def trace(*pulls):
    """A time trace at 20 Hz: idle, roll-in, sweep and coast-down of each."""
    speed, torque = [], []
    for scale in pulls:
        speed += [1500.0] * 40 + list(np.linspace(1500, 2500, 10)) + list(RPM) + list(np.linspace(6900, 1600, 60))
        torque += [20.0] * 40 + [40.0] * 10 + list(TORQUE * scale) + [-30.0] * 60
    return np.arange(len(speed)) / 20, np.array(speed), np.array(torque)


class TestSeveralRuns:
    def test_below_each_other_are_several(self):
        found = curves(read(["rpm,Nm", *rows(RPM, TORQUE), *rows(RPM, TORQUE * 1.05)]))
        assert len(found) == 2
        is_the_pull(found[0])
        is_the_pull(found[1], 1.05)

    def test_with_their_headings_again_are_several(self):
        found = curves(read(["rpm,Nm", *rows(RPM, TORQUE), "rpm,Nm", *rows(RPM, TORQUE * 0.95)]))
        assert len(found) == 2
        is_the_pull(found[1], 0.95)

    def test_beside_each_other_are_several(self):
        found = curves(read(["rpm,Nm,rpm,Nm", *rows(RPM, TORQUE, RPM + 7, TORQUE * 1.05)]))
        assert len(found) == 2
        is_the_pull(found[0])

    @pytest.mark.parametrize("headings", ["rpm,set rpm,Nm,kW", "rpm,Nm,set rpm,kW"])
    def test_a_second_speed_beside_is_no_second_run(self, headings):
        by_name = {"rpm": RPM, "set rpm": RPM * 0 + 7000, "Nm": TORQUE, "kW": KW}
        (curve,) = curves(read([headings, *rows(*(by_name[name] for name in headings.split(",")))]))
        is_the_pull(curve)

    def test_of_a_time_trace_are_the_sweeps_without_roll_in_and_coast_down(self):
        time, speed, torque = trace(1.0, 1.03)
        table = read(["time [s],rpm,Nm", *rows(time, speed, torque)])
        found = curves(table)
        assert len(found) == 2
        is_the_pull(found[0])
        is_the_pull(found[1], 1.03)
        assert all(curve.torque.min() > 0 for curve in found)
        assert all(run.high == 7000 for run in runs(table))

    def test_steady_points_listed_up_and_down_are_one(self):
        speed = np.concatenate((RPM[::10], RPM[5::10][::-1]))
        order = np.argsort(np.random.default_rng(2).random(len(speed)))
        table = read(["rpm,Nm", *rows(speed[order], np.interp(speed[order], RPM, TORQUE))])
        assert len(runs(table)) <= 1
        assert len(sweeps(speed[order])) <= 1

    def test_jitter_of_the_speed_signal_is_no_end(self):
        noisy = RPM + np.random.default_rng(3).normal(0, 60, len(RPM))
        assert len(sweeps(noisy)) == 1

    def test_rows_that_are_not_there_are_refused(self):
        table = read(["rpm,Nm", *rows(RPM, TORQUE)])
        with pytest.raises(TableError, match="not in the file"):
            extract_pull(table, ColumnMap(0, 1, "N·m", None, ""), rows=(5, 5000))


def test_designs_written_beside_each_other_are_read_as_runs_whatever_their_names():
    designs = [
        (name, RPM.tolist(), (TORQUE * scale).tolist()) for name, scale in (("=kit car, 3 kW", 1.0), ("wheel", 1.04))
    ]
    designs[1] = (designs[1][0], designs[1][1][:60], designs[1][2][:60])
    table = read_table(write_designs(designs, ["two"]).encode())
    found = curves(table)
    assert [len(curve.torque) for curve in found] == [len(RPM), 60]
    np.testing.assert_allclose(found[1].torque, TORQUE[:60] * 1.04, rtol=1e-5)


class TestWorkbooks:
    def book(self, *sheets):
        made = Workbook()
        made.remove(made.active)
        for name, table in sheets:
            sheet = made.create_sheet(name)
            for row in table:
                sheet.append(row)
        out = BytesIO()
        made.save(out)
        return read_table(out.getvalue())

    def pull(self, scale=1.0):
        return [
            ["rpm", "Nm", "kW"],
            *([float(n), float(m * scale), float(p * scale)] for n, m, p in zip(RPM, TORQUE, KW, strict=True)),
        ]

    def test_a_sheet_is_a_pull(self):
        (curve,) = curves(self.book(("Run 1", [["Cell 2"], *self.pull()])))
        is_the_pull(curve)

    def test_sheets_alike_are_runs_below_each_other_and_others_are_left(self):
        found = curves(self.book(("1", self.pull()), ("2", self.pull(1.04)), ("notes", [["nothing", "here"]])))
        assert len(found) == 2
        is_the_pull(found[1], 1.04)

    def test_an_empty_one_is_refused(self):
        with pytest.raises(TableError, match="no rows"):
            self.book(("empty", []))


class TestAsked:
    @pytest.mark.parametrize("headings", ["RPM,Torque", "RPM,Torque [stone]", "RPM,Tq"])
    def test_a_torque_without_a_unit(self, headings):
        table = read([headings, *rows(RPM, TORQUE)])
        with pytest.raises(UnitAsked) as asked:
            curves(table)
        assert (asked.value.quantity, asked.value.fitting) == ("torque", [])

    def test_a_torque_without_a_unit_beside_a_power_with_one_names_what_agrees(self):
        table = read(["RPM,Torque,Power [hp]", *rows(RPM, LB_FT, KW / 0.745699872)])
        with pytest.raises(UnitAsked) as asked:
            curves(table)
        assert asked.value.fitting == ["lbf·ft"]

    def test_a_power_without_a_unit(self):
        with pytest.raises(UnitAsked) as asked:
            curves(read(["RPM,Power", *rows(RPM, KW)]))
        assert asked.value.quantity == "power"

    def test_road_speed_without_gearing(self):
        with pytest.raises(TableError, match="rpm at 100 km/h"):
            curves(read(["Speed [km/h],Torque [Nm]", *rows(RPM / 40, TORQUE)]))

    def test_road_speed_by_its_gearing(self):
        table = read(["Road speed [km/h],Torque [Nm]", *rows(RPM / 40, TORQUE)])
        (mapping,) = guess_maps(guess_columns(table))
        assert (mapping.speed_unit, mapping.rpm_at_100) == ("km/h", None)
        found = extract_pull(table, ColumnMap(0, 1, "N·m", None, "", "km/h", 4000.0))
        is_the_pull(clean_pull(found.engine_speed_rpm, found.torque))

    def test_a_roller_speed_is_no_engine_speed(self):
        assert guess_maps(guess_columns(read(["Roller speed rpm,Torque [Nm]", *rows(RPM / 3, TORQUE)]))) == []


class TestHead:
    @pytest.mark.parametrize(
        ("line", "air"),
        [
            ("Air temp: 77 °F, Baro: 29.45 inHg, Humidity: 45 %",
             {"air_temperature_c": "77 °F", "air_pressure_kpa": "29.45 inHg", "air_humidity_percent": "45 %"}),
            ("Intake temperature [°C] = 21,5; barometric pressure [mbar] = 998",
             {"air_temperature_c": "21,5 °C", "air_pressure_kpa": "998 mbar"}),
            ("Coolant temp 88 °C, oil temperature 95 °C", {}),
            ("Temperature 21", {}),
        ],
    )  # fmt: skip
    def test_weather_above_the_figures_with_its_units(self, line, air):
        assert stated_in(read([f"# {line}", "rpm,Nm", *rows(RPM, TORQUE)])).air == air

    def test_weather_in_columns_that_stand_still(self):
        lines = ["rpm,Nm,Air temp [°C],Baro [kPa],Oil temp [°C]"]
        lines += rows(RPM, TORQUE, RPM * 0 + 21, RPM * 0 + 99.2, RPM * 0 + 90)
        assert stated_in(read(lines)).air == {"air_temperature_c": "21 °C", "air_pressure_kpa": "99.2 kPa"}

    def test_the_standard_of_its_correction(self):
        assert stated_in(read(["# Corrected SAE J1349", "rpm,Nm", *rows(RPM, TORQUE)])).standard == "sae_j1349"
        assert stated_in(read(["rpm,Torque DIN 70020 [Nm]", *rows(RPM, TORQUE)])).standard == "din_70020"
        assert stated_in(read(["rpm,Nm", *rows(RPM, TORQUE)])).standard == ""


@pytest.mark.parametrize("content", [b"PK\x03\x04\x00\x00binary", b"\x89PNG\r\n\x00", b"", b"words alone\nand more"])
def test_what_is_no_table_is_refused(content):
    with pytest.raises(TableError):
        read_table(content)


class TestDrum:
    """An inertia drum logs its speed and time; torque follows from its inertia."""

    TIME = np.arange(0, 12, 0.05)
    SPEED = np.sqrt(250.0**2 + TIME * 2 * 60_000 / 2.5)  # rad/s of the drum, at a steady 60 kW and 2.5 kg m²
    DRUM_RPM = SPEED * 60 / (2 * np.pi)

    def read(self, heading, *columns):
        table = read([heading, *rows(self.TIME, self.DRUM_RPM, *columns, decimals=4)])
        (mapping,) = guess_maps(guess_columns(table))
        return table, mapping

    def known(self, mapping, **more):
        return replace(mapping, drum=replace(mapping.drum, inertia_kg_m2=2.5), **more)

    def test_its_power_comes_back(self):
        table, mapping = self.read("time [s],Drum speed [rpm],rpm", self.DRUM_RPM * 1.5)
        assert (mapping.speed_column, mapping.drum.speed_column, mapping.drum.time_column) == (2, 1, 0)
        found = extract_pull(table, self.known(mapping))
        power = found.torque * found.engine_speed_rpm * 2 * np.pi / 60
        assert power[5:-5] == pytest.approx(60_000, rel=0.005)

    def test_without_engine_speed_its_ratio_is_asked(self):
        table, mapping = self.read("time [ms],Roller rpm")
        assert mapping.speed_unit == "drum rpm"
        with pytest.raises(TableError, match="rpm at 100 drum rpm"):
            extract_pull(table, self.known(mapping))

    def test_its_inertia_is_asked(self):
        table, mapping = self.read("time [s],Drum speed [rpm],rpm", self.DRUM_RPM * 1.5)
        with pytest.raises(TableError, match="moment of inertia"):
            extract_pull(table, mapping)
