"""What the figures of a bench sheet say, in shop words."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from datetime import timedelta

from elvarn import units
from elvarn.core.bench.balance import Balance
from elvarn.core.bench.gain import ASSUMED, GainOverRunners, Pairs, RunnerGain, carried_by
from elvarn.core.bench.reference import conversion_findings
from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.finding import Grade
from elvarn.service.kernel.sentences import (
    Sentence,
    Tone,
    first_up,
    from_finding,
    judged,
    listed,
    plainly,
    sentence,
    what_would_tell,
)
from elvarn.service.record.trust import Trust

WORTH_TELLING = 0.001  # of the flow: less than any bench repeats


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
    reference: int | None = None
    notes: list[Sentence] = field(default_factory=list)


def bench_margin(facts: BenchFacts, preset: units.Preset) -> list[Sentence]:
    """The sentences, the most important first and what to do last."""
    said = list(_about_likeness(facts.pairs))
    if facts.gains is not None:
        said += _about_gains(facts.gains, preset)
        said += _about_one_that_carries(facts)
    said += _about_balance(facts)
    if facts.reference is not None:
        runner = f"[{facts.reference}](rung-{facts.reference})"
        even = "what it gains is told, whether they are even is not"
        text = f"Runner {runner} stands for the others: {'it alone is asked for' if any(facts.balances) else even}."
        said.append(sentence(text, Grade.RULE))
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
    way_on = "Read one side again, set up as the other was."
    yield sentence(f"{who}: not comparable, {differ} before and after. {way_on}", Grade.MEASURED, "doubt")


def _about_gains(gains: GainOverRunners, preset: units.Preset) -> Iterator[Sentence]:
    mean = units.show_difference(gains.verdict.change, "flow", preset)
    width = units.show(gains.verdict.half_width, "flow", preset)
    who = _runners([g.cylinder for g in gains.runners])
    verb = "gained" if gains.verdict.change >= 0 else "lost"
    figure = f"[{mean.text.lstrip('+−')} {mean.unit}](gain-mean)"
    average = " on average" if len(gains.runners) > 1 else ""
    percent = units.percent_text(gains.fraction)
    word = first_up(plainly(gains.verdict))
    basis = ", with an assumed repeatability" if gains.verdict.assumed else ""
    text = f"{who} {verb} {figure}{average} ({percent}). {word}: known to ±{width.text} {width.unit}{basis}."
    would = what_would_tell(gains.verdict)
    yield sentence(f"{text} {first_up(would)} would tell." if would else text, Grade.COMPUTED)
    yield _which_are_real(gains.runners)


def _about_one_that_carries(facts: BenchFacts) -> Iterator[Sentence]:
    """A gain of all that is one runner's: something may have stood open or shut there."""
    runner = carried_by(facts.pairs, facts.trust.known)
    if runner is not None:
        others = units.percent_text(facts.pairs.without(runner).fraction)
        text = (
            f"Runner [{runner}](rung-{runner}) carries this gain: the others changed by {others}, too small to tell. "
        )
        look = "Look for an injector hole or a vacuum port that stood open there on one side only."
        yield sentence(f"{text}{look}", Grade.COMPUTED, "doubt")


def _which_are_real(runners: tuple[RunnerGain, ...]) -> Sentence:
    unsure = [g for g in runners if not g.verdict.real]
    if not unsure:
        text = "Each runner's own change is real." if len(runners) > 1 else "This runner's change is real."
        return sentence(text, Grade.COMPUTED)
    linked = listed([f"[{g.cylinder}](rung-{g.cylinder})" for g in unsure])
    who = "Runner" if len(unsure) == 1 else "Runners"
    said = {judged(g.verdict) for g in unsure}
    word = said.pop() if len(said) == 1 else "too small to tell; each rung says what would"
    return sentence(f"{who} {linked}: {word}.", Grade.COMPUTED, "doubt")


