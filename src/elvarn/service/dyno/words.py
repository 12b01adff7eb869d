"""What two designs' pulls say, in shop words."""

from collections.abc import Iterator
from dataclasses import dataclass

from elvarn import units
from elvarn.core.dyno.compare import BandComparison, BandFigures, Comparison, Stretch
from elvarn.core.finding import Finding, Grade
from elvarn.service.kernel.sentences import Sentence, from_finding, listed, sentence
from elvarn.service.record.job import JobRecord
from elvarn.store.models import Build

MOST_CROSSINGS_NAMED = 3


@dataclass(frozen=True)
class ComparedPulls:
    """What the sentences rest on. `repeatability` is by how much two pulls of one set-up differ, as a fraction."""

    stock: str
    other: str
    use: str | None
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
    if facts.comparison is not None and facts.band is not None:
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
    repeats = f"repeats of one set-up differ by {noise.text}"
    name = _capital(facts.other)
    for_use = f" for {facts.use}" if facts.use else ""
    verb = "against stock" if not power.verdict.real else ("pays" if power.verdict.change > 0 else "costs power")
    judged = "real" if power.verdict.real else "not resolved"
    start = f"[{name}](line-other) {verb}{for_use}"
    text = f"{start}: {figure} on average {where} ({percent}), {judged}: {repeats}."
    return sentence(text, Grade.MEASURED)


def _shape(
    facts: ComparedPulls, comparison: Comparison, band: BandComparison, preset: units.Preset
) -> Iterator[Sentence]:
    torque = comparison.torque
    if torque.lost:
        yield sentence(_stretch("gives away up to", _worst(torque.lost), preset), Grade.MEASURED, "doubt")
    if torque.gained:
        yield sentence(_stretch("gains up to", _worst(torque.gained), preset), Grade.MEASURED)
    yield sentence(_peaks(band.power, preset), Grade.MEASURED)
    clear = [c for c in torque.crossings if c.clear]
    if clear:
        named = [f"[{c.engine_speed_rpm:,.0f}](crossing-{i})" for i, c in enumerate(clear[:MOST_CROSSINGS_NAMED])]
        more = f" and {len(clear) - MOST_CROSSINGS_NAMED} more" if len(clear) > MOST_CROSSINGS_NAMED else ""
        yield sentence(f"The torque curves cross at {listed(named)}{more} rpm.", Grade.MEASURED)
    if comparison.other_climbs:
        text = f"Power of {facts.other} still climbs where its pull ends: its peak was not seen."
        yield sentence(text, Grade.MEASURED, "doubt")
    if comparison.stock_climbs and not comparison.other_climbs:
        yield sentence("Stock still climbs where its pull ends: its peak was not seen.", Grade.MEASURED, "doubt")


def _trust(facts: ComparedPulls) -> Iterator[Sentence]:
    if len(facts.measures) > 1:
        text = "One side was measured at the wheels, the other at the engine: the difference is no gain."
        yield sentence(text, Grade.MEASURED, "harm")
    if len(set(facts.bases)) > 1:
        text = "The two sides are not corrected alike: the weather is part of the difference."
        yield sentence(text, Grade.COMPUTED, "doubt")
    elif facts.bases == ["observed", "observed"]:
        text = "Both are as observed, without weather: on another day they would differ by a per cent or more."
        yield sentence(text, Grade.COMPUTED, "doubt")
    for mark, word in (("trusted_torque", "torque"), ("trusted_power", "power")):
        if mark in facts.marks:
            text = f"Torque and power of a file disagreed; its {word} was taken."
            yield sentence(text, Grade.MEASURED, "doubt")
    for finding in dict.fromkeys(facts.findings):
        yield from_finding(finding, Grade.MEASURED)
    if facts.comparison is not None and not facts.learned:
        text = f"Repeats on this dyno are taken to differ by {facts.repeatability * 100:g} % until its own are learned."
        yield sentence(text, Grade.RULE)


def _stretch(verb: str, stretch: Stretch, preset: units.Preset) -> str:
    shown = units.show(abs(stretch.extreme), "torque", preset)
    where = f"between {stretch.low:,.0f} and {stretch.high:,.0f} rpm"
    return f"It {verb} [{shown.text} {shown.unit}](strip) (at {stretch.extreme_rpm:,.0f} rpm) {where}."


def _worst(stretches: tuple[Stretch, ...]) -> Stretch:
    return max(stretches, key=lambda s: abs(s.mean) * (s.high - s.low))


def _peaks(power: BandFigures, preset: units.Preset) -> str:
    other = units.show(power.other_peak.value, "power", preset)
    stock = units.show(power.stock_peak.value, "power", preset)
    return (
        f"Peak in the band: [{other.text} {other.unit}](peak-other) at {power.other_peak.engine_speed_rpm:,.0f} rpm, "
        f"stock [{stock.text}](peak-stock) at {power.stock_peak.engine_speed_rpm:,.0f}."
    )


def _band(low: float, high: float) -> str:
    return f"from {low:,.0f} to {high:,.0f} rpm"


def _capital(text: str) -> str:
    return text[:1].upper() + text[1:]


def about_flow(flow: float | None, power: float | None) -> list[Sentence]:
    """What the bench showed beside what the engine made of it, both as fractions."""
    if flow is None or power is None:
        return []
    shown, made = units.percent_text(flow), units.percent_text(power)
    return [sentence(f"The bench showed {shown} flow; the engine made {made} power of it.", Grade.COMPUTED)]


def what_is_next(record: JobRecord, stock: Build | None, other: Build | None) -> Sentence:
    """The next pull, or what comes after the last."""
    stock_pulls, other_pulls = record.valid_pulls(stock), record.valid_pulls(other)
    if not stock_pulls:
        text = "Pull stock before anything comes off, and drop the file here."
    elif other is None:
        text = "Stock is kept. Note the cut on Bench, and the ported build can be pulled."
    elif not other_pulls:
        text = f"Pull {other.name} on the same fuel and day, and drop the file here."
    elif max(p.taken_at for p in stock_pulls) < min(p.taken_at for p in other_pulls):
        text = "Pull stock again at the end: it shows what the day did."
    else:
        text = "Print the sheet for the customer."
    return sentence(text, Grade.RULE, "next")
