"""Reading apart: its answers and refusals come back; what takes too long or too much ends, and the next is read."""

import os
import time

import pytest

from elvarn.exchange.pull_columns import ColumnMap
from elvarn.exchange.pull_file import Contradiction
from elvarn.exchange.table import TableError, read_table
from elvarn.service.dyno.looked import look, rows_of
from elvarn.service.kernel.apart import Apart, here
from elvarn.service.kernel.errors import Invalid

PULL = b"rpm,Nm,kW\n" + b"".join(b"%d,150,%.3f\n" % (n, 150 * n / 9549.3) for n in range(2000, 6000, 200))


@pytest.fixture(scope="module")
def apart():
    apart = Apart(seconds=30.0)
    yield apart
    apart.end()


@pytest.fixture
def impatient():
    apart = Apart(seconds=1.0)
    yield apart
    apart.end()


def devour():
    return len(bytearray(900_000_000))


def test_what_is_read_apart_is_what_is_read_here(apart):
    assert apart(look, PULL) == here(look, PULL)
    assert apart(os.getpid) != os.getpid()


def test_a_refusal_comes_back_with_its_words(apart):
    with pytest.raises(TableError, match="holds no rows"):
        apart(read_table, b"")


def test_a_contradiction_comes_back_with_the_units_that_fit(apart):
    wrong = ColumnMap(0, 1, "lbf·ft", 2, "kW")
    with pytest.raises(Contradiction, match="rpm power is") as here_refused:
        here(rows_of, PULL, wrong, "check")
    with pytest.raises(Contradiction) as refused:
        apart(rows_of, PULL, wrong, "check")
    assert (str(refused.value), refused.value.fitting) == (str(here_refused.value), here_refused.value.fitting)
    assert refused.value.fitting == ("N·m", "kW")


def test_a_file_that_takes_too_long_is_refused_and_the_next_is_read(impatient):
    began = time.monotonic()
    with pytest.raises(Invalid, match="takes over 1 s to read"):
        impatient(time.sleep, 60)
    assert time.monotonic() - began < 20
    impatient._seconds = 30.0
    assert impatient(look, PULL).row_count == 20


def test_a_file_that_takes_too_much_is_refused_and_the_next_is_read(apart):
    with pytest.raises(Invalid, match="too much to read at once"):
        apart(devour)
    assert apart(look, PULL).row_count == 20


def test_a_reader_that_dies_is_followed_by_another(apart):
    with pytest.raises(Invalid, match="too much to read at once"):
        apart(os._exit, 9)
    assert apart(look, PULL).row_count == 20
