"""The bench sheet: before, after and gain of each runner, and what can be said of it."""

from dataclasses import dataclass
from datetime import UTC, datetime
from statistics import fmean
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.bench.balance import ALLOWED_SPREAD, Balance, balance
from elvarn.core.bench.gain import gain_over_runners
from elvarn.core.bench.pairs import Pairs, Refit
from elvarn.core.difference import Known
from elvarn.core.errors import NotEnoughData
from elvarn.core.verdict import Verdict
from elvarn.service.bench.budgets import BudgetView, budget_view
from elvarn.service.bench.checks import CheckView, check_view, plate_counts
from elvarn.service.bench.notes import USUAL_GAIN, bench_notes
from elvarn.service.bench.words import BenchFacts, bench_margin
from elvarn.service.kernel.sentences import Sentence, judged
from elvarn.service.record.air import weather_of
from elvarn.service.record.job import JobRecord, load_job
from elvarn.service.record.marks import MARKS
from elvarn.service.record.plates import plates_of
from elvarn.service.record.said import no_figure
from elvarn.service.record.setup import SetupView, setup_view
from elvarn.service.record.stated import at_reference, counts, state_of
from elvarn.service.record.strikes import StruckView, struck_view
from elvarn.service.record.trust import Trust, apart, learned_of, trust_of
from elvarn.store import queries
from elvarn.store.models import FlowReading, PartState, Setup

MOST_CHECKS = 8


@dataclass(frozen=True)
class ReadingView:
    """A reading as it was taken, and what it is at the reference depression."""

    id: UUID
    typed: str
    as_taken: str
    at_reference: units.Shown
    person: str
    taken_at: datetime
    marks: list[str]
    struck: StruckView | None
    samples: list[float]
    note: str


@dataclass(frozen=True)
class SideView:
    """One side of a rung: the mean of the valid readings, how well it is known, and all of them."""

    mean: units.Shown | None
    known: BudgetView | None
    readings: list[ReadingView]


@dataclass(frozen=True)
class GainView:
    """A gain with its half-width, both in the flow unit, and whether it is real."""

    gain: units.Shown
    percent: str
    half_width: units.Shown
    real: bool
    words: str


@dataclass(frozen=True)
class Rung:
    """One runner. Where its sides were never set up alike, `unlike` says so and there is no gain."""

    cylinder: int
    bank: int | None
    before: SideView
    after: SideView
    gain: GainView | None
    unlike: str
    behind: bool


@dataclass(frozen=True)
class MeanView:
    before: units.Shown | None
    after: units.Shown | None
    gain: GainView | None
    unlike: str
    spread_before: str | None
    spread_after: str | None


@dataclass(frozen=True)
class BankView:
    """The means of one bank's runners, with their gain."""

    bank: int
    before: units.Shown | None
    after: units.Shown | None
    gain: GainView | None


@dataclass(frozen=True)
class BenchSheet:
    """The sheet of one job. A reference runner stands for the others: it alone is to be read. `band` is the allowed
    spread round the mean of the later side, in the flow unit."""

    part_id: UUID | None
    part: str
    before_state_id: UUID | None
    before_label: str
    after_state_id: UUID | None
    after_label: str | None
    setup: SetupView | None
    previous: SetupView | None
    unit: str
    unit_code: str
    basis: str
    stated_at: str
    reference_runner: int | None
    rungs: list[Rung]
    mean: MeanView
    banks: list[BankView]
    band: tuple[float, float] | None
    checks: list[CheckView]
    margin: list[Sentence]


def bench_sheet(session: Session, job_id: UUID, preset: units.Preset, wanted: float = USUAL_GAIN) -> BenchSheet:
    """The bench sheet of a job; `wanted` is the gain to be shown, as a fraction. Raises NotFound."""
    setup = queries.last_setup(session, job_id)
    return sheet_of(load_job(session, job_id), setup, session, preset, wanted)


