"""What the bench's figures say: each sentence for the case that it is for."""

from dataclasses import replace
from datetime import timedelta
from uuid import UUID

import pytest

from elvarn.core.bench.balance import balance
from elvarn.core.bench.gain import ASSUMED, gain_over_runners
from elvarn.core.bench.pairs import Refit, pairs_of
from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE, INCH_OF_WATER
from elvarn.core.difference import Known
from elvarn.core.errors import NotEnoughData
from elvarn.core.finding import Grade
from elvarn.core.statistics.scatter import Scatter
from elvarn.service.bench.words import BenchFacts, bench_margin
from elvarn.service.record.trust import Trust

CFM = CUBIC_FOOT_PER_MINUTE
LEARNED = Known(Scatter(0.5, 400, 396), Scatter(0.5, 4), Scatter(0.3, 4))
TIED = replace(LEARNED, plates={0: 2, 1: 2})
ONE_SESSION, TWO_SESSIONS = {UUID(int=0): 0}, {UUID(int=0): 0, UUID(int=1): 1}
BARE, CLAY = {"entry radius": "no radius"}, {"entry radius": "clay radius"}


def facts(before, after=(), known=LEARNED, sessions=None, declared=(BARE, BARE), conversion=0.0, **more):
    """Facts of a series in CFM, one reading a runner, None where a runner was not read."""
    sessions = sessions or ONE_SESSION
    of_side = (next(iter(sessions.values())), list(sessions.values())[-1])
    sides = tuple(
        {n: [Refit(v * CFM, at, words)] for n, v in enumerate(side, start=1) if v}
        for side, at, words in zip((before, after), of_side, declared, strict=True)
    )
    means = tuple({n: v[0].flow for n, v in side.items()} for side in sides)
    count, pairs = len(before), pairs_of(*sides)
    both = bool(pairs.alike)

    def balanced(side):
        try:
            return balance(side, count, known)
        except NotEnoughData:
            return None

    given = {
        "runners": range(1, count + 1),
        "cut": bool(after),
        "means": means,
        "pairs": pairs,
        "gains": gain_over_runners(pairs, known) if both else None,
        "balances": tuple(balanced(side) for side in sides),
        "trust": Trust(known, sessions, both, False, conversion),
        "bench": "Bench 1",
        "apart": timedelta(hours=1) if both else None,
        "depressions": [28 * INCH_OF_WATER],
        "marked": {},
    }
    return BenchFacts(**{**given, **more})


def said(given, preset="trade"):
    return [sentence.text for sentence in bench_margin(given, preset)]


def test_nothing_read_yet_says_only_what_is_next():
    assert said(facts([None] * 5)) == ["Read runner 1 before porting."]


def test_one_runner_stands_for_the_others():
    given = facts([None, None, 200], runners=(3,), reference=3)
    assert said(given)[-1] == "Runner 3 before is complete. Port it, then press A for the after readings."
    words = said(facts([None, None, 200], [None, None, 214], runners=(3,), reference=3))
    assert "Reading runner 3 only; balance is not checked. Press N for all runners." in words
    assert words[-1] == "Complete. Press P for the sheet."


def test_a_gain_leads_with_its_figure_then_its_percent():
    words = said(facts([200, 201, 199], [214, 215, 213]))
    assert (
        words[0] == "Clear gain: +14.0 CFM average over runners 1 to 3 (+7.0 %). The ± of this comparison is 1.7 CFM."
    )
    assert not any(text.startswith("Runner") and "clear" in text for text in words)


def test_a_loss_is_said_as_one():
    words = said(facts([200], [190]))
    assert words[0].startswith("Clear loss: −10.0 CFM on runner 1 (−5.0 %).")


def test_what_is_too_small_says_how_many_set_ups_would_tell():
    words = said(facts([200, 200], [202.6, 214]))
    assert words[1] == "Runner 1: too close to call; try 2 more refits a side."
    words = said(facts([200, 200], [204.2, 240], sessions=TWO_SESSIONS, apart=timedelta(days=9)))
    assert words[1].startswith("Runner 1: too close to call; try a reference plate in both sessions and ")
    words = said(facts([200, 200, 200], [202.6, 201.9, 214]))
    assert words[1] == "Runners 1 and 2: too close to call, each for itself."


def test_what_was_set_up_in_two_ways_is_not_compared_and_that_leads():
    words = said(facts([200, 201], [214, 215], declared=(BARE, CLAY)))
    assert words[0] == (
        "Not comparable: runners 1 and 2, they differ in entry radius before and after. "
        "Read one side again, set up as the other was."
    )
    assert not any("Clear" in text or "clear" in text for text in words)
    assert words[-1].startswith("Press U, set up as before, read the runners again. Or press P: the sheet says")


