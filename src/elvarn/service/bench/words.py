"""What the figures of a bench sheet say, in shop words."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from datetime import timedelta

from elvarn import units
from elvarn.core.bench.balance import Balance
from elvarn.core.bench.by_setup import SetupGain, items_between
from elvarn.core.bench.gain import ASSUMED, GainOverRunners, RunnerGain, carried_by
from elvarn.core.bench.pairs import Pairs
from elvarn.core.bench.reference import conversion_findings
from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.finding import Grade
from elvarn.service.kernel.sentences import (
    Sentence,
    first_up,
    from_finding,
    headline,
    judged,
    listed,
    sentence,
    what_would_tell,
)
from elvarn.service.record.marks import MARKS
from elvarn.service.record.trust import Trust

WORTH_TELLING = 0.001  # of the flow: less than any bench repeats
OTHER_RANGE = "Read it again on a range that fits."
WHAT_TO_DO = {
    "above_ceiling": "Check calibration and bore.",
    "over_range": OTHER_RANGE,
    "range_full": OTHER_RANGE,
    "range_bottom": OTHER_RANGE,
}


@dataclass(frozen=True)
class BenchFacts:
    """What the sentences rest on. `runners` are those to be read. Pairs are (before, after); flows are m³/s at the
    reference depression."""

    runners: Sequence[int]
    cut: bool
    means: tuple[dict[int, float], dict[int, float]]
    pairs: Pairs
    gains: GainOverRunners | None
    balances: tuple[Balance | None, Balance | None]
    trust: Trust
    bench: str | None
    apart: timedelta | None
    depressions: list[float]
    marked: dict[int, str]
    by_setup: Sequence[SetupGain] = ()
    reference: int | None = None
    notes: list[Sentence] = field(default_factory=list)


def bench_margin(facts: BenchFacts, preset: units.Preset) -> list[Sentence]:
    """The sentences, the most important first and what to do last."""
    said = [*_about_likeness(facts.pairs), *_about_setups(facts.by_setup)]
    if facts.gains is not None:
        said += _about_gains(facts.gains, preset)
        said += _about_one_that_carries(facts)
    said += _about_balance(facts)
    if facts.reference is not None:
        answer = f"Reading runner [{facts.reference}](rung-{facts.reference}) only; balance is not checked."
        said.append(sentence(answer, Grade.RULE, action="Press N for all runners.", paper=True))
    said += _about_trust(facts)
    said += facts.notes
    said.append(_next(facts))
    return said


def _about_likeness(pairs: Pairs) -> Iterator[Sentence]:
    """Where the two sides of a runner were never set up alike, that is the answer."""
    if not pairs.unlike:
        return
    who = _runners(list(pairs.unlike))
    differ = f"{'it differs' if len(pairs.unlike) == 1 else 'they differ'} in {listed(list(pairs.differing))}"
    answer = f"Not comparable: {who[0].lower()}{who[1:]}, {differ} before and after."
    yield sentence(answer, Grade.MEASURED, "doubt", action="Read one side again, set up as the other was.", paper=True)


def _about_setups(gains: Sequence[SetupGain]) -> Iterator[Sentence]:
    """Where the gains of two set-ups differ, each stands for itself."""
    if not gains:
        return
    items = items_between(gains)
    each = [
        f"{', '.join(gain.declared.get(item) or 'not said' for item in items)} "
        f"{units.percent_text(gain.verdict.change)} ±{gain.verdict.half_width * 100:.1f}"
        for gain in gains
    ]
    yield sentence(
        f"Gain depends on {listed(list(items))}: {'; '.join(each)}.",
        Grade.COMPUTED,
        "doubt",
        reason="They differ by more than their ±, so there is no joint figure.",
        action="Go by the one that is nearest to the engine.",
        paper=True,
    )


def _about_gains(gains: GainOverRunners, preset: units.Preset) -> Iterator[Sentence]:
    verdict = gains.verdict
    mean = units.show_difference(verdict.change, "flow", preset)
    width = units.show(verdict.half_width, "flow", preset)
    figure = f"[{mean.text} {mean.unit}](gain-mean)"
    numbers = [gain.cylinder for gain in gains.runners]
    where = f"average over {_runners(numbers).lower()}" if len(numbers) > 1 else f"on runner {numbers[0]}"
    percent = units.percent_text(gains.fraction)
    basis = ", with an assumed repeatability" if verdict.assumed else ""
    would = what_would_tell(verdict)
    yield sentence(
        f"{headline(verdict)}: {figure} {where} ({percent}).",
        Grade.COMPUTED,
        reason=f"The ± of this comparison is {width.text} {width.unit}{basis}.",
        action=f"{first_up(would)}." if would else "",
        paper=True,
    )
    yield from _which_are_clear(gains.runners)


def _about_one_that_carries(facts: BenchFacts) -> Iterator[Sentence]:
    """A gain of all that is one runner's: something may have stood open or shut there."""
    runner = carried_by(facts.pairs, facts.trust.known)
    if runner is None:
        return
    others = units.percent_text(facts.pairs.without(runner).fraction)
    yield sentence(
        f"Runner [{runner}](rung-{runner}) carries this gain.",
        Grade.COMPUTED,
        "doubt",
        reason=f"The others changed by {others}, too close to call.",
        action="Look for an injector hole or a vacuum port that stood open there on one side only.",
    )