def sheet_of(
    record: JobRecord, setup: Setup | None, session: Session, preset: units.Preset, wanted: float = USUAL_GAIN
) -> BenchSheet:
    """The bench sheet of a job that is loaded already."""
    before, after = record.before_state, record.after_state
    pairs, means = record.pairs, record.means
    sides = (record.valid_readings(before), record.valid_readings(after))
    bench = setup.bench if setup else None
    trust = trust_of(bench, learned_of(session, bench), sides[0], sides[1])
    balances = [_balance(refits, record.cylinder_count, trust.known) for refits in record.sides]
    facts = BenchFacts(
        runners=record.runners_to_read,
        reference=record.job.reference_runner,
        cut=after is not None,
        means=means,
        pairs=pairs,
        by_setup=record.by_setup,
        gains=gain_over_runners(pairs, trust.known) if pairs.alike else None,
        balances=(balances[0], balances[1]),
        trust=trust,
        bench=bench.name if bench else None,
        apart=apart(sides[0], sides[1]),
        depressions=sorted({r.pulled_pa for side in sides for r in side}),
        marked={r.cylinder or 0: m for side in sides for r in side for m in r.marks},
        notes=list(bench_notes(session, record, sides, trust, preset, wanted)),
    )
    latest = balances[1] or balances[0]
    part = next((p for p in record.parts if before is not None and p.id == before.part_id), None)
    flow_unit = units.PRESETS[preset]["flow"]
    label = units.LABELS.get(flow_unit, flow_unit)
    return BenchSheet(
        part_id=part.id if part else None,
        part=part.name if part else "",
        before_state_id=before.id if before else None,
        before_label=before.label if before else "",
        after_state_id=after.id if after else None,
        after_label=after.label if after else None,
        setup=setup_view(setup) if setup else None,
        previous=_previous(session, setup),
        unit=label,
        unit_code=flow_unit,
        basis=units.flow_basis(preset),
        stated_at=units.reference_depression(preset),
        reference_runner=record.job.reference_runner,
        rungs=[_rung(record, n, facts, trust, preset) for n in range(1, record.cylinder_count + 1)],
        mean=_mean(facts, preset),
        banks=_banks(record, facts, preset),
        band=_band(latest, preset),
        checks=_checks(setup, sides[1] or sides[0], preset),
        margin=bench_margin(facts, preset),
    )


def _rung(record: JobRecord, number: int, facts: BenchFacts, trust: Trust, preset: units.Preset) -> Rung:
    gain = next((g for g in facts.gains.runners if g.cylinder == number), None) if facts.gains else None
    latest = facts.balances[1] if facts.balances[1] else facts.balances[0]
    node = next((n for n in record.builds[0].nodes if n.cylinder == number), None) if record.builds else None
    shown = None
    if gain is not None:
        shown = _gain_view(gain.verdict, gain.fraction, preset)
    return Rung(
        number,
        node.bank if node else None,
        _side(record, record.before_state, number, facts.means[0].get(number), trust, preset),
        _side(record, record.after_state, number, facts.means[1].get(number), trust, preset),
        shown,
        no_figure(facts.pairs, number),
        latest is not None and number in latest.behind,
    )


def _gain_view(verdict: Verdict, fraction: float, preset: units.Preset) -> GainView:
    return GainView(
        units.show_difference(verdict.change, "flow", preset),
        units.percent_text(fraction),
        units.show(verdict.half_width, "flow", preset),
        verdict.real,
        judged(verdict),
    )


def _side(
    record: JobRecord, state: PartState | None, number: int, mean: float | None, trust: Trust, preset: units.Preset
) -> SideView:
    readings = record.runner_readings(state, struck=True)[number]
    valid = record.runner_readings(state)[number]
    return SideView(
        None if mean is None else units.show(mean, "flow", preset),
        budget_view(valid, mean, trust, preset) if mean is not None and valid else None,
        [_reading_view(record, reading, preset) for reading in readings],
    )


