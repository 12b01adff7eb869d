"""What the documents promise is there."""

import csv
import io
import re
from pathlib import Path

import pytest

from elvarn.core.bench import plausible
from elvarn.core.dyno.correction import LIMITS, Standard
from elvarn.exchange.flow_file import read_flows
from elvarn.exchange.pull_file import guess_columns, guess_map
from elvarn.exchange.table import read_table

ROOT = Path(__file__).resolve().parents[1]
DOCUMENTS = [ROOT / "README.md", *sorted((ROOT / "docs").glob("*.md"))]


@pytest.mark.parametrize("document", DOCUMENTS, ids=lambda path: path.name)
def test_every_link_leads_somewhere(document):
    for target in re.findall(r"\]\(([^)#:]+)\)", document.read_text()):
        assert (document.parent / target).exists(), target


def test_every_command_is_in_the_readme():
    words = (ROOT / "README.md").read_text()
    help_text = (ROOT / "src" / "elvarn" / "cli.py").read_text()
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
    assert {limits.factor for limits in LIMITS.values()} == {(0.93, 1.07)}
    assert LIMITS[Standard.SAE_J1349].dry_pressure == (90e3, 105e3)
    assert LIMITS[Standard.ISO_1585].dry_pressure == (80e3, 110e3)
    assert plausible.DECIMAL_SLIP == (6.0, 16.0)
    assert round(plausible.UNIT_RATIO, 3) == 1.699


def test_every_check_row_has_a_source():
    for path in (ROOT / "tests" / "checks").glob("*.csv"):
        for row in csv.DictReader(io.StringIO(path.read_text(encoding="utf-8"))):
            assert row["source"].strip(), f"{path.name}: {row['id']}"
