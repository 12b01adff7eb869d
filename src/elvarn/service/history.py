"""What was read of a part, or of every part of its casting, over the years and benches."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from statistics import fmean
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.finding import Grade
from elvarn.service.margin import Sentence, sentence
from elvarn.service.other_shops import offset_sentences, offsets_of
from elvarn.service.setups import ENTRY_RADII
from elvarn.service.stated import ONE_SESSION, by_port, flows_by_runner
from elvarn.service.writes import find
from elvarn.store import queries
from elvarn.store.models import FlowReading, Part


@dataclass(frozen=True)
class HistoryRow:
    """One session: the mean over the runners (or of the element), where and in which state it was read. `ours` is
    empty where no offset of the other shop's bench is known."""

    at: datetime
    job_id: UUID | None
    job: str
    state: str
    cut: bool
    bench: str
    shop: str
    setup: str
    ports: int
    mean: units.Shown
    ours: units.Shown | None


@dataclass(frozen=True)
class History:
    """A part or casting over time, the oldest first; what it says."""

    title: str
    casting: bool
    rows: list[HistoryRow]
    margin: list[Sentence]


Group = list[FlowReading]


def history_of(session: Session, part_id: UUID, preset: units.Preset) -> History:
    """The history of a part, with that of every part of its maker and number. Raises NotFound."""
    part = find(session, Part, part_id, "part")
    parts = queries.parts_like(session, part)
    states = {state.id: (state, owner) for owner in parts for state in owner.states}
    readings = queries.flows_of_states(session, list(states))
    groups = _groups(readings)
    offsets = {one.shop: one.fraction for one in offsets_of(readings) if one.fraction is not None}
    titles = queries.titles_of_jobs(session, [one.job_id for one in parts if one.job_id])
    rows = []
    for group in groups:
        first = group[0]
        state, owner = states[first.part_state_id]
        flows = flows_by_runner(by_port(group))
        mean = fmean(fmean(port) for port in flows.values())
        shop = first.setup.bench.shop
        ours = mean / (1 + offsets[shop]) if shop in offsets else None
        rows.append(
            HistoryRow(
                first.taken_at,
                owner.job_id,
                titles.get(owner.job_id, owner.name) if owner.job_id else "on the shelf",
                state.label,
                state.sequence > 1,
                first.setup.bench.name,
                shop,
                _setup_words(first),
                len(flows),
                units.show(mean, "flow", preset),
                units.show(ours, "flow", preset) if ours else None,
            )
        )
    title = f"{part.maker} {part.number}" if part.maker and part.number else part.name
    flowed = {states[group[0].part_state_id][1].id for group in groups}
    return History(title, len(parts) > 1, rows, _margin(readings, len(flowed)))


def _groups(readings: Sequence[FlowReading]) -> list[Group]:
    """Readings by session, state, set-up and element, the oldest first."""
    groups: list[Group] = []
    open_groups: dict[tuple[object, ...], Group] = {}
    for reading in sorted(readings, key=lambda one: one.taken_at):
        key = (reading.part_state_id, reading.setup_id, reading.element_kind)
        group = open_groups.get(key)
        if group is None or reading.taken_at - group[0].taken_at > ONE_SESSION:
            group = open_groups[key] = []
            groups.append(group)
        group.append(reading)
    return groups


def _setup_words(reading: FlowReading) -> str:
    setup = reading.setup
    return ENTRY_RADII[setup.entry_radius] + ("" if setup.throttle == "off" else ", throttle on")


def _margin(readings: Sequence[FlowReading], count: int) -> list[Sentence]:
    said = list(offset_sentences(readings))
    if count > 1:
        said.append(sentence(f"{count} parts of this casting were on the bench.", Grade.MEASURED))
    if not readings:
        said.append(sentence("Nothing of it was flowed yet.", Grade.MEASURED, "next"))
    return said
