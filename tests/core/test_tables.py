"""Published coefficients: each file names its source, rises, and is what the functions read."""

from pathlib import Path

import pytest

import elvarn.core.tables
from elvarn.core.path.losses import butterfly, rounded_entry, screen
from elvarn.core.tables import table

FILES = sorted(file.stem for file in Path(elvarn.core.tables.__file__).parent.glob("*.csv"))


@pytest.mark.parametrize("name", FILES)
def test_a_table_names_its_source_and_its_units(name):
    found = table(name)
    assert any(character.isdigit() for character in found.source)
    assert all(column.endswith("]") for column in found.columns)
    assert len(found.x) == len(found.y) > 2
    assert [found.at(x) for x in found.x] == list(found.y)


def test_between_two_rows_it_is_linear_and_beyond_its_ends_level():
    found = table("rounded_entry")
    assert found.at(0.03) == pytest.approx(0.26)
    assert found.at(9.0) == 0.04


def test_the_tables_are_those_of_the_losses():
    assert rounded_entry(0.06).value == 0.15
    assert screen(0.5).value == 3.8
    assert butterfly(40.0).value == 10.8