def _reading_view(record: JobRecord, reading: FlowReading, preset: units.Preset) -> ReadingView:
    struck = struck_view(reading, record.people)
    return ReadingView(
        reading.id,
        reading.typed,
        f"{units.number_text(reading.figure, 1)} {_label(reading.unit)} at {reading.pulled_words}",
        units.show(at_reference(reading), "flow", preset),
        record.people[reading.person_id],
        reading.taken_at,
        [MARKS.get(mark, mark) for mark in reading.marks],
        struck,
        list(reading.samples),
        _note(reading),
    )


def _note(reading: FlowReading) -> str:
    """Why a reading stands apart from the mean, or how it was taken."""
    shop = reading.setup.bench.shop
    if shop:
        return f"{shop}'s bench, not averaged in"
    if not counts(reading):
        return "not wide open or reverse flow, not averaged in"
    return "" if reading.refitted else "re-read, not touched"


def _mean(facts: BenchFacts, preset: units.Preset) -> MeanView:
    shown = [units.show(fmean(side.values()), "flow", preset) if side else None for side in facts.means]
    spreads = [f"{b.spread * 100:.1f} %" if b else None for b in facts.balances]
    gains = facts.gains
    gain = None
    if gains is not None:
        gain = _gain_view(gains.verdict, gains.fraction, preset)
    unlike = no_figure(facts.pairs) if gain is None else ""
    return MeanView(shown[0], shown[1], gain, unlike, spreads[0], spreads[1])


def _banks(record: JobRecord, facts: BenchFacts, preset: units.Preset) -> list[BankView]:
    """Each bank's runners together; none where there is one bank, or none that is known."""
    nodes = record.builds[0].nodes if record.builds else []
    of: dict[int, list[int]] = {}
    for node in nodes:
        if node.cylinder is not None and node.bank is not None:
            of.setdefault(node.bank, []).append(node.cylinder)
    return [_bank(bank, of[bank], facts, preset) for bank in sorted(of)] if len(of) > 1 else []


def _bank(bank: int, runners: list[int], facts: BenchFacts, preset: units.Preset) -> BankView:
    sides = [[side[runner] for runner in runners if runner in side] for side in facts.means]
    shown = [units.show(fmean(flows), "flow", preset) if flows else None for flows in sides]
    alike = Pairs(tuple(pair for pair in facts.pairs.alike if pair.runner in runners), {})
    gains = gain_over_runners(alike, facts.trust.known) if alike.alike else None
    gain = _gain_view(gains.verdict, gains.fraction, preset) if gains else None
    return BankView(bank, shown[0], shown[1], gain)


def _band(latest: Balance | None, preset: units.Preset) -> tuple[float, float] | None:
    if latest is None:
        return None
    low, high = (latest.mean * (1 + side * ALLOWED_SPREAD / 2) for side in (-1, 1))
    return units.show(low, "flow", preset).value, units.show(high, "flow", preset).value


def _balance(refits: dict[int, list[Refit]], runner_count: int, known: Known) -> Balance | None:
    try:
        return balance(refits, runner_count, known)
    except NotEnoughData:
        return None


def _previous(session: Session, setup: Setup | None) -> SetupView | None:
    """The set-up that one key repeats: the job's last one, else the shop's."""
    last = setup or queries.last_setup(session, None)
    return setup_view(last) if last else None


def _checks(setup: Setup | None, latest: list[FlowReading], preset: units.Preset) -> list[CheckView]:
    """Checks of the set-up, and the bench's plates, the latest first."""
    if setup is None:
        return []
    last = next((reading for reading in reversed(latest) if reading.setup.bench_id == setup.bench_id), None)
    at = last.taken_at if last else datetime.now(UTC)
    air = state_of(last).weather if last else weather_of(setup)
    plates = [
        check_view(plate.check, preset, plate_counts(setup.bench, plate, at, air)) for plate in plates_of(setup.bench)
    ]
    own = [check_view(check, preset) for check in setup.checks if check.check_kind != "plate"]
    return sorted([*own, *plates], key=lambda check: check.at, reverse=True)[:MOST_CHECKS]


def _label(unit: str) -> str:
    return units.LABELS.get(unit, unit)
