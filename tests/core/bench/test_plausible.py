"""What is asked about a flow before it is kept."""

import pytest

from elvarn.core.bench.plausible import check_flow, flow_doubts
from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE, REFERENCE_DEPRESSION
from elvarn.core.errors import OutOfRange
from elvarn.core.gas.discharge import round_area

CFM = CUBIC_FOOT_PER_MINUTE
OTHERS = [201 * CFM, 199 * CFM, 205 * CFM]


def doubts(cfm, others=OTHERS, area=None):
    return [doubt.code for doubt in flow_doubts(cfm * CFM, others, area, REFERENCE_DEPRESSION)]


@pytest.mark.parametrize(
    ("cfm", "code"),
    [
        (2010, "ten_times"),
        (20.1, "a_tenth"),
        (201 * 1.699, "cubic_metres_per_hour"),
        (201 / 1.699, "cubic_feet_per_minute"),
        (480, "unlike_others"),
    ],
)
def test_asks_about_what_does_not_fit_the_other_runners(cfm, code):
    assert doubts(cfm) == [code]


@pytest.mark.parametrize("cfm", [185, 201, 222, 240])
def test_takes_what_port_work_can_do_without_a_word(cfm):
    assert doubts(cfm) == []


def test_has_nothing_to_compare_a_first_figure_with():
    assert doubts(2010, others=[]) == []


def test_asks_about_a_flow_above_what_the_opening_can_pass():
    """A 40 mm bore passes 273 CFM at most at 28 inH2O: 140.4 CFM for each square inch, by the isentropic nozzle."""
    area = round_area(0.040)
    assert doubts(272, others=[], area=area) == []
    assert doubts(282, others=[], area=area) == ["above_ceiling"]


@pytest.mark.parametrize("flow", [0.0, -0.1, float("nan")])
def test_refuses_what_is_no_reading(flow):
    with pytest.raises(OutOfRange):
        check_flow(flow)
