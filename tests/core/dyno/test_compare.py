"""Comparison of designs: exact integrals, the one rule, days and drift, what may be named."""

from math import log

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from elvarn.core.dyno.compare import compare, named_judged, over_band
from elvarn.core.dyno.curves import band_mean, crossing_speeds, crossings, still_climbing, stretches
from elvarn.core.dyno.learned import DynoKnown, learned_dyno, shown_by
from elvarn.core.dyno.pairing import Pull
from elvarn.core.dyno.pull import clean_pull
from elvarn.core.errors import NotEnoughData, OutOfRange
from elvarn.core.statistics.scatter import Scatter

RPM = np.linspace(2500, 7500, 101)
STOCK = clean_pull(RPM, 230 - ((RPM - 4500) / 260) ** 2)
PORTED = clean_pull(RPM + 17, 231 - ((RPM + 17 - 5000) / 270) ** 2)
UNKNOWN = learned_dyno()
EXACT = DynoKnown(*(Scatter(1e-6, 40) for _ in range(4)))


def pull(curve, day="1", mount=0, **more):
    return Pull(curve, day, mount, **more)


def same_day(stock=STOCK, other=PORTED, known=EXACT):
    return compare([pull(stock)], [pull(other, mount=1)], known)


def day_of(powers, day="1", mount=0, **more):
    """Pulls whose mean power over their speeds is as given."""
    return [pull(STOCK.times(power / 100), day, mount, **more) for power in powers]


