"""What the figures of a bench sheet say, in shop words."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from datetime import timedelta

from elvarn import units
from elvarn.core.bench.balance import Balance
from elvarn.core.bench.gain import BenchQuality, GainOverRunners, RunnerGain
from elvarn.core.bench.reference import conversion_findings
from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.finding import Grade
from elvarn.service.kernel.sentences import Sentence, Tone, first_up, from_finding, judged, listed, sentence

WORTH_TELLING = 0.001  # of the flow: less than any bench repeats


@dataclass(frozen=True)
class BenchFacts:
    """What the sentences rest on. `runners` are those to be read. Pairs are (before, after); flows are m³/s at the
    reference depression."""

    runners: Sequence[int]
    cut: bool
    means: tuple[dict[int, float], dict[int, float]]
    gains: GainOverRunners | None
    balances: tuple[Balance | None, Balance | None]
    quality: BenchQuality
    bench: str | None
    apart: timedelta | None
    unlike: list[str]
    depressions: list[float]
    marked: dict[int, str]
    tied: bool = False
    reference: int | None = None
    notes: list[Sentence] = field(default_factory=list)


def bench_margin(facts: BenchFacts, preset: units.Preset) -> list[Sentence]:
    """The sentences, the most important first and what to do last."""
    said: list[Sentence] = []
    if facts.gains is not None:
        said += _about_gains(facts.gains, preset)
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


def _about_gains(gains: GainOverRunners, preset: units.Preset) -> Iterator[Sentence]:
    mean = units.show_difference(gains.verdict.change, "flow", preset)
    width = units.show(gains.verdict.half_width, "flow", preset)
    who = _runners([g.cylinder for g in gains.runners])
    verb = "gained" if gains.verdict.change >= 0 else "lost"
    figure = f"[{mean.text.lstrip('+−')} {mean.unit}](gain-mean)"
    average = " on average" if len(gains.runners) > 1 else ""
    percent = units.percent_text(gains.fraction)
    word = first_up(judged(gains.verdict.real))
    yield sentence(
        f"{who} {verb} {figure}{average} ({percent}). {word}: known to ±{width.text} {width.unit}.", Grade.COMPUTED
    )
    yield _which_are_real(gains.runners)


def _which_are_real(runners: tuple[RunnerGain, ...]) -> Sentence:
    unsure = [g for g in runners if not g.verdict.real]
    if not unsure:
        text = "Each runner's own change is real." if len(runners) > 1 else "This runner's change is real."
        return sentence(text, Grade.COMPUTED)
    linked = listed([f"[{g.cylinder}](rung-{g.cylinder})" for g in unsure])
    refits = [g.verdict.more for g in unsure]
    way_on = " Refits alone would not tell."
    if all(refits):
        most = max(n for n in refits if n)
        way_on = f" {_number(most)} set-ups on each side would tell."
    who = "Runner" if len(unsure) == 1 else "Runners"
    return sentence(f"{who} {linked}: {judged(False)}.{way_on}", Grade.COMPUTED, "doubt")


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
    if facts.unlike:
        text = f"The set-ups before and after differ in {listed(facts.unlike)}: the gain holds both changes."
        yield sentence(text, Grade.MEASURED, "doubt")
    if facts.bench and not facts.quality.learned:
        percent = facts.quality.repeatability * 100
        yield sentence(f"{facts.bench} repeats within {percent:g} %: assumed until its own is learned.", Grade.RULE)
    if facts.apart is not None and not facts.quality.same_session and facts.quality.session_shift > 0:
        days = max(1, round(facts.apart / timedelta(days=1)))
        text = f"Before and after are {days} day{'s' if days > 1 else ''} apart. "
        if facts.tied:
            text += "The reference plate was read in both sessions: what the bench shifted is taken out."
            yield sentence(text, Grade.COMPUTED)
        else:
            text += f"A shift of the bench by {facts.quality.session_shift * 100:.2g} % is allowed for in the ±."
            yield sentence(text, Grade.ESTIMATED, "doubt")
    if facts.quality.conversion >= WORTH_TELLING:
        out = f"{facts.quality.conversion * 100:.1f} %"
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
    balanced = facts.balances[1]
    if balanced is not None and balanced.behind:
        first = balanced.behind[0]
        return sentence(
            f"Work runner [{first}](rung-{first}) up to the others, or print the sheet.", Grade.RULE, "next"
        )
    return sentence(f"{_all_read(facts)}. Press P for the sheet.", Grade.RULE, "next")


def _all_read(facts: BenchFacts) -> str:
    return "All runners are read" if facts.reference is None else f"Runner {facts.reference} is read"


def _runners(numbers: list[int]) -> str:
    if len(numbers) == 1:
        return f"Runner {numbers[0]}"
    if numbers == list(range(numbers[0], numbers[-1] + 1)):
        return f"Runners {numbers[0]} to {numbers[-1]}"
    return f"Runners {listed([str(n) for n in numbers])}"


def _are(numbers: tuple[int, ...]) -> str:
    """ "Runner 2 is" or "Runners 1 and 3 are", each leading to its rung."""
    names = listed([f"[{n}](rung-{n})" for n in numbers])
    return f"Runner {names} is" if len(numbers) == 1 else f"Runners {names} are"


def _number(count: int) -> str:
    words = ("no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine")
    return words[count].capitalize() if count < len(words) else str(count)
