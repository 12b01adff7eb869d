"""The made-up shop is plausible: no figure that a real part could not show."""

from datetime import date
from pathlib import Path

import numpy as np
import pytest
from sqlalchemy import text
from sqlalchemy.orm import sessionmaker

from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE, REFERENCE_DEPRESSION
from elvarn.core.gas.air import STANDARD_AIR
from elvarn.core.gas.discharge import isentropic_volume_flow, round_area
from elvarn.demo import boat_six, fill, hill_climb_five
from elvarn.demo.physics import pull_file
from elvarn.exchange.pull_columns import guess_columns, guess_map
from elvarn.exchange.pull_file import extract_pull
from elvarn.exchange.table import read_table
from elvarn.service.bench.effects import effects_of
from elvarn.service.bench.sheet import bench_sheet
from elvarn.service.dyno.designs import designs_of
from elvarn.service.dyno.judged import standings_of
from elvarn.service.handover.path_rows import path_on_paper
from elvarn.service.kernel.files import FileStore
from elvarn.service.kernel.memo import Memo
from elvarn.service.path import candidate_sheet
from elvarn.service.path import sheet as path_sheet
from elvarn.service.record.curves import CurveShelf
from elvarn.service.record.job import load_job
from elvarn.service.record.solved import Ask
from tests.databases import copies

ROOT = Path(__file__).resolve().parents[2]


@pytest.fixture(scope="module")
def demo(run_folder, data_folder):
    """A database that was filled once."""
    with copies(run_folder / "data", "template_empty") as engine:
        assert fill.fill_empty(engine, FileStore(data_folder / "demo-files"))
        yield engine


@pytest.fixture
def session(demo):
    with sessionmaker(demo)() as session:
        yield session


def test_it_is_filled_once(demo, data_folder):
    assert not fill.fill_empty(demo, FileStore(data_folder / "demo-files"))


@pytest.mark.parametrize("job", [hill_climb_five, boat_six])
def test_no_runner_flows_more_than_its_bore_can_pass(job):
    generator = np.random.default_rng(0)
    for side, bore in (("before", job.RUNNERS.bore_before), ("after", job.RUNNERS.bore_after)):
        most = isentropic_volume_flow(round_area(bore), REFERENCE_DEPRESSION, STANDARD_AIR) / CUBIC_FOOT_PER_MINUTE
        readings = job.RUNNERS.readings(side, generator)
        assert max(readings) < 0.85 * most
        assert min(readings) > 0.55 * most


def test_the_sheet_says_what_restricts_the_path_before_and_after(session):
    curves = CurveShelf()
    record = load_job(session, hill_climb_five.JOB)
    paper = path_on_paper(session, curves, record, "trade")
    assert (paper.before, paper.after) == (record.stock_build.name, record.builds[-1].name)
    solved = [
        path_sheet.solve(session, curves, Memo(8), build.id, Ask(), "trade")
        for build in (record.stock_build, record.builds[-1])
    ]
    worst = [max((row for row in one.rows if row.share_percent), key=lambda row: row.share_percent) for one in solved]
    told = [f"{row.label}, {row.share_percent:.0f} %" for row in worst]
    assert (paper.rows[0].before, paper.rows[0].after) == tuple(told)
    assert paper.rows[1].before == f"{solved[0].to_plenum.text} {solved[0].to_plenum.unit}"


def test_port_work_gains_a_few_percent_of_flow_and_less_of_power(session):
    record = load_job(session, hill_climb_five.JOB)
    flow = record.pairs.fraction
    designs = designs_of(session, CurveShelf(), hill_climb_five.JOB)
    ported = next(one for one in designs.others if one.design.build_id == record.builds[1].id)
    power = ported.over((4500, 7000)).power.fraction
    assert 0.04 < flow < 0.12
    assert 0.005 < power < 0.6 * flow


def test_each_use_of_the_hill_climb_has_another_winner(session):
    designs = designs_of(session, CurveShelf(), hill_climb_five.JOB)
    _, found = standings_of(designs, "", None)
    first = {one.use.name: one.best[0].design.name for one in found}
    assert [one.use.name for one in found] == ["road", "hill climb", "circuit"]
    assert found[0].reference_leads
    assert (first["hill climb"], first["circuit"]) == ("stage 2, throttle 70", "sheet S5, throttle 70")
    assert found[1].leads
    assert found[2].leads


def test_every_gain_of_the_hill_climb_is_real_and_the_boat_is_in_the_middle(session):
    whole = bench_sheet(session, hill_climb_five.JOB, "trade")
    assert all(rung.gain.real for rung in whole.rungs)
    boat = bench_sheet(session, boat_six.JOB, "trade")
    assert [rung.after.mean is not None for rung in boat.rungs] == [True] * 4 + [False] * 2


