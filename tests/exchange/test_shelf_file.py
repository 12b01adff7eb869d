"""The shelf as a table and as JSON: what goes out comes in again, figure for figure."""

import json

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elvarn.core.path.features import PART_KINDS
from elvarn.exchange.shelf_file import (
    COLUMNS,
    DIMENSIONS,
    ShelfRecord,
    read_shelf,
    write_shelf_json,
    write_shelf_table,
)
from elvarn.exchange.table import TableError

words = st.text(st.characters(categories=("L", "Nd", "Zs"), max_codepoint=0x24F), min_size=1, max_size=20).map(
    str.strip
)
names = words.filter(bool)
figures = st.floats(0.01, 5000).map(lambda value: round(value, 3))
dimensions = st.dictionaries(st.sampled_from(DIMENSIONS), figures)
records = st.builds(
    ShelfRecord,
    kind=st.sampled_from(PART_KINDS),
    name=names,
    maker=words,
    note=words,
    mass_kg=st.none() | figures,
    price=st.none() | figures,
    lead_days=st.none() | st.integers(0, 200).map(float),
    advertised=dimensions,
    measured=dimensions,
    flow_cfm=st.none() | figures,
    depression_inh2o=st.none() | figures,
    features=st.dictionaries(st.sampled_from(("height_mm", "boost_kpa")), figures),
)


@given(st.lists(records, min_size=1, max_size=5))
def test_a_table_is_read_as_it_was_written(given_records):
    assert read_shelf("shelf.csv", write_shelf_table(given_records).encode()) == given_records


@given(st.lists(records, min_size=1, max_size=5))
def test_json_is_read_as_it_was_written(given_records):
    claims = [{"words": "more power", "needs": "a tune"}]
    full = [ShelfRecord(**{**record.__dict__, "claims": claims}) for record in given_records]
    assert read_shelf("shelf.json", write_shelf_json(full).encode()) == full


def test_headings_may_be_in_any_order_and_case():
    text = "Name\tKind\tmeasured bore mm\nT 1\tthrottle\t69.8\n"
    (record,) = read_shelf("shelf.tsv", text.encode())
    assert (record.kind, record.name, record.measured) == ("throttle", "T 1", {"bore_mm": 69.8})


def test_every_column_is_documented():
    from pathlib import Path

    page = (Path(__file__).resolve().parents[2] / "docs" / "formats.md").read_text()
    assert [column for column in COLUMNS if column not in page] == []


@pytest.mark.parametrize(
    ("part", "says"),
    [
        ({"name": "T"}, "no kind or no name"),
        ({"kind": "throttle", "name": ""}, "no name"),
        ({"kind": "throttle", "name": "T", "measured": {"bore_mm": -1}}, "-1 can't be"),
    ],
)
def test_wrong_parts_in_json_are_named(part, says):
    content = json.dumps({"format": "elvarn-shelf-1", "parts": [part]})
    with pytest.raises(TableError, match=says):
        read_shelf("shelf.json", content.encode())