def _about_balance(facts: BenchFacts) -> Iterator[Sentence]:
    before, after = facts.balances
    latest = after or before
    if latest is None:
        return
    when = "after" if after else "before"
    out = ""
    if latest.behind:
        out = f" {_are(latest.behind)} behind."
    if latest.ahead:
        out += f" {_are(latest.ahead)} ahead."
    if not latest.even and not out:
        out = f" Runner [{latest.weakest}](rung-{latest.weakest}) is the weakest."
    was = f" It was {before.spread * 100:.1f} % before." if before and after else ""
    tone: Tone = "plain" if latest.even else "doubt"
    text = f"The runners spread [{latest.spread * 100:.1f} %](spread) {when}; up to 3 % is even.{was}{out}"
    yield sentence(text, Grade.COMPUTED, tone)


def _about_trust(facts: BenchFacts) -> Iterator[Sentence]:
    trust = facts.trust
    left_out = sum(pair.left_out for pair in facts.pairs.alike)
    if left_out:
        text = f"{_number(left_out)} set-up{'s have' if left_out > 1 else ' has'} no like on the other side: left out."
        yield sentence(text, Grade.MEASURED, "doubt")
    if facts.bench and trust.assumed:
        percent = ASSUMED.refit.value
        text = f"A refit on {facts.bench} is assumed to scatter by {percent:g} %, until its own repeats tell."
        yield sentence(text, Grade.RULE)
    if facts.apart is not None and not trust.near:
        days = max(1, round(facts.apart / timedelta(days=1)))
        text = f"Before and after are {days} day{'s' if days > 1 else ''} apart. "
        if trust.tied:
            text += "The reference plate was read in both sessions: what the bench shifted is taken out."
            yield sentence(text, Grade.COMPUTED)
        else:
            text += f"A shift of the bench by {trust.session_shift * 100:.2g} % is allowed for in the ±."
            yield sentence(text, Grade.ESTIMATED, "doubt")
    if trust.conversion >= WORTH_TELLING:
        out = f"{trust.conversion * 100:.1f} %"
        text = f"Before and after were read at different depressions: the square-root law may be out by {out}, "
        yield sentence(f"{text}allowed for in the ±.", Grade.ESTIMATED, "doubt")
    for depression in facts.depressions:
        yield from map(from_finding, conversion_findings(depression, REFERENCE_DEPRESSION))
    for cylinder, mark in facts.marked.items():
        text = f"Runner [{cylinder}](rung-{cylinder}) was kept though {mark}."
        if mark.startswith("above"):
            text += " The bench's scale is off then; its ratios still hold."
        yield sentence(text, Grade.MEASURED, "doubt")


def _next(facts: BenchFacts) -> Sentence:
    before, after = facts.means
    side = after if facts.cut else before
    missing = [n for n in facts.runners if n not in side]
    if missing:
        when = "after cutting" if facts.cut else "before cutting"
        return sentence(f"Read runner [{missing[0]}](rung-{missing[0]}) {when}.", Grade.RULE, "next")
    if not facts.cut:
        text = f"{_all_read(facts)} before. Cut, then press A for the figures after."
        return sentence(text, Grade.RULE, "next")
    if facts.pairs.unlike:
        text = "Press U, set up as before, and read the runners again."
        return sentence(text, Grade.RULE, "next")
    balanced = facts.balances[1]
    if balanced is not None and balanced.behind:
        names = listed([f"[{n}](rung-{n})" for n in balanced.behind])
        who = f"runner{'s' if len(balanced.behind) > 1 else ''} {names}"
        return sentence(f"Work {who} up to the others, or print the sheet.", Grade.RULE, "next")
    return sentence(f"{_all_read(facts)}. Press P for the sheet.", Grade.RULE, "next")


def _all_read(facts: BenchFacts) -> str:
    return "All runners are read" if facts.reference is None else f"Runner {facts.reference} is read"


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