class TestCurves:
    def test_band_means_are_integrals_of_each_pull_alone(self):
        """However the samples of the other lie, a mean is the integral of its own curve."""
        band = over_band(same_day(), (4500, 7000))
        inner = STOCK.engine_speed_rpm[(STOCK.engine_speed_rpm > 4500) & (STOCK.engine_speed_rpm < 7000)]
        grid = np.concatenate(([4500], inner, [7000]))
        alone = np.trapezoid(np.interp(grid, STOCK.engine_speed_rpm, STOCK.power), grid) / 2500
        assert band.power.stock_mean == pytest.approx(alone, rel=1e-12)
        assert band.power.stock_mean == pytest.approx(band_mean(STOCK.engine_speed_rpm, STOCK.power, 4500, 7000))
        assert band.power.other_mean == pytest.approx(band_mean(PORTED.engine_speed_rpm, PORTED.power, 4500, 7000))

    def test_the_same_pull_twice_differs_in_nothing(self):
        result = same_day(STOCK, STOCK)
        assert not over_band(result).power.verdict.real
        assert result.traces.crossings == result.traces.torque.gained == result.traces.torque.lost == ()

    def test_tells_gain_at_the_top_from_loss_below_and_where_they_meet(self):
        result = same_day()
        assert [crossing.clear for crossing in result.traces.crossings] == [True]
        assert (
            result.traces.torque.lost[0].high
            <= result.traces.crossings[0].engine_speed_rpm
            <= result.traces.torque.gained[0].low
        )
        assert result.traces.torque.gained[0].extreme_rpm == pytest.approx(7500, abs=1)

    def test_nothing_is_extrapolated(self):
        result = same_day(other=clean_pull(RPM[20:60], STOCK.torque[20:60] + 3))
        assert (result.traces.grid[0], result.traces.grid[-1]) == (RPM[20], RPM[59])
        band = over_band(result, (3000, 6000))
        assert (band.low, band.high) == (RPM[20], RPM[59])
        with pytest.raises(OutOfRange, match="less than half was pulled: the pulls share 3500 to 5450 rpm"):
            over_band(result, (2000, 9000))

    def test_refuses_pulls_without_common_speeds_and_bands_that_were_not_pulled(self):
        with pytest.raises(NotEnoughData, match="share none"):
            same_day(clean_pull(RPM[:20], STOCK.torque[:20]), clean_pull(RPM[50:], STOCK.torque[50:]))
        for band, words in (((8000, 9000), "not pulled"), ((5000, 5000), "no band"), ((6000, 5000), "no band")):
            with pytest.raises(OutOfRange, match=words):
                over_band(same_day(), band)

    def test_touching_is_no_crossing_and_a_stretch_of_zeros_is_one(self):
        grid = np.array([1.0, 2.0, 3.0, 4.0, 5.0])
        assert crossing_speeds(grid, np.array([1.0, 0.0, 1.0, 1.0, 1.0])) == []
        assert crossing_speeds(grid, np.array([1.0, 0.0, 0.0, 0.0, -1.0])) == [3.0]

    def test_a_stretch_of_one_sample_has_its_width(self):
        grid = np.array([3000.0, 3500.0, 4000.0])
        (one,) = stretches(grid, np.array([0.0, 4.0, 0.0]), np.full(3, 1.0), 1)
        assert (one.low, one.high) == (3125, 3875)
        assert one.mean == pytest.approx(2.5)

    def test_a_crossing_lies_where_the_difference_leaves_the_room(self):
        grid = np.linspace(3000, 5000, 21)
        (one,) = crossings(grid, (grid - 4000) / 100, np.full(21, 2.5))
        assert (one.engine_speed_rpm, one.low, one.high, one.clear) == (4000, 3700, 4300, True)
        (one,) = crossings(grid, (grid - 4900) / 100, np.full(21, 2.5))
        assert (one.high, one.clear) == (5000, False)

    @given(st.lists(st.floats(-50, 50).filter(lambda v: abs(v) > 1e-3), min_size=3, max_size=40))
    @settings(max_examples=200, deadline=None)
    def test_every_root_lies_where_the_sign_changes(self, values):
        grid, difference = np.arange(len(values), dtype=float), np.array(values)
        roots = crossing_speeds(grid, difference)
        assert len(roots) == int((np.sign(difference[1:]) != np.sign(difference[:-1])).sum())
        for root in roots:
            assert np.interp(root, grid, difference) == pytest.approx(0, abs=1e-6)

    @given(st.floats(0.9, 1.1), st.floats(2600, 5000), st.floats(200, 2400))
    @settings(max_examples=60, deadline=None)
    def test_a_curve_scaled_gains_that_share_of_every_band(self, factor, low, width):
        band = over_band(same_day(other=STOCK.times(factor)), (low, low + width))
        assert band.power.fraction == pytest.approx(factor - 1, abs=1e-9)
        assert band.torque.fraction == pytest.approx(factor - 1, abs=1e-9)

    def test_sees_power_that_still_climbs_at_the_end(self):
        assert still_climbing(clean_pull(RPM, np.full(len(RPM), 200.0)))
        assert not still_climbing(STOCK)

    def test_dense_pulls_are_compared_on_an_even_grid_and_averaged_on_their_own_samples(self):
        dense = np.linspace(2500, 7500, 5000)
        stock, other = (clean_pull(dense + off, 200 + dense / 100) for off in (0.0, 0.3))
        result = same_day(stock, other)
        assert len(result.traces.grid) == 2000
        assert over_band(result).power.stock_mean == pytest.approx(
            band_mean(stock.engine_speed_rpm, stock.power, result.traces.grid[0], result.traces.grid[-1]), rel=1e-12
        )


