"""What else a series says: suspected faults, leak and drift, what the bench can show, what single items do."""

from collections.abc import Iterator, Sequence
from statistics import fmean

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.bench.drift import drift_findings
from elvarn.core.bench.gain import refits_needed, smallest_gain_shown
from elvarn.core.bench.leak import leak_findings
from elvarn.core.bench.stated import MeterKind, air_findings
from elvarn.core.finding import Grade
from elvarn.core.port.order import Work
from elvarn.core.verdict import OWN_ENOUGH
from elvarn.service.bench.effects import effects_of
from elvarn.service.bench.suspects import suspicions_of
from elvarn.service.kernel.sentences import Sentence, from_finding, sentence
from elvarn.service.record.job import JobRecord
from elvarn.service.record.plates import beside, plates_for
from elvarn.service.record.refits import drifts_of
from elvarn.service.record.said import combination_sentences, offset_sentences
from elvarn.service.record.stated import at_reference, by_port, state_of
from elvarn.service.record.trust import Trust
from elvarn.store.models import FlowReading

USUAL_GAIN = 0.01  # of the flow: what a small clean-up gives; common practice, no source
MOST_EFFECTS = 3
PAIR = 2.8  # scatters by which two refits differ at most, 19 times in 20: ISO 5725-6, from memory
Sides = tuple[list[FlowReading], list[FlowReading]]


def bench_notes(
    session: Session, record: JobRecord, sides: Sides, trust: Trust, preset: units.Preset, wanted: float
) -> Iterator[Sentence]:
    """The sentences, what may be wrong first. `wanted` is the gain to be shown, as a fraction."""
    yield from _before_reading(record)
    latest = sides[1] or sides[0]
    for suspicion in suspicions_of(session, latest):
        yield sentence(suspicion.text, Grade.COMPUTED, "doubt")
    if latest:
        yield from _about_setup(latest)
    if sides[0] and (not sides[1] or wanted != USUAL_GAIN):
        yield _what_can_be_shown(sides[0], trust, preset, wanted)
    if trust.known.refit.own >= OWN_ENOUGH:
        yield _learned(trust)
    yield from _effects(session, record, preset)
    yield from combination_sentences(record, preset)
    yield from offset_sentences([reading for reading in record.flows if reading.strike is None])


def _before_reading(record: JobRecord) -> Iterator[Sentence]:
    """What is to be done before the next reading, of what stands on the list of port work."""
    state = {task.work: task.state for task in record.tasks if task.work}
    if state.get(Work.BLAST) == "done" and state.get(Work.BLOW_OUT, "open") != "done":
        text = "Blasted and not blown out: grit in it reads low and harms the bench."
        yield sentence(text, Grade.RULE, "doubt", "", "Blow it out before it is read.")
    if state.get(Work.CLEAN, "done") != "done":
        yield sentence("Not cleaned yet.", Grade.RULE, "doubt", "", "Clean it before the first reading.")


def _about_setup(readings: Sequence[FlowReading]) -> Iterator[Sentence]:
    last = readings[-1]
    state = state_of(last)
    yield from map(from_finding, leak_findings(state.leak, fmean(reading.flow_m3_s for reading in readings)))
    yield from map(from_finding, air_findings(state))
    yield from _about_plate_air(last)
    for _, drift in drifts_of(by_port(readings))[-1:]:
        yield from map(from_finding, drift_findings(drift))
    if last.setup.throttle != "off" and last.setup.blade_seen_open is None:
        text = "Blade not checked at wide open; some stop short."
        yield sentence(text, Grade.RULE, "doubt", action="Look, then note it (U).")


def _about_plate_air(reading: FlowReading) -> Iterator[Sentence]:
    """A plate that was read in other air than is known of it leaves its error in every figure."""
    bench = reading.setup.bench
    if bench.meter == MeterKind.RATIO or state_of(reading).weather is None:
        return
    unknown = [
        plate
        for plate in plates_for(bench, reading.taken_at)
        if plate.weather is None and not beside(plate, reading.taken_at)
    ]
    if unknown:
        text = f"The air of the reference plate {unknown[0].name} was not noted: standard air is assumed for it."
        yield sentence(f"{text} Read the plate again.", Grade.COMPUTED, "doubt")


def _what_can_be_shown(readings: Sequence[FlowReading], trust: Trust, preset: units.Preset, wanted: float) -> Sentence:
    level = fmean(at_reference(reading) for reading in readings)
    least = smallest_gain_shown(trust.known, trust.near)
    smallest = units.show(least * level, "flow", preset)
    percent = f"{least * 100:.1f} %"
    refits = refits_needed(wanted, trust.known, trust.near)
    way_on = "use a reference plate in both sessions; refits won't do it."
    if refits is not None:
        count = f"{refits} reading{'s' if refits > 1 else ''} each side"
        way_on = f"{count}, refit each time (finds it 4 times in 5)."
    return sentence(
        f"One reading before and one after shows a gain of {smallest.text} {smallest.unit} ({percent}) or more.",
        Grade.COMPUTED,
        action=f"For {wanted * 100:g} %: {way_on}",
    )


def _learned(trust: Trust) -> Sentence:
    refit = trust.known.refit
    beside = "your setting" if trust.stated else "what is assumed"
    apart = f"two refits differ by less than {PAIR * refit.value:.1f} %, 19 times in 20"
    text = f"Repeatability {refit.value:.2f} % ({apart}), from {refit.own} refits on this bench beside {beside}."
    if refit.slips:
        count = len(refit.slips)
        text += f" {count} far-off refit{'s are' if count > 1 else ' is'} left out."
    if refit.worse:
        text += " Its latest refits scatter more than those before: they alone count."
    return sentence(text, Grade.COMPUTED)


def _effects(session: Session, record: JobRecord, preset: units.Preset) -> Iterator[Sentence]:
    found = [one for one in effects_of(session, record, preset) if one.alike][:MOST_EFFECTS]
    several = len({one.state for one in found}) > 1
    for effect in found:
        item = effect.items[0]
        change = f"{item.item.capitalize()}{f' {effect.state}' if several else ''}, {item.first} → {item.second}"
        yield sentence(f"{change}: {effect.percent} ±{effect.half_width}, {effect.words}.", Grade.COMPUTED)
