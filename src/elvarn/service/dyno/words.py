"""What two designs' pulls say, in shop words."""

from collections.abc import Iterator
from dataclasses import dataclass

from elvarn import units
from elvarn.core.dyno.compare import BandComparison, BandFigures, Comparison, Stretch
from elvarn.core.finding import Finding, Grade
from elvarn.service.kernel.sentences import Sentence, from_finding, listed, sentence
from elvarn.service.record.job import JobRecord
from elvarn.store.models import Build

FURTHER = "Pull further to see its peak."
MOST_CROSSINGS_NAMED = 3


@dataclass(frozen=True)
class ComparedPulls:
    """What the sentences rest on. `repeatability` is by how much two pulls of one set-up differ, as a fraction."""

    stock: str
    other: str
    comparison: Comparison | None
    band: BandComparison | None
    repeatability: float
    learned: bool
    bases: list[str]
    findings: list[Finding]
    measures: list[str]
    marks: list[str]
    failure: str | None


def about_comparison(facts: ComparedPulls, preset: units.Preset) -> list[Sentence]:
    """The verdict, then the shape of the difference."""
    said = [sentence(facts.failure, Grade.COMPUTED, "doubt")] if facts.failure else []
    comparable = len(facts.measures) < 2  # else that is said, and no figure is judged
    if facts.comparison is not None and facts.band is not None and comparable:
        said.append(_verdict(facts, facts.band, preset))
        said += _shape(facts, facts.comparison, facts.band, preset)
    return said


def about_trust(facts: ComparedPulls) -> list[Sentence]:
    """How far the comparison can be trusted."""
    return list(_trust(facts))


def _verdict(facts: ComparedPulls, band: BandComparison, preset: units.Preset) -> Sentence:
    power = band.power
    difference = units.show_difference(power.verdict.change, "power", preset)
    noise = units.show(power.verdict.half_width, "power", preset)
    percent = units.percent_text(power.fraction)
    where = _band(band.low, band.high)
    figure = f"[{difference.text} {difference.unit}](band-mean)"
    name = f"[{_capital(facts.other)}](line-other)"
    if not power.verdict.real:
        answer = f"Too close to call: {name} vs stock {figure}, inside ±{noise.text} {noise.unit}, averaged {where}."
        return sentence(answer, Grade.MEASURED, paper=True)
    verb = "makes more than stock" if power.verdict.change > 0 else "makes less than stock"
    answer = f"{name} {verb}: {figure}, averaged {where} ({percent})."
    return sentence(
        answer, Grade.MEASURED, reason=f"Clear: repeat pulls vary by ±{noise.text} {noise.unit}.", paper=True
    )


def _shape(
    facts: ComparedPulls, comparison: Comparison, band: BandComparison, preset: units.Preset
) -> Iterator[Sentence]:
    torque = comparison.torque
    if torque.lost:
        yield sentence(_stretch(facts, "loses up to", _worst(torque.lost), preset), Grade.MEASURED, "doubt", paper=True)
    if torque.gained:
        yield sentence(_stretch(facts, "gains up to", _worst(torque.gained), preset), Grade.MEASURED, paper=True)
    yield sentence(_peaks(band.power, preset), Grade.MEASURED, paper=True)
    clear = [c for c in torque.crossings if c.clear]
    if clear:
        named = [
            f"[{units.to_fifty(c.engine_speed_rpm)}](crossing-{i})" for i, c in enumerate(clear[:MOST_CROSSINGS_NAMED])
        ]
        more = f" and {len(clear) - MOST_CROSSINGS_NAMED} more" if len(clear) > MOST_CROSSINGS_NAMED else ""
        yield sentence(f"The torque curves cross at {listed(named)}{more} rpm.", Grade.MEASURED, paper=True)
    if comparison.other_climbs:
        answer = f"{_capital(facts.other)} was still climbing when the pull ended."
        yield sentence(answer, Grade.MEASURED, "doubt", action=FURTHER, paper=True)
    if comparison.stock_climbs and not comparison.other_climbs:
        answer = "Stock was still climbing when the pull ended."
        yield sentence(answer, Grade.MEASURED, "doubt", action=FURTHER, paper=True)


