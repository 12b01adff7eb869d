"""Delimited files as the trade writes them."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elvarn.exchange.table import TableError, number, read_table, text_of, write_table

COMMA = "rpm,torque,power\n2000,150.5,31.5\n2500,160.25,42.0\n"
SEMICOLON = "Drehzahl;Moment;Leistung\nU/min;Nm;kW\n2000;150,5;31,5\n2500;160,25;42,0\n"
TAB = "# run 7\nRPM\tTorque (N·m)\tPower [kW]\n2000\t150.5\t31.5\n2500\t160.25\t42.0\n"


@pytest.mark.parametrize("text", [COMMA, SEMICOLON, TAB])
@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16"])
def test_reads_every_delimiter_and_encoding(text, encoding):
    table = read_table(text.encode(encoding))
    assert table.row_count == 2
    assert [table.numbers(index) for index in range(3)] == [[2000, 2500], [150.5, 160.25], [31.5, 42.0]]


def test_finds_the_row_of_units():
    assert [column.unit for column in read_table(SEMICOLON.encode()).columns] == ["U/min", "Nm", "kW"]


def test_finds_units_in_the_headings_and_keeps_comments():
    table = read_table(TAB.encode())
    assert [(column.heading, column.unit) for column in table.columns] == [
        ("RPM", ""),
        ("Torque", "N·m"),
        ("Power", "kW"),
    ]
    assert table.comments == ["run 7"]


@pytest.mark.parametrize(
    "heading", ["[" * 400, "a" + " " * 400 + "(", "(" * 250 + ")" * 250, "Torque " + "[ " * 200 + "]"]
)
def test_a_heading_of_brackets_is_read_at_once(heading):
    """A pattern that tried every pair of brackets took half a minute for it."""
    table = read_table(f"n,{heading}\n2000,150\n2500,160\n".encode())
    assert table.numbers(1) == [150, 160]


@pytest.mark.parametrize(
    ("content", "says"),
    [
        (b"n,M\n" + b"2000,150\n" * 100_001, "rows"),
        (b"n,M\n" + b",".join([b"1"] * 300) + b"\n", "columns"),
        (b"n," + b"M" * 600 + b"\n2000,150\n2100,151\n", "letters"),
        (b"n,M\n2000," + b"9" * 140_000 + b"\n", "letters|no table"),
        (b"\xff\xfeM", "rows|row of figures"),
    ],
)
def test_more_than_a_table_of_the_trade_holds_is_told(content, says):
    with pytest.raises(TableError, match=says):
        read_table(content)


def test_no_text_goes_out_as_a_formula_or_as_a_line_of_its_own():
    made = write_table(
        ["kind", "note"], ["", ""], [["tube", "=1+1"], ["tube", "-12.5"], ["tube", "a\n# b"]], ["one\ntwo"]
    )
    assert made.splitlines() == ["# one two", "kind,note", "tube,'=1+1", "tube,-12.5", "tube,a # b"]
    assert text_of("'=1+1") == "=1+1"
    assert text_of("'tis") == "'tis"


def test_a_preamble_is_no_heading():
    table = read_table(b"Cell 2\nDate;3 March\nn;M\n2000;150\n2100;151\n2200;152\n")
    assert [column.heading for column in table.columns] == ["n", "M"]


def test_takes_a_file_without_headings():
    assert [column.heading for column in read_table(b"2000,150\n2500,160\n").columns] == ["", ""]


def test_reads_old_windows_files_and_quoted_decimal_commas():
    assert read_table('n,"M"\n2000,"150,5"\n2500,"160,25"\n'.encode("cp1252")).numbers(1) == [150.5, 160.25]


def test_thousands_are_no_decimals():
    assert read_table(b"rpm\ttorque\n5,200\t150\n5,300\t151\n").numbers(0) == [5200, 5300]


@pytest.mark.parametrize("content", [b"", b"\n\n", b"just words\nand more\n", b"\x00\x01\x02"])
def test_refuses_what_is_no_table(content):
    with pytest.raises(TableError):
        read_table(content)


def test_empty_and_wordy_cells_are_no_numbers():
    assert math.isnan(number("", decimal_comma=False))
    assert math.isnan(number("n/a", decimal_comma=False))
    assert math.isnan(number("inf", decimal_comma=False))
    assert number("−12.5", decimal_comma=False) == -12.5


@given(st.lists(st.tuples(st.floats(1, 9e3), st.floats(1, 500)), min_size=2, max_size=30))
def test_what_is_written_is_read_again_unchanged(rows):
    cells = [[repr(a), repr(b)] for a, b in rows]
    table = read_table(write_table(["engine speed", "torque"], ["rpm", "N·m"], cells, ["a comment"]).encode())
    assert [table.numbers(0), table.numbers(1)] == [[a for a, _ in rows], [b for _, b in rows]]
    assert [column.unit for column in table.columns] == ["rpm", "N·m"]
    assert table.comments == ["a comment"]
