"""Tables of flows."""

import pytest

from elvarn.exchange.flow_file import FlowRow, read_flows
from elvarn.exchange.table import TableError, read_table


def test_reads_a_column_for_each_side_with_its_unit():
    rows = read_flows(read_table(b"Runner;before [m3/h];after\n1;345,1;372,0\n2;340,2;\n"), "cfm")
    assert rows == [
        FlowRow(1, "before", "345,1 m3/h"),
        FlowRow(2, "before", "340,2 m3/h"),
        FlowRow(1, "after", "372,0 cfm"),
    ]


def test_reads_a_row_for_each_figure():
    rows = read_flows(read_table(b"cyl,flow,state\n1,201.6,before\n1,215.2,after\n"), "cfm")
    assert [row.side for row in rows] == ["before", "after"]


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"a,before\n1,201\n2,202\n", "Column 'runner' missing"),
        (b"runner,x\n1,201\n2,202\n", "no column 'before'"),
        (b"runner,flow,side\n1,201,later\n2,202,later\n", "neither 'before' nor 'after'"),
        (b"runner,before\n1,201\n2.5,202\n", "'2.5' in row 2"),
    ],
)
def test_says_what_is_missing(content, words):
    with pytest.raises(TableError, match=words):
        read_flows(read_table(content), "cfm")


@pytest.mark.parametrize(
    ("cell", "at"),
    [
        ("2019-05-31", "2019-05-31T12:00:00+00:00"),
        ("31.5.2019", "2019-05-31T12:00:00+00:00"),
        ("2019-05-31T08:30:00+02:00", "2019-05-31T08:30:00+02:00"),
        ("", None),
    ],
)
def test_an_old_sheet_says_when_it_was_read(cell, at):
    rows = read_flows(read_table(f"runner;before;date\n1;201.6;{cell}\n2;199.1;{cell}\n".encode()), "cfm")
    assert [row.taken_at for row in rows] == [at, at]


def test_a_date_that_can_be_read_two_ways_is_refused():
    with pytest.raises(TableError, match="ambiguous"):
        read_flows(read_table(b"runner;before;date\n1;201.6;5/6/2019\n2;199.1;5/6/2019\n"), "cfm")
