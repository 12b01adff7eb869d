"""What was read of a part, or of every part of its casting, over the years and benches."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from math import expm1, log
from statistics import fmean
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.finding import Grade
from elvarn.service.margin import Sentence, sentence
from elvarn.service.setups import ENTRY_RADII
from elvarn.service.stated import ONE_SESSION, at_reference, flows_by_runner
from elvarn.service.writes import find
from elvarn.store import queries
from elvarn.store.models import FlowReading, Part, PartState


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
    offsets = _offsets(groups)
    titles = queries.titles_of_jobs(session, [one.job_id for one in parts if one.job_id])
    rows = []
    for group in groups:
        first = group[0]
        state, owner = states[first.part_state_id]
        mean = fmean(fmean(flows) for flows in _flows(group).values())
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
                len(_flows(group)),
                units.show(mean, "flow", preset),
                units.show(ours, "flow", preset) if ours else None,
            )
        )
    title = f"{part.maker} {part.number}" if part.maker and part.number else part.name
    return History(title, len(parts) > 1, rows, _margin(groups, states, offsets))


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


def _flows(group: Group) -> dict[int, list[float]]:
    ports: dict[int, Group] = {}
    for reading in group:
        ports.setdefault(reading.cylinder or 0, []).append(reading)
    return flows_by_runner(ports)


def _offsets(groups: Sequence[Group]) -> dict[str, float]:
    """By how much each other shop's bench reads more than ours, over ports that both read in one state."""
    ours: dict[tuple[object, ...], list[float]] = {}
    theirs: dict[str, dict[tuple[object, ...], list[float]]] = {}
    for reading in (one for group in groups for one in group):
        shop = reading.setup.bench.shop
        side = theirs.setdefault(shop, {}) if shop else ours
        key = (reading.part_state_id, reading.element_kind, reading.cylinder, reading.setup.entry_radius)
        side.setdefault(key, []).append(at_reference(reading))
    found = {}
    for shop, ports in theirs.items():
        shared = [port for port in ports if port in ours]
        if shared:
            found[shop] = expm1(fmean(log(fmean(ports[port]) / fmean(ours[port])) for port in shared))
    return found


def _setup_words(reading: FlowReading) -> str:
    setup = reading.setup
    return ENTRY_RADII[setup.entry_radius] + ("" if setup.throttle == "off" else ", throttle on")


def _margin(
    groups: Sequence[Group], states: dict[UUID, tuple[PartState, Part]], offsets: dict[str, float]
) -> list[Sentence]:
    said = []
    shops = {group[0].setup.bench.shop for group in groups} - {""}
    for shop in sorted(shops):
        if shop in offsets:
            text = f"{shop}'s bench shows {units.percent_text(offsets[shop])} against ours on the same runners: its "
            said.append(sentence(f"{text}figures are shown as read, and as ours would read.", Grade.COMPUTED))
        else:
            text = f"{shop}'s figures stand apart: nothing was read on both benches."
            said.append(sentence(text, Grade.MEASURED, "doubt"))
    count = len({states[group[0].part_state_id][1].id for group in groups})
    if count > 1:
        said.append(sentence(f"{count} parts of this casting were on the bench.", Grade.MEASURED))
    if not groups:
        said.append(sentence("Nothing of it was flowed yet.", Grade.MEASURED, "next"))
    return said