class TestOneRule:
    """Worked examples: the rule's own, with scatters as they are learned there."""

    KNOWN = DynoKnown(Scatter(0.2947, 8, 4), Scatter(0.5, 4), Scatter(0.3167, 5, 1), Scatter(0.8, 4))

    def test_stock_again_at_the_end_takes_the_drift_out(self):
        stock = day_of((282.0, 283.1)) + day_of((281.2, 280.9), mount=2)
        result = compare(stock, day_of((287.3, 286.1, 287.0), mount=1), self.KNOWN)
        verdict = over_band(result).power.verdict
        assert 100 * verdict.change / over_band(result).power.stock_mean == pytest.approx(1.775, abs=0.001)
        assert 100 * verdict.half_width / over_band(result).power.stock_mean == pytest.approx(1.134, abs=0.002)
        assert verdict.real

    def test_drift_is_judged_by_what_was_known_before_it(self):
        """Half-width of 2 against 2 pulls of two mounts, nothing learned: 2.776 √(0.36² + 2·0.3²)."""
        stock, other = day_of((100.0, 100.1)) + day_of((97.5, 97.6), mount=2), day_of((101.0,), mount=1)
        (drift,) = compare(stock, other, learned_dyno([stock, other])).drifts
        assert drift.verdict.change == pytest.approx(-2.5, abs=0.01)
        assert drift.verdict.real
        assert not drift.spoils
        assert drift.verdict.half_width == pytest.approx(2.776 * (0.36**2 + 2 * 0.3**2) ** 0.5, rel=0.2)

    def test_another_day_says_little(self):
        known = DynoKnown(Scatter(0.3244, 8, 4), Scatter(0.5, 4), Scatter(0.3, 4), Scatter(0.8, 4))
        result = compare(day_of((282.0, 283.1, 281.2)), day_of((287.3, 286.1, 287.0), day="2"), known)
        band = over_band(result).power
        assert 100 * band.fraction == pytest.approx(1.666, abs=0.001)
        assert not band.verdict.real
        assert band.verdict.remedy == "one session"
        assert 100 * band.verdict.half_width / band.stock_mean == pytest.approx(3.44, abs=0.02)

    def test_days_that_both_share_count_and_others_do_not(self):
        stock = day_of((100.0, 100.0)) + day_of((110.0,), day="2")
        result = compare(stock, day_of((103.0, 103.0), mount=1), EXACT)
        assert 100 * over_band(result).power.fraction == pytest.approx(3.0)
        assert result.pairing.left_out == 1

    def test_stock_on_another_fuel_is_no_drift(self):
        stock = day_of((100.0, 100.1), declared={"fuel": "98"}) + day_of((92.0,), mount=2, declared={"fuel": "95"})
        result = compare(stock, day_of((102.0,), mount=1, declared={"fuel": "98"}), UNKNOWN)
        assert result.drifts == ()
        assert result.traces is not None

    def test_a_day_on_which_stock_drifted_far_says_nothing(self):
        stock = day_of((100.0, 100.1)) + day_of((95.0, 95.1), mount=2)
        result = compare(stock, day_of((102.0,), mount=1), UNKNOWN)
        assert result.traces is None
        (drift,) = result.drifts
        assert drift.spoils
        assert drift.verdict.change == pytest.approx(-5, abs=0.1)

    def test_more_designs_against_one_stock_make_each_wider(self):
        one, four = (compare(day_of((100, 100.2)), day_of((103, 102.8), mount=1), UNKNOWN, n) for n in (1, 4))
        assert over_band(four).power.verdict.half_width > 1.3 * over_band(one).power.verdict.half_width


class TestLikeForLike:
    def test_pulls_that_are_unlike_have_no_figure(self):
        stock = day_of((100.0,), declared={"power": "engine", "fuel": "98"})
        other = day_of((104.0,), mount=1, declared={"power": "wheels", "fuel": "98"})
        result = compare(stock, other, UNKNOWN)
        assert result.traces is None
        assert result.pairing.unlike == ("power",)

    def test_what_is_alike_counts_alone(self):
        stock = day_of((100.0,), declared={"fuel": "98"}) + day_of((90.0,), declared={"fuel": "95"})
        other = day_of((102.0,), mount=1, declared={"fuel": "98"})
        result = compare(stock, other, EXACT)
        assert 100 * over_band(result).power.fraction == pytest.approx(2.0)
        assert result.pairing.left_out == 1

    def test_across_days_without_weather_nothing_is_alike(self):
        result = compare(day_of((100.0,), weather=False), day_of((110.0,), day="2", weather=False), UNKNOWN)
        assert (result.traces, result.pairing.unlike) == (None, ("weather",))
        same = compare(day_of((100.0,), weather=False), day_of((110.0,), mount=1, weather=False), UNKNOWN)
        assert same.traces is not None

    def test_a_gain_that_depends_on_the_fuel_has_no_joint_figure(self):
        stock = [p for fuel in ("95", "98") for p in day_of((100.0, 100.0), declared={"fuel": fuel})]
        other = [
            p
            for fuel, power in (("95", 101.0), ("98", 109.0))
            for p in day_of((power,) * 2, mount=1, declared={"fuel": fuel})
        ]
        assert compare(stock, other, UNKNOWN).depends_on == ("fuel",)

    def test_unknown_humidity_widens_across_days_and_cancels_within_one(self):
        def width(day, **humid):
            found = compare(day_of((100.0,), **humid), day_of((104.0,), day=day, mount=1, **humid), UNKNOWN)
            return over_band(found).power.verdict.half_width

        assert width("1", humidity=1.0) == width("1")
        assert width("2", humidity=1.0) > width("2")


