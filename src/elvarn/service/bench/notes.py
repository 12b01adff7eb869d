"""What else a series says: suspected faults, leak and drift, what the bench can show, what single items do."""

from collections.abc import Iterator, Sequence
from statistics import fmean

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.bench.drift import drift_findings
from elvarn.core.bench.gain import smallest_gain_shown
from elvarn.core.bench.leak import leak_findings
from elvarn.core.bench.power import refits_needed
from elvarn.core.bench.stated import air_findings
from elvarn.core.finding import Grade
from elvarn.service.bench.effects import effects_of
from elvarn.service.bench.suspects import suspicions_of
from elvarn.service.kernel.sentences import Sentence, from_finding, judged, sentence
from elvarn.service.record.job import JobRecord
from elvarn.service.record.said import combination_sentences, offset_sentences
from elvarn.service.record.stated import at_reference, by_port, drifts_of, repeatability_of, state_of
from elvarn.service.record.trust import Trust
from elvarn.store.models import FlowReading

USUAL_GAIN = 0.01  # of the flow: what a small clean-up gives; common practice, no source
MOST_EFFECTS = 3
Sides = tuple[list[FlowReading], list[FlowReading]]


def bench_notes(
    session: Session, record: JobRecord, sides: Sides, trust: Trust, preset: units.Preset, wanted: float
) -> Iterator[Sentence]:
    """The sentences, what may be wrong first. `wanted` is the gain to be shown, as a fraction."""
    latest = sides[1] or sides[0]
    for suspicion in suspicions_of(latest, trust.quality):
        yield sentence(f"Suspected: {suspicion.text}", Grade.COMPUTED, "doubt")
    if latest:
        yield from _about_setup(latest)
    if sides[0] and (not sides[1] or wanted != USUAL_GAIN):
        yield _what_can_be_shown(sides[0], trust, preset, wanted)
    if trust.learned.own:
        yield _learned(trust)
    yield from _effects(session, record, preset)
    yield from combination_sentences(record, preset)
    yield from offset_sentences([reading for reading in record.flows if reading.strike is None])


def _about_setup(readings: Sequence[FlowReading]) -> Iterator[Sentence]:
    last = readings[-1]
    state = state_of(last)
    yield from map(from_finding, leak_findings(state.leak, fmean(reading.flow_m3_s for reading in readings)))
    yield from map(from_finding, air_findings(state))
    for _, drift in drifts_of(by_port(readings))[-1:]:
        yield from map(from_finding, drift_findings(drift, repeatability_of(last.setup.bench)))
    if last.setup.throttle != "off" and last.setup.blade_seen_open is None:
        text = "Nobody noted whether the blade was seen at full bore: some stop short of it."
        yield sentence(text, Grade.RULE, "doubt")


def _what_can_be_shown(readings: Sequence[FlowReading], trust: Trust, preset: units.Preset, wanted: float) -> Sentence:
    level = fmean(at_reference(reading) for reading in readings)
    smallest = units.show(smallest_gain_shown(level, 1, trust.quality), "flow", preset)
    percent = f"{smallest_gain_shown(level, 1, trust.quality) / level * 100:.1f} %"
    refits = refits_needed(wanted, trust.quality)
    way_on = "a reference plate read in both sessions would help more than refits"
    if refits is not None:
        way_on = f"{refits} set-up{'s' if refits > 1 else ''} on each side would show it four times in five"
    text = f"Read once on each side, one runner shows a gain from {smallest.text} {smallest.unit} ({percent}) on. "
    return sentence(f"{text}For {wanted * 100:g} %, {way_on}.", Grade.COMPUTED)


def _learned(trust: Trust) -> Sentence:
    own = f"{trust.learned.value * 100:.2f} %"
    text = f"The bench's own {trust.learned.freedom} repeats differ by {own}"
    if trust.stated:
        return sentence(f"{text}; {trust.quality.repeatability * 100:.2g} % is stated and used.", Grade.COMPUTED)
    return sentence(f"{text}: that is used.", Grade.COMPUTED)


def _effects(session: Session, record: JobRecord, preset: units.Preset) -> Iterator[Sentence]:
    for effect in [one for one in effects_of(session, record, preset) if one.alike][:MOST_EFFECTS]:
        item = effect.items[0]
        change = f"{item.item.capitalize()}, {item.first} to {item.second}"
        yield sentence(f"{change}: {effect.percent} ±{effect.half_width}, {judged(effect.real)}.", Grade.COMPUTED)
