"""Area laws against closed forms."""

from math import degrees, pi, tan

import numpy as np
import pytest

from elvarn.core.errors import NotEnoughData, OutOfRange
from elvarn.core.port.section import equal_diameter
from elvarn.core.port.stations import integrated_volume, tapers
from elvarn.core.port.target import AreaLaw, Target, bell_depth, target_areas

PLACES = [0.0, 0.05, 0.10, 0.15]
NOW = np.array([[1400e-6, 1300e-6, 1250e-6, 1200e-6], [1390e-6, 1350e-6, 1200e-6, 1190e-6]])
FLOWS = [0.095, 0.090]


def of(law, now=NOW, flows=FLOWS, **more):
    return target_areas(Target(law, **more), PLACES, now, flows)


def test_constant_area_is_the_same_everywhere():
    assert of(AreaLaw.CONSTANT, area=1385e-6) == pytest.approx(np.full((2, 4), 1385e-6))


def test_a_taper_has_its_angle_between_any_two_stations():
    wanted = of(AreaLaw.TAPER, area=1400e-6, taper_deg=2.0)
    assert tapers(PLACES, wanted[0]) == pytest.approx([2.0, 2.0, 2.0])


def test_constant_velocity_is_flow_over_velocity():
    assert of(AreaLaw.VELOCITY, flow=0.12, velocity=90)[1, 2] == pytest.approx(0.12 / 90)


def test_the_best_runner_leads_at_each_station_even_where_one_was_not_measured():
    now = NOW.copy()
    now[0, 0] = np.nan
    assert of(AreaLaw.BEST, now)[0] == pytest.approx([1390e-6, 1350e-6, 1250e-6, 1200e-6])
    now[:, 0] = np.nan
    assert np.isnan(of(AreaLaw.BEST, now)[:, 0]).all()


def test_equal_volume_makes_all_hold_what_the_largest_holds():
    wanted = of(AreaLaw.VOLUME)
    volumes = [integrated_volume(PLACES, row) for row in wanted]
    assert volumes == pytest.approx([max(integrated_volume(PLACES, row) for row in NOW)] * 2)


def test_equal_flow_grows_with_what_is_missing_of_the_flow():
    wanted = of(AreaLaw.FLOW)
    assert wanted[0] == pytest.approx(NOW[0])
    assert wanted[1] == pytest.approx(NOW[1] * 95 / 90)


def test_a_runner_that_was_not_flowed_gets_no_target():
    assert np.isnan(of(AreaLaw.FLOW, flows=[0.095, None])[1]).all()


def test_to_the_head_port_the_bore_runs_straight():
    wanted = of(AreaLaw.HEAD, area=1000e-6)
    bores = [equal_diameter(area) for area in wanted[0]]
    assert np.diff(bores) == pytest.approx([(bores[-1] - bores[0]) / 3] * 3)
    assert wanted[:, -1] == pytest.approx([1000e-6, 1000e-6])
    assert wanted[:, 0] == pytest.approx(NOW[:, 0])


def test_by_hand_says_nothing_where_nothing_was_said():
    wanted = of(AreaLaw.HAND, by_hand={0.05: 1360e-6})
    assert wanted[0, 1] == 1360e-6
    assert np.isnan(wanted[:, [0, 2, 3]]).all()


def test_a_bell_is_a_quarter_circle_before_the_bore():
    assert [bell_depth(0.008, at) for at in (0.0, 0.008, 0.02)] == pytest.approx([0.008, 0.0, 0.0])
    places = [0.0, 0.004, 0.008, 0.05]
    wanted = target_areas(Target(AreaLaw.CONSTANT, area=pi / 4 * 0.04**2, bell=0.008), places, np.ones((1, 4)), [None])
    assert equal_diameter(wanted[0, 0]) == pytest.approx(0.056)
    assert equal_diameter(wanted[0, 1]) == pytest.approx(0.04 + 2 * (0.008 - 0.008 * 0.75**0.5))
    assert equal_diameter(wanted[0, 2]) == pytest.approx(0.04)


@pytest.mark.parametrize(
    ("law", "more", "words"),
    [
        (AreaLaw.CONSTANT, {}, "takes the area to hold"),
        (AreaLaw.TAPER, {}, "the area at the entry"),
        (AreaLaw.VELOCITY, {"flow": 0.1}, "the velocity to hold"),
        (AreaLaw.HEAD, {}, "the area of the head port"),
    ],
)
def test_a_law_without_what_it_takes_asks_for_it(law, more, words):
    with pytest.raises(NotEnoughData, match=words):
        of(law, **more)


def test_what_cant_be_is_refused():
    with pytest.raises(OutOfRange, match="taper is 9°"):
        of(AreaLaw.TAPER, area=1400e-6, taper_deg=9)
    closes = degrees(2 * 0.021 / 10)
    long = [0.0, 12.0]
    assert tan(closes) > 0
    with pytest.raises(OutOfRange, match="closes the runner"):
        target_areas(Target(AreaLaw.TAPER, area=1400e-6, taper_deg=2), long, np.ones((1, 2)), [None])
    with pytest.raises(NotEnoughData, match="No runner was flowed"):
        of(AreaLaw.FLOW, flows=[None, None])
    with pytest.raises(NotEnoughData, match="none has a volume"):
        of(AreaLaw.VOLUME, np.full((2, 4), np.nan))
