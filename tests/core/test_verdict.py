"""The one rule: its worked examples, its words, and how often it cries wolf over benches that are drawn."""

from dataclasses import replace
from math import log

import numpy as np
import pytest
from scipy.stats import binom

from dev.wolf import ALARMS, BY_CHANCE, CASES, LEARNED, false_alarms
from dev.wolf_dyno import DYNO_CASES, dyno_alarms
from elvarn.core.difference import Known, Term, difference, in_one_session, with_more, with_plate
from elvarn.core.errors import NotEnoughData, OutOfRange
from elvarn.core.statistics.modulus import modulus_quantile
from elvarn.core.statistics.scatter import Scatter, learned, learned_beside_slips
from elvarn.core.verdict import Remedy, decide, power

ASSUMED = Known(Scatter(0.5, 4), Scatter(0.5, 4), Scatter(0.3, 4))
BEFORE, AFTER = [199.0 + n for n in range(6)], [204.0 + n for n in range(6)]


def learned_from(assumed, own, count):
    """What is known after so many repeats of that scatter."""
    return Scatter(((4 * assumed**2 + count * own**2) / (4 + count)) ** 0.5, 4 + count, count)


TIED = Known(learned_from(0.5, 0.34, 16), Scatter(0.5, 4), learned_from(0.3, 0.20, 6), plates={"one": 2, "other": 2})


def read(flow, coefficient, cell, session="one", setup=None, mount=None):
    return Term(100 * log(flow), coefficient, cell, setup or cell, session, mount)


def runner(before, after, after_session="one", weight=1.0, name=1):
    return [read(before, -weight, ("before", name)), read(after, weight, ("after", name), after_session)]


def mean_of_six(after_session):
    terms = []
    for name, (before, after) in enumerate(zip(BEFORE, AFTER, strict=True)):
        terms += runner(before, after, after_session, before / sum(BEFORE), name)
    return terms, 100 * log(sum(AFTER) / sum(BEFORE))


def figures(verdict):
    return f"{verdict.change:+.3f} ±{verdict.half_width:.3f}"


class TestWorked:
    """Each by hand from the table of quantiles, to the last digit."""

    def test_one_runner_in_one_session_with_nothing_learned(self):
        verdict = decide(difference(runner(195.0, 199.3), ASSUMED), ASSUMED, 100)
        assert figures(verdict) == "+2.205 ±1.985"
        assert (verdict.real, verdict.assumed, verdict.one_setup) == (True, True, True)

    def test_one_of_six_in_another_session(self):
        verdict = decide(difference(runner(199.0, 204.0, "other"), ASSUMED), ASSUMED, 100, judged=6)
        assert figures(verdict) == "+2.513 ±4.421"
        assert (verdict.real, verdict.remedy) == (False, Remedy.PLATE)

    def test_the_mean_of_six_in_another_session(self):
        terms, value = mean_of_six("other")
        verdict = decide(difference(terms, ASSUMED, value), ASSUMED, 100)
        assert figures(verdict) == "+2.481 ±2.147"
        assert verdict.real

    def test_the_same_with_a_plate_and_repeats_of_its_own(self):
        one = decide(difference(runner(199.0, 204.0, "other"), TIED), TIED, 100, judged=6)
        assert (figures(one), one.real, one.assumed) == ("+2.513 ±1.864", True, False)
        terms, value = mean_of_six("other")
        mean = decide(difference(terms, TIED, value), TIED, 100)
        assert (figures(mean), mean.real) == ("+2.481 ±0.822", True)

    def test_a_copy(self):
        order = [(240.0, -0.5, "a"), (241.1, 0.5, "b"), (240.7, 0.5, "b"), (240.4, -0.5, "a")]
        terms = [read(flow, share, cell, setup=place) for place, (flow, share, cell) in enumerate(order, start=1)]
        verdict = decide(difference(terms, TIED), TIED, 100)
        assert figures(verdict) == "+0.291 ±0.789"
        assert (verdict.real, verdict.no_larger, verdict.one_setup) == (False, True, False)

    def test_pulls_of_stock_another_design_and_stock_again(self):
        mounts = {"stock": [282.0, 283.1], "other": [287.3, 286.1, 287.0], "again": [281.2, 280.9]}
        groups = {name: [100 * log(pull) for pull in pulls] for name, pulls in mounts.items()}
        means = [sum(groups[name]) / 2 for name in ("stock", "again")]
        known = Known(
            learned_beside_slips(0.36, list(groups.values())), Scatter(0.8, 4), Scatter(0.3, 4), learned(0.3, [means])
        )
        terms = []
        for name, share in (("stock", -0.5), ("other", 1.0), ("again", -0.5)):
            pulls = mounts[name]
            terms += [read(p, share / len(pulls), name, setup=(name, n), mount=name) for n, p in enumerate(pulls)]
        found = difference(terms, known)
        parts = {part.name: (part.count, part.scatter.value, part.scatter.freedom) for part in found.parts}
        assert parts == {
            "refit": (pytest.approx(0.5833, abs=5e-5), pytest.approx(0.2947, abs=5e-5), 8),
            "mount": (pytest.approx(1.5), pytest.approx(0.3167, abs=5e-5), 5),
        }
        verdict = decide(found, known, 100, plates=False)
        assert (figures(verdict), verdict.real) == ("+1.775 ±1.134", True)

    def test_pulls_of_two_days(self):
        stock, other = [282.0, 283.1, 281.2], [287.3, 286.1, 287.0]
        pulls = learned_beside_slips(0.36, [[100 * log(pull) for pull in day] for day in (stock, other)])
        known = Known(pulls, Scatter(0.8, 4), Scatter(0.3, 4), Scatter(0.3, 4))
        terms = [read(p, -1 / 3, "stock", "one", (0, n), "stock") for n, p in enumerate(stock)]
        terms += [read(p, 1 / 3, "other", "other", (1, n), "other") for n, p in enumerate(other)]
        verdict = decide(difference(terms, known), known, 100, plates=False)
        assert (figures(verdict), verdict.real) == ("+1.666 ±3.438", False)
        assert verdict.remedy == Remedy.ONE_SESSION