def _which_are_clear(runners: tuple[RunnerGain, ...]) -> Iterator[Sentence]:
    """The runners whose own change is not clear; where all are, their rungs say it."""
    unsure = [gain for gain in runners if not gain.verdict.real]
    if not unsure or len(runners) == 1:
        return
    linked = listed([f"[{gain.cylinder}](rung-{gain.cylinder})" for gain in unsure])
    who = f"Runner {linked}" if len(unsure) == 1 else f"Runners {linked}"
    words = {judged(gain.verdict) for gain in unsure}
    told = words.pop() if len(words) == 1 else "too close to call, each for itself"
    yield sentence(f"{who}: {told}.", Grade.COMPUTED, paper=True)


def _about_balance(facts: BenchFacts) -> Iterator[Sentence]:
    before, after = facts.balances
    latest = after or before
    if latest is None:
        return
    when = "after" if after else "before"
    out = ""
    if latest.behind:
        out = f"{_are(latest.behind)} low."
    if latest.ahead:
        out += f"{' ' if out else ''}{_are(latest.ahead)} high."
    if not latest.even and not out:
        out = f"Runner [{latest.weakest}](rung-{latest.weakest}) reads least."
    was = f", {before.spread * 100:.1f} % before" if before and after else ""
    word = "Balanced" if latest.even else "Not balanced"
    yield sentence(
        f"{word}: runners spread [{latest.spread * 100:.1f} %](spread) {when}{was}.",
        Grade.COMPUTED,
        "plain" if latest.even else "doubt",
        reason=" ".join(part for part in ("" if latest.even else "Up to 3 % is balanced.", out) if part),
        paper=True,
    )


def _about_trust(facts: BenchFacts) -> Iterator[Sentence]:
    trust = facts.trust
    left_out = sum(pair.left_out for pair in facts.pairs.alike)
    if left_out:
        text = f"{_number(left_out)} reading{'s have' if left_out > 1 else ' has'} no like on the other side: left out."
        yield sentence(text, Grade.MEASURED, "doubt")
    if facts.bench and trust.assumed:
        answer = f"Repeatability of {facts.bench} not known yet; {ASSUMED.refit.value:g} % assumed."
        yield sentence(answer, Grade.RULE, action="Refit a runner and read it again a few times.")
    if facts.apart is not None and not trust.near:
        yield _about_days(facts.apart, trust)
    if trust.conversion >= WORTH_TELLING:
        out = f"{trust.conversion * 100:.1f} %"
        yield sentence(
            "Different depressions before and after.",
            Grade.ESTIMATED,
            "doubt",
            reason=f"The ± allows {out} for converting.",
            action="Use one depression.",
            paper=True,
        )
    for depression in facts.depressions:
        yield from map(from_finding, conversion_findings(depression, REFERENCE_DEPRESSION))
    for cylinder, mark in facts.marked.items():
        answer = f"Runner [{cylinder}](rung-{cylinder}) is flagged: {MARKS.get(mark, mark)}."
        yield sentence(answer, Grade.MEASURED, "doubt", action=WHAT_TO_DO.get(mark, ""))


def _about_days(apart: timedelta, trust: Trust) -> Sentence:
    days = max(1, round(apart / timedelta(days=1)))
    answer = f"{days} day{'s' if days > 1 else ''} between before and after."
    if trust.tied:
        return sentence(answer, Grade.COMPUTED, reason="The reference plate corrects the session shift.", paper=True)
    return sentence(
        answer,
        Grade.ESTIMATED,
        "doubt",
        reason=f"The ± allows {trust.session_shift * 100:.2g} % session shift.",
        action="Read a reference plate next time.",
        paper=True,
    )


def _next(facts: BenchFacts) -> Sentence:
    before, after = facts.means
    side = after if facts.cut else before
    missing = [n for n in facts.runners if n not in side]
    if missing:
        when = "after porting" if facts.cut else "before porting"
        return sentence(f"Read runner [{missing[0]}](rung-{missing[0]}) {when}.", Grade.RULE, "next")
    if not facts.cut:
        who = "Before" if facts.reference is None else f"Runner {facts.reference} before"
        text = f"{who} is complete. Port it, then press A for the after readings."
        return sentence(text, Grade.RULE, "next")
    if facts.pairs.unlike and facts.gains is None:
        text = "Press U, set up as before, read the runners again. Or press P: the sheet says it can't be compared."
        return sentence(text, Grade.RULE, "next")
    balanced = facts.balances[1]
    if balanced is not None and balanced.behind:
        them = "it" if len(balanced.behind) == 1 else "them"
        text = f"{_are(balanced.behind)} low: bring {them} up, or press P for the sheet."
        return sentence(text, Grade.RULE, "next")
    return sentence("Complete. Press P for the sheet.", Grade.RULE, "next")


def _runners(numbers: list[int]) -> str:
    if len(numbers) == 1:
        return f"Runner {numbers[0]}"
    if len(numbers) > 2 and numbers == list(range(numbers[0], numbers[-1] + 1)):
        return f"Runners {numbers[0]} to {numbers[-1]}"
    return f"Runners {listed([str(n) for n in numbers])}"


def _are(numbers: tuple[int, ...]) -> str:
    """ "Runner 2 is" or "Runners 1 and 3 are", each leading to its rung."""
    names = listed([f"[{n}](rung-{n})" for n in numbers])
    return f"Runner {names} is" if len(numbers) == 1 else f"Runners {names} are"


def _number(count: int) -> str:
    words = ("no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine")
    return words[count].capitalize() if count < len(words) else str(count)