def test_what_the_other_side_has_no_like_of_is_told_as_left_out():
    more = Refit(230 * CFM, 0, CLAY)
    pairs = pairs_of({1: [Refit(200 * CFM, 0, BARE), more]}, {1: [Refit(214 * CFM, 0, BARE)]})
    words = said(facts([200], [214], pairs=pairs))
    assert "One reading has no like on the other side: left out." in words


def test_what_is_assumed_is_said_beside_the_word():
    words = said(facts([200, 201], [214, 215], known=ASSUMED))[0]
    assert words.startswith("Clear gain: +14.0 CFM")
    assert words.endswith(", with an assumed repeatability.")
    session = said(facts([200, 201], [204, 205], known=ASSUMED, sessions=TWO_SESSIONS))[0]
    assert session.startswith("Too close to call: +4.0 CFM average over runners 1 and 2 (+2.0 %).")
    assert "is 4.9 CFM, with an assumed repeatability. Try a reference plate in both sessions" in session


def test_a_gain_that_one_runner_carries_is_told_with_what_to_look_for():
    words = said(facts([200] * 4, [200.1, 216, 200.0, 199.9]))
    assert words[0].startswith("Clear gain: +4.0 CFM average over runners 1 to 4")
    carried = next(text for text in words if "carries" in text)
    assert carried.startswith("Runner 2 carries this gain. The others changed by 0.0 %, too close to call.")
    assert "injector hole" in carried
    assert not any("carries" in text for text in said(facts([200] * 4, [214, 216, 213, 215])))


def test_all_that_are_behind_are_to_be_worked():
    assert said(facts([200] * 6, [215, 206, 216, 203, 215.5, 214.5]))[-1] == (
        "Runners 4 and 2 are low: bring them up, or press P for the sheet."
    )


def test_runners_that_are_not_neighbours_are_listed():
    assert "average over runners 1, 3 and 4" in said(facts([200, None, 200, 199], [214, None, 215, 213]))[0]


def test_balance_before_and_after_and_who_is_behind():
    words = said(facts([200, 190, 200], [215, 203, 214]))
    spread = next(text for text in words if "spread" in text)
    assert spread == (
        "Not balanced: runners spread 5.7 % after, 5.1 % before. Up to 3 % is balanced. "
        "Runner 2 is low. Runners 1 and 3 are high."
    )
    assert words[-1] == "Runner 2 is low: bring it up, or press P for the sheet."


def test_balance_waits_for_two_thirds_of_the_runners():
    assert not any("spread" in text for text in said(facts([200, 190, None, None])))


@pytest.mark.parametrize(
    ("more", "words"),
    [
        ({"known": ASSUMED}, "Repeatability of Bench 1 not known yet; 0.5 % assumed. Refit a runner"),
        (
            {"sessions": TWO_SESSIONS, "apart": timedelta(days=10)},
            "10 days between before and after. The ± allows 0.5 % session shift. Read a reference plate next time.",
        ),
        (
            {"known": TIED, "sessions": TWO_SESSIONS, "apart": timedelta(days=10)},
            "10 days between before and after. The reference plate corrects the session shift.",
        ),
        ({"conversion": 0.02}, "Different depressions before and after. The ± allows 2.0 %"),
        ({"depressions": [5 * INCH_OF_WATER]}, "Converted from a depression 5.6 times off"),
        (
            {"marked": {1: "above_ceiling"}},
            "Runner 1 is flagged: more than the bore can pass. Check calibration and bore.",
        ),
    ],
)
def test_every_doubt_is_told(more, words):
    assert any(text.startswith(words) for text in said(facts([200, 201], [214, 215], **more)))


def test_within_one_session_nothing_is_said_of_a_shift():
    assert not any("between before" in text for text in said(facts([200, 201], [214, 215])))


def test_next_follows_the_work():
    assert said(facts([200, None, 200]))[-1] == "Read runner 2 before porting."
    assert said(facts([200, 200, 200]))[-1].startswith("Before is complete. Port it, then press A")
    assert said(facts([200, 200], [215, None]))[-1] == "Read runner 2 after porting."
    assert said(facts([200, 200], [215, 215]))[-1] == "Complete. Press P for the sheet."


def test_figures_follow_the_units_and_lead_to_the_worktop():
    sentence = bench_margin(facts([200], [214]), "metric")[0]
    assert "23.8 m³/h" in sentence.text
    assert [piece.target for piece in sentence.pieces if piece.target] == ["gain-mean"]
    assert sentence.grade is Grade.COMPUTED
