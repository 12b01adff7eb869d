"""The drive of a bolt by hand: what a socket takes, and how a foot changes what the wrench is set to."""

import pytest

from elvarn.core.errors import OutOfRange
from elvarn.core.fit.drive import Drive, drive_findings, set_torque, socket_limit, tool_size


def test_sizes_of_tools():
    """ISO 4014, ISO 4762, DIN 7984, from memory."""
    sizes = [tool_size("M8", drive) for drive in Drive]
    assert sizes == [0.013, 0.006, 0.005, 0.005]
    assert tool_size("1/4-20 UNC", Drive.CAP) is None


def test_what_a_key_takes_by_hand():
    """0.1888 x 5³ mm³ x 800 MPa = 18.9 N·m; a shallow socket 0.7 of it."""
    assert socket_limit(0.005, Drive.CAP) == pytest.approx(18.88, abs=0.01)
    assert socket_limit(0.005, Drive.LOW) == pytest.approx(13.2, abs=0.05)
    assert socket_limit(0.005, Drive.CAP, ball=True) == pytest.approx(9.44, abs=0.01)
    with pytest.raises(OutOfRange):
        socket_limit(0.0, Drive.CAP)


def test_a_small_socket_in_a_low_head_gives_before_the_torque():
    """Common practice, no source: low heads with a 5 mm hex are changed for a hex head of class 8.8."""
    (found,) = drive_findings(22.0, "M8", Drive.LOW, [])
    assert "5 mm socket in a low head" in found.text
    assert "hex head of class 8.8" in found.text
    assert drive_findings(22.0, "M8", Drive.CAP, []) == []
    assert drive_findings(22.0, "M8", Drive.HEX, []) == []


def test_a_ball_end_and_a_crow_foot_are_told():
    assert [one.code for one in drive_findings(22.0, "M8", Drive.CAP, ["ball end 6 mm"])] == ["ball"]
    assert [one.code for one in drive_findings(22.0, "M8", Drive.HEX, ["crow foot 13 mm"])] == ["crow"]


def test_a_foot_in_line_by_levers():
    assert set_torque(22.0, 0.30, 0.05) == pytest.approx(18.857, abs=0.001)
    with pytest.raises(OutOfRange):
        set_torque(22.0, 0.30, 0.0)