class TestParts:
    def test_a_session_common_to_both_sides_cancels(self):
        assert [part.name for part in difference(runner(200.0, 204.0), ASSUMED).parts] == ["refit"]

    def test_a_plate_counts_only_where_it_was_read_in_every_session(self):
        terms = runner(200.0, 204.0, "other")
        half_tied = Known(ASSUMED.refit, ASSUMED.session, ASSUMED.plate, plates={"one": 3})
        assert [part.name for part in difference(terms, half_tied).parts] == ["refit", "session"]
        assert [part.name for part in difference(terms, TIED).parts] == ["refit", "plate", "rest"]

    def test_points_read_in_one_mounting_share_what_it_repeats_within(self):
        points = [read(100.0, -1 / 4, "a", setup="a")] * 4 + [read(103.0, 1 / 4, "b", setup="b")] * 4
        assert difference(points, ASSUMED).parts[0].count == pytest.approx(2.0)

    def test_a_range_is_a_part_that_is_known(self):
        known = Known(ASSUMED.refit, ASSUMED.session, ASSUMED.plate, ranges=(2.5,))
        part = difference(runner(200.0, 204.0), known).parts[-1]
        assert (part.scatter.value, part.scatter.freedom) == (pytest.approx(2.5 / 3**0.5), float("inf"))
        assert part.width(6) == pytest.approx(modulus_quantile(6, float("inf")) * 2.5 / 3**0.5)

    def test_the_half_width_is_never_narrower_than_a_part_of_it(self):
        found = difference(runner(200.0, 204.0, "other"), ASSUMED)
        assert found.half_width(3) > max(part.width(3) for part in found.parts)

    def test_readings_that_scatter_more_than_the_bench_count_with_their_own_scatter(self):
        flows = (("before", -1 / 3, (200.0, 201.0, 199.5)), ("after", 1 / 3, (204.0, 215.0, 197.0)))
        terms = [read(f, share, side, setup=(side, n)) for side, share, side_flows in flows
                 for n, f in enumerate(side_flows)]  # fmt: skip
        verdict = decide(difference(terms, TIED), TIED, 100)
        assert (verdict.unquiet, verdict.real) == (True, False)

    def test_a_side_without_a_reading_makes_no_difference(self):
        with pytest.raises(NotEnoughData, match="no reading"):
            difference([read(200.0, 1.0, "after")], ASSUMED)
        with pytest.raises(NotEnoughData):
            difference([], ASSUMED)


