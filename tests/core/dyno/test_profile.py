"""Where an engine is used: shares by hand, gears by kinematics, logs counted; nothing is judged that was not pulled."""

import numpy as np
import pytest
from scipy.integrate import quad, simpson

from elvarn.core.dyno.compare import compare, over_band
from elvarn.core.dyno.learned import learned_dyno
from elvarn.core.dyno.pairing import Pull
from elvarn.core.dyno.profile import Profile, Share, band_profile, gear_profile, log_profile, shifts_of
from elvarn.core.dyno.pull import clean_pull
from elvarn.core.errors import NotEnoughData, OutOfRange

RATIOS = (3.2, 2.0, 1.4, 1.0)
RPM = np.linspace(2000, 7500, 221)
STOCK = clean_pull(RPM, 230 - ((RPM - 4600) / 300) ** 2)


def other(change):
    return clean_pull(RPM, STOCK.torque + change(RPM))


def gain(changed, profile):
    found = compare([Pull(STOCK, "1")], [Pull(changed, "1", 1)], learned_dyno())
    return over_band(found, profile)


class TestGears:
    def test_a_shift_falls_by_the_ratio_of_the_ratios(self):
        falls = shifts_of(RATIOS, 7200)
        assert [one.gear for one in falls] == [2, 3, 4]
        assert [one.engine_speed_rpm for one in falls] == pytest.approx([4500, 5040, 7200 / 1.4])

    def test_time_in_each_gear_is_that_of_the_equation_of_motion(self):
        """Even torque: the time of each gear by integrating dt = m r² / (i² T) dn with SciPy's quad."""
        profile = gear_profile(RATIOS, 7200, 2500)
        begins = [2500, *(one.engine_speed_rpm for one in shifts_of(RATIOS, 7200))]
        times = [quad(lambda _, i=i: 1 / i**2, low, 7200)[0] for low, i in zip(begins, RATIOS, strict=True)]
        assert [one.share for one in profile.shares] == pytest.approx([t / sum(times) for t in times])
        assert sum(one.share for one in profile.shares) == pytest.approx(1)
        assert (profile.low, profile.high) == (2500, 7200)

    def test_a_loss_below_the_lowest_shift_hardly_counts(self):
        low_loss = other(lambda n: np.where(n < 4400, -10.0, 5.0))
        by_band, by_gears = (gain(low_loss, p).power.verdict.change for p in (
            band_profile(2500, 7200), gear_profile(RATIOS, 7200, 2500)))  # fmt: skip
        assert by_band < by_gears
        assert by_gears > 0

    @pytest.mark.parametrize(
        ("ratios", "shift", "away", "words"),
        [
            ((2.0,), 7000, 2000, "1 gear"),
            ((2.0, 3.0), 7000, 2000, "Gear 2 has 3 after 2"),
            ((2.0, 2.0), 7000, 2000, "Gear 2"),
            ((2.0, -1.0), 7000, 2000, "Gear 2 has -1"),
            (RATIOS, 7000, 7000, "below the shift's"),
            (RATIOS, 7000, 0, "below the shift's"),
        ],
    )
    def test_gears_that_can_not_be_are_refused(self, ratios, shift, away, words):
        with pytest.raises(OutOfRange, match=words):
            gear_profile(ratios, shift, away)


class TestProfile:
    def test_a_band_is_its_plain_average(self):
        changed = other(lambda n: 5 + (n - 4600) / 500)
        plain, shares = gain(changed, (4000, 7000)), gain(changed, band_profile(4000, 7000))
        assert plain.power.verdict == shares.power.verdict
        grid = np.linspace(4000, 7000, 3001)
        expected = simpson(np.interp(grid, RPM, changed.power - STOCK.power), x=grid)
        assert plain.power.verdict.change == pytest.approx(expected / 3000, rel=2e-3)

    def test_shares_weigh_each_stretch(self):
        profile = Profile((Share(3000, 4000, 0.25), Share(5000, 7000, 0.75)))
        assert profile.mean(STOCK.mean_power) == pytest.approx(
            0.25 * STOCK.mean_power(3000, 4000) + 0.75 * STOCK.mean_power(5000, 7000)
        )
        speeds = np.arange(3000.5, 7000, 1.0)
        assert profile.density(speeds).sum() == pytest.approx(1, abs=1e-6)

    def test_what_was_not_pulled_is_cut_and_told(self):
        cut, reached = Profile((Share(3000, 4000, 0.2), Share(6000, 8000, 0.8))).within(2000, 7500)
        assert reached == pytest.approx(0.8)
        assert [one.share for one in cut.shares] == pytest.approx([0.25, 0.75])
        assert cut.high == 7500
        with pytest.raises(OutOfRange, match="less than half was pulled"):
            band_profile(5000, 9000).within(2000, 6000)
        with pytest.raises(OutOfRange, match="was not pulled"):
            band_profile(8000, 9000).within(2000, 6000)


class TestLog:
    def test_time_is_counted_in_steps_and_gaps_are_nobodys(self):
        """One second at 4,100 rpm, three at 6,100 rpm, with a gap of a minute between them."""
        speeds = np.array([4100.0] * 50 + [6100.0] * 150)
        seconds = np.concatenate((np.arange(50) * 0.02, 60 + np.arange(150) * 0.02))
        profile = log_profile(speeds, seconds)
        assert [(one.low, one.high) for one in profile.shares] == [(4000, 4250), (6000, 6250)]
        assert [one.share for one in profile.shares] == pytest.approx([0.25, 0.75], abs=0.01)

    def test_what_is_not_at_full_throttle_is_left_out(self):
        speeds, throttle = np.array([3000.0] * 40 + [6000.0] * 40), np.array([30.0] * 40 + [99.0] * 40)
        (share,) = log_profile(speeds, throttle=throttle).shares
        assert (share.low, share.share) == (6000, 1)

    def test_too_short_a_log_is_refused(self):
        with pytest.raises(NotEnoughData, match="19 samples"):
            log_profile(np.full(19, 5000.0))
        with pytest.raises(NotEnoughData):
            log_profile(np.full(100, np.nan))