class TestNaming:
    def test_named_over_all_speeds_is_wider_than_drawn(self):
        wobble = clean_pull(RPM, STOCK.torque * (1 + 0.03 * np.sin(RPM / 300)))
        result = same_day(other=wobble, known=UNKNOWN)
        outside = np.abs(result.traces.power.difference) > result.traces.power.room
        assert outside.any()
        assert result.traces.power.gained == ()
        assert not any(crossing.clear for crossing in result.traces.crossings)

    def test_speeds_count_once_every_250_rpm(self):
        assert [named_judged(3500, 6400), named_judged(4000, 4100)] == [13, 2]

    def test_no_stretch_is_named_among_equal_designs_more_often_than_promised(self):
        """Truth: nothing differs; a pull scatters as one piece, at each speed more. 300 pairs, 5 % and chance."""
        generator = np.random.default_rng(8)
        rough = np.linspace(0, 1, 11)

        def drawn(mount):
            wave = np.interp(np.linspace(0, 1, 101), rough, generator.normal(0, 0.005, 11))
            return [pull(clean_pull(RPM, STOCK.torque * (1 + wave)), mount=mount) for _ in range(1)]

        named = sum(bool(compare(drawn(0), drawn(1), UNKNOWN).traces.power.gained) for _ in range(300))
        assert named <= 300 * 0.05 + 3 * (300 * 0.05 * 0.95) ** 0.5


class TestLearned:
    def test_repeats_of_a_mount_tell_of_pulls_days_of_days(self):
        thing = day_of((100.0, 101.0)) + day_of((104.0, 105.0), day="2")
        known = learned_dyno([thing])
        pairs = [100 * log(101 / 100), 100 * log(105 / 104)]
        square = (4 * 0.36**2 + sum(d * d / 2 for d in pairs)) / 6
        assert known.pull.value == pytest.approx(square**0.5, rel=1e-6)
        assert (known.pull.own, known.mount.own, known.day.own) == (2, 0, 1)
        assert known.point.own == 2

    def test_a_stated_limit_is_2_8_scatters(self):
        assert learned_dyno(limit_percent=1.0).pull.value == pytest.approx(1 / 2.8)
        assert learned_dyno(day_percent=0.4).day.value == pytest.approx(0.4)

    def test_pulls_without_common_speeds_teach_nothing(self):
        low, high = clean_pull(RPM[:20], STOCK.torque[:20]), clean_pull(RPM[50:], STOCK.torque[50:])
        assert learned_dyno([[pull(low), pull(high)]]).pull.own == 0


def test_three_pulls_each_on_one_day_show_what_the_rules_table_says():
    """The rule's table, "dyno 3v3, one day", nothing learned: ±1.43 %; more pulls show less."""
    assert shown_by(learned_dyno(), 3) == pytest.approx(1.43, abs=0.005)
    assert shown_by(learned_dyno(), 1) > shown_by(learned_dyno(), 3) > shown_by(learned_dyno(), 9)
    with pytest.raises(OutOfRange):
        shown_by(learned_dyno(), 0)