def test_only_the_three_engines_are_there(session):
    rows = session.execute(text("select layout, cylinder_count, boosted from engine")).all()
    assert sorted((row.layout, row.cylinder_count, row.boosted) for row in rows) == [
        ("inline", 3, True),
        ("inline", 5, False),
    ]


def test_power_of_a_made_up_pull_is_that_of_a_brisk_engine():
    content = pull_file(hill_climb_five.STOCK, STANDARD_AIR, (2400, 7500), np.random.default_rng(1), "2026-10-14")
    table = read_table(content.encode())
    rows = extract_pull(table, guess_map(guess_columns(table)))
    best = rows.torque.max()
    effective_pressure = best * 4 * np.pi / 2.4e-3
    assert 9e5 < effective_pressure < 13e5  # brake mean effective pressure of good naturally aspirated petrol engines


def walk():
    """The section of the guide that looks at the demo's five."""
    return (ROOT / "docs" / "choosing.md").read_text().split("## The five: which tube")[1]


def stage_2(session):
    return next(b for b in load_job(session, hill_climb_five.JOB).builds if b.name == "stage 2")


def test_the_walk_with_the_five_is_what_is_computed(session):
    found = path_sheet.solve(session, CurveShelf(), Memo(8), stage_2(session).id, Ask(), "trade")
    words = walk()
    assert f"draws {found.air.text} CFM of outside air" in words
    for row in found.rows:
        if row.share_percent is None:
            continue
        line = next(line for line in words.splitlines() if line.startswith(f"| {row.label.lower()}"))
        assert f"{float(row.flow.text):.0f} CFM" in line
        assert f"{row.drop.text} kPa | {row.share_percent:.0f} %" in line
        assert f"{row.gain_per_mm_percent:.2f} %" in line
    assert f"{found.to_plenum.value:.1f} kPa up to the plenum, which is {found.air_percent:.1f} %" in words
    assert f"from {found.limit_passed_rpm} rpm on" in words
    runners = next(row for row in found.rows if row.kind == "runner")
    assert f"{runners.whole_engine.text} CFM. So yes" in " ".join(words.split())


def test_the_choice_of_the_walk_is_what_is_computed(session):
    build = stage_2(session).id
    pool = candidate_sheet.kept_pool(
        session, CurveShelf(), Memo(8), hill_climb_five.JOB, "tube", build, date(2026, 5, 1)
    )
    sheet = candidate_sheet.candidate_sheet(pool, "trade")
    order = ["Tube", "Tube 76", "Composite tube 80", "Ribbed hose 80", "Tube 89"]
    assert [row.name for row in sheet.candidates] == order
    fitted, first, second, _, fouls = sheet.candidates
    assert [row.suits.value for row in sheet.candidates] == [
        "fitted_now", "too_small", "too_small", "worse", "ruled_out"
    ]  # fmt: skip
    assert fitted.there_now
    assert f"show is {sheet.shown_percent:.1f} %" in walk()
    assert not first.unchecked
    words = walk()
    for row in (first, second, fouls):
        assert f"{row.gain_low_percent:.1f} to {row.gain_high_percent:.1f} %" in words
        assert f"{row.bore.text} mm | {float(row.flow.text):.0f} CFM" in words
    assert f"about {round(first.cost_per_percent, -1):.0f} EUR for a per cent" in words


def test_the_walk_at_the_bench_says_what_the_demo_shows(demo):
    """docs/bench.md: every figure of the walk is on the demo's sheet."""
    walk = (ROOT / "docs" / "bench.md").read_text()
    with sessionmaker(demo).begin() as session:
        sheet = bench_sheet(session, hill_climb_five.JOB, "trade")
        effects = effects_of(session, load_job(session, hill_climb_five.JOB), "trade")
    items = {one.items[0].item: one for one in effects if one.alike}
    gain, fifth = sheet.mean.gain, sheet.rungs[4].after
    words = " ".join(walk.split())
    assert f"Clear gain: {gain.gain.text} CFM average ({gain.percent})" in words
    assert f"the ± of this comparison is {gain.half_width.text} CFM" in words
    assert f"How good is {fifth.mean.text} CFM (`O`)? ±{fifth.known.relative.text} CFM compared with" in words
    assert f"As a true flow ±{fifth.known.absolute.text} CFM" in words
    assert "the radius gives 3.5 %, the throttle costs 2.2 %" in walk
    assert (items["entry radius"].percent, items["throttle"].percent) == ("−3.4 %", "−2.2 %")
