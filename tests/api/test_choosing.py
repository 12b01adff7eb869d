"""The guide to choosing tells what Elvarn computes: each row of its three walks is computed again."""

from pathlib import Path

import pytest

from tests.choices import CHOICES
from tests.told_choices import told

GUIDE = (Path(__file__).resolve().parents[2] / "docs" / "choosing.md").read_text()


def rows_of(section):
    """Rows of the tables of a section, without their heads."""
    lines = section.splitlines()
    heads = [n for n, line in enumerate(lines) if line.startswith("| ---")]
    skipped = {*heads, *(n - 1 for n in heads)}
    return [line for n, line in enumerate(lines) if line.startswith("|") and n not in skipped]


@pytest.mark.parametrize("name", CHOICES)
def test_each_row_of_a_walk_is_what_is_computed(shop, name):
    section = next(one for one in GUIDE.split("\n## ") if one.startswith(CHOICES[name].title))
    computed = [row for rows in told(shop, CHOICES[name], name).values() for row in rows]
    assert rows_of(section) == computed
