"""What the documents promise is there."""

import csv
import io
import re
from pathlib import Path

import pytest

from elvarn.core.bench import plausible
from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.dyno.correction import LIMITS, Standard
from elvarn.core.engine.demand import air_demand
from elvarn.core.engine.geometry import engine_displacement
from elvarn.core.engine.strokes import drawing_factor, even_strokes
from elvarn.core.gas.air import STANDARD_AIR, density_ideal
from elvarn.core.path.engine_losses import Draw, engine_losses
from elvarn.core.path.passage import lossless
from elvarn.core.path.port_flow import port_flow
from elvarn.core.path.routes import routes
from elvarn.core.path.tree import Branches, Element, ElementKind, Series
from elvarn.exchange.flow_file import read_flows
from elvarn.exchange.pull_columns import guess_columns, guess_map
from elvarn.exchange.table import read_table
from tests.core.path.test_flow import CFM, cfm

ROOT = Path(__file__).resolve().parents[1]
DOCUMENTS = [ROOT / "README.md", *sorted((ROOT / "docs").glob("*.md"))]


@pytest.mark.parametrize("document", DOCUMENTS, ids=lambda path: path.name)
def test_every_link_leads_somewhere(document):
    for target in re.findall(r"\]\(([^)#:]+)\)", document.read_text()):
        assert (document.parent / target).exists(), target


def test_every_command_is_in_the_readme():
    words = (ROOT / "README.md").read_text()
    help_text = (ROOT / "src" / "elvarn" / "host" / "cli.py").read_text()
    for command in re.findall(r'add_parser\("(\w+)"', help_text):
        assert f"./elvarn {command}" in words


def test_the_example_files_are_read():
    words = (ROOT / "docs" / "formats.md").read_text()
    blocks = [
        "\n".join(line.strip() for line in block.splitlines()) for block in re.findall(r"(?:^ {4}.*\n)+", words, re.M)
    ]
    flows, pull = blocks
    assert [row.typed for row in read_flows(read_table(flows.encode()), "cfm")] == ["345,1 m3/h", "372,0 m3/h"]
    mapping = guess_map(guess_columns(read_table(pull.encode())))
    assert (mapping.torque_unit, mapping.power_unit) == ("N·m", "kW")


def test_the_documented_limits_are_those_that_are_computed():
    words = (ROOT / "docs" / "figures.md").read_text()
    assert "factor 0.93 to 1.07" in words
    assert {limits.factor.words for limits in LIMITS.values()} == {"0.93 to 1.07"}
    assert LIMITS[Standard.SAE_J1349].dry_pressure.words == "90 to 105 kPa"
    assert LIMITS[Standard.ISO_1585].dry_pressure.words == "80 to 110 kPa"
    assert plausible.DECIMAL_SLIP == (6.0, 16.0)
    assert round(plausible.UNIT_RATIO, 3) == 1.699


def test_every_check_row_has_a_source():
    for path in (ROOT / "tests" / "checks").glob("*.csv"):
        for row in csv.DictReader(io.StringIO(path.read_text(encoding="utf-8"))):
            assert row["source"].strip(), f"{path.name}: {row['id']}"


def eight(second_throttle):
    """The two-bank eight of docs/choosing.md: its losses, and what a port of each bank draws."""

    def bank(number, cylinders):
        runners = tuple(Element(ElementKind.RUNNER, f"Runner {n}", n, number) for n in cylinders)
        throttle = Element(ElementKind.THROTTLE, f"Throttle {number}", bank=number)
        return Series((throttle, Element(ElementKind.PLENUM, f"Plenum {number}", bank=number), Branches(runners)))

    tree = Series((Element(ElementKind.FILTER, "Filter"), Branches((bank(1, (1, 3, 5, 7)), bank(2, (2, 4, 6, 8))))))
    way, strokes = routes(tree), even_strokes(8, (1, 8, 4, 3, 6, 5, 7, 2), 236)
    runners = [cfm(228, 0.046, 0.042)] * 4
    passages = [cfm(1050, 0.110), cfm(505, 0.062), lossless(0.09), *runners,
                cfm(second_throttle, 0.062), lossless(0.09), *runners]  # fmt: skip
    air = air_demand(engine_displacement(0.092, 0.0752, 8), 6800, 0.95)
    losses = engine_losses(way, passages, Draw(air * density_ideal(STANDARD_AIR), STANDARD_AIR, strokes))
    ports = [port_flow(way, passages, cylinder, REFERENCE_DEPRESSION).series / CFM for cylinder in (1, 2)]
    factors = [drawing_factor(strokes, cylinders) for cylinders in ((1, 3, 5, 7), (1,))]
    return air / CFM, losses, ports, factors


def test_the_walk_with_the_eight_is_what_is_computed():
    words = (ROOT / "docs" / "choosing.md").read_text()
    air, losses, _, factors = eight(505)
    rows = {row.row.label: row for row in losses.rows}
    assert f"it draws {air:.0f} CFM" in words
    assert f"| filter | {rows['Filter'].drop / 1000:.2f} kPa | {100 * rows['Filter'].share:.0f} % |" in words
    throttle = rows["Throttle 1"]
    assert f"| each throttle | {throttle.drop / 1000:.2f} kPa | {100 * throttle.share:.0f} % |" in words
    assert f"| runners | {rows['Runners'].drop / 1000:.2f} kPa | {100 * rows['Runners'].share:.0f} % |" in words
    assert f"{losses.to_plenum / 1000:.2f} kPa are lost" in words
    assert f"lose {factors[0]:.1f} times" in words
    assert f"loses {factors[1]:.0f} times" in words
    _, smaller, ports, _ = eight(440)
    second = next(row for row in smaller.rows if row.row.label == "Throttle 2")
    assert f"to {second.drop / 1000:.2f} kPa" in words
    assert f"{smaller.to_plenum / 1000:.2f} kPa, and on the bench" in words
    assert f"draws {ports[1]:.0f} CFM" in words.replace("\n", " ")
    assert f"draws {ports[0]:.0f}" in words