class TestWords:
    def test_the_printed_half_width_is_the_one_that_decided(self):
        for after in np.linspace(190, 210, 81):
            found = difference(runner(200.0, float(after)), ASSUMED)
            verdict = decide(found, ASSUMED, 100)
            assert verdict.real == (abs(verdict.change) > verdict.half_width)

    def test_a_figure_goes_with_its_scale(self):
        found = difference(runner(200.0, 206.0), ASSUMED)
        percent, flow = decide(found, ASSUMED, 100), decide(found, ASSUMED, 200.0)
        assert percent.change == pytest.approx(3.0)
        assert flow.change == pytest.approx(6.0)
        assert flow.half_width == pytest.approx(2 * percent.half_width)

    def test_more_readings_are_promised_only_where_they_tell(self):
        found = difference(runner(200.0, 202.0), TIED)
        verdict = decide(found, TIED, 100)
        assert verdict.more == 2
        assert power(with_more(found, 2)) >= 0.8 > power(with_more(found, 1))

    def test_where_the_session_hides_it_more_readings_are_not_promised(self):
        verdict = decide(difference(runner(200.0, 204.0, "other"), ASSUMED), ASSUMED, 100)
        assert verdict.remedy == Remedy.PLATE
        found = difference(runner(200.0, 204.0, "other"), ASSUMED)
        assert power(with_more(with_plate(found, ASSUMED), verdict.more)) >= 0.8 > power(with_more(found, 9))
        assert [part.name for part in in_one_session(found).parts] == ["refit"]

    def test_no_change_is_never_real_and_asks_for_nothing(self):
        verdict = decide(difference(runner(200.0, 200.0), ASSUMED), ASSUMED, 100)
        assert (verdict.change, verdict.real, verdict.more, verdict.remedy) == (0.0, False, None, Remedy.NONE)
        assert verdict.half_width == pytest.approx(1.963, abs=5e-4)

    def test_what_matters_is_the_shops(self):
        found = difference(runner(200.0, 200.4), TIED)
        assert not decide(found, replace(TIED, matters=1.0), 100).no_larger
        assert decide(found, replace(TIED, matters=1.6), 100).no_larger

    def test_an_infinite_half_width_tells_nothing(self):
        unknown = Known(Scatter(float("inf"), 4), ASSUMED.session, ASSUMED.plate)
        verdict = decide(difference(runner(200.0, 900.0), unknown), unknown, 100)
        assert (verdict.real, verdict.no_larger, verdict.more) == (False, False, None)

    def test_a_reading_that_is_none_is_refused(self):
        with pytest.raises(OutOfRange):
            learned(0.0, [])


@pytest.mark.parametrize("known", LEARNED)
@pytest.mark.parametrize("case", CASES, ids=lambda case: case.name)
def test_benches_as_shops_have_them_cry_wolf_in_at_most_5_of_100(case, known):
    """300 seeded benches each; long runs are `./elvarn perf --verdicts`."""
    assert false_alarms(case, BY_CHANCE, known, 300, seed=3) <= binom.ppf(0.999, 300, ALARMS) / 300


@pytest.mark.parametrize("known", ["nothing", "much"])
@pytest.mark.parametrize("case", DYNO_CASES, ids=lambda case: case.name)
def test_dynos_as_shops_have_them_cry_wolf_in_at_most_5_of_100(case, known):
    """120 seeded days each; long runs are `./elvarn perf --verdicts`."""
    assert dyno_alarms(case, BY_CHANCE, known, 120, seed=6) <= binom.ppf(0.999, 120, ALARMS) / 120


def test_a_bench_three_times_worse_than_assumed_does_until_its_repeats_are_in():
    alone, learnt = (false_alarms(CASES[0], 3, known, 400, seed=4) for known in ("nothing", "much"))
    assert alone > 0.25
    assert learnt < 0.09