def _trust(facts: ComparedPulls) -> Iterator[Sentence]:
    if len(facts.measures) > 1:
        text = "Not comparable: one pull is wheel hp, the other engine hp."
        yield sentence(text, Grade.MEASURED, "harm", paper=True)
    if len(set(facts.bases)) > 1:
        text = "Corrections differ: weather is part of the difference."
        yield sentence(text, Grade.COMPUTED, "doubt", paper=True)
    elif facts.bases == ["observed", "observed"]:
        text = "Uncorrected: another day can shift both by 1 % or more."
        yield sentence(text, Grade.COMPUTED, "doubt", paper=True)
    for mark, word in (("trusted_torque", "torque"), ("trusted_power", "power")):
        if mark in facts.marks:
            text = f"Torque and power of a file disagreed; its {word} was taken."
            yield sentence(text, Grade.MEASURED, "doubt")
    for finding in dict.fromkeys(facts.findings):
        yield from_finding(finding, Grade.MEASURED)
    if facts.comparison is not None and not facts.learned:
        text = (
            f"Repeatability of this dyno not known; {facts.repeatability * 100:g} % assumed. Make two pulls per build."
        )
        yield sentence(text, Grade.RULE)


def _stretch(facts: ComparedPulls, verb: str, stretch: Stretch, preset: units.Preset) -> str:
    shown = units.show(abs(stretch.extreme), "torque", preset)
    low, high, most = (units.to_fifty(speed) for speed in (stretch.low, stretch.high, stretch.extreme_rpm))
    where = f"between {low} and {high} rpm, most at {most} rpm"
    return f"{_capital(facts.other)} {verb} [{shown.text} {shown.unit}](strip) {where}."


def _worst(stretches: tuple[Stretch, ...]) -> Stretch:
    return max(stretches, key=lambda s: abs(s.mean) * (s.high - s.low))


def _peaks(power: BandFigures, preset: units.Preset) -> str:
    other = units.show(power.other_peak.value, "power", preset)
    stock = units.show(power.stock_peak.value, "power", preset)
    at, stock_at = (units.to_fifty(one.engine_speed_rpm) for one in (power.other_peak, power.stock_peak))
    return (
        f"Peak power in band: [{other.text} {other.unit}](peak-other) at {at} rpm; "
        f"stock [{stock.text} {stock.unit}](peak-stock) at {stock_at} rpm."
    )


def _band(low: float, high: float) -> str:
    return f"over {units.to_fifty(low)} to {units.to_fifty(high)} rpm"


def _capital(text: str) -> str:
    return text[:1].upper() + text[1:]


def about_flow(flow: float | None, power: float | None) -> list[Sentence]:
    """What the bench showed beside what the engine made of it, both as fractions."""
    if flow is None or power is None:
        return []
    shown, made = units.percent_text(flow), units.percent_text(power)
    return [
        sentence(
            f"Flow {shown} on the bench, power {made} on the dyno.",
            Grade.COMPUTED,
            reason="Other changes in the build count too.",
            paper=True,
        )
    ]


def what_is_next(record: JobRecord, stock: Build | None, other: Build | None) -> Sentence:
    """The next pull, or what comes after the last."""
    stock_pulls, other_pulls = record.valid_pulls(stock), record.valid_pulls(other)
    if not stock_pulls:
        text = "Pull stock before you take anything off; drop the file here."
    elif other is None:
        text = "Stock is saved. Mark the part as ported at the bench, then pull it."
    elif not other_pulls:
        text = f"Pull {other.name}, same fuel and day if you can; drop the file here."
    elif max(p.taken_at for p in stock_pulls) < min(p.taken_at for p in other_pulls):
        text = f"Repeat a pull to check the day: stock if you still have it, else {other.name}."
    else:
        text = "Print the sheet for the customer."
    return sentence(text, Grade.RULE, "next")
