"""What was read of a part, or of every part of its casting, over the years and benches."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from statistics import fmean
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.likeness import item_differences
from elvarn.service.kernel.find import find
from elvarn.service.kernel.sentences import Sentence
from elvarn.service.record.checks import load_checks
from elvarn.service.record.offsets import offsets_of
from elvarn.service.record.plates import ONE_SESSION
from elvarn.service.record.refits import flows_by_runner
from elvarn.service.record.setup import ENTRY_RADII, declared
from elvarn.service.record.stated import by_port
from elvarn.service.shelf.words import history_words
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
States = dict[UUID, tuple[PartState, Part]]


def history_of(session: Session, part_id: UUID, preset: units.Preset) -> History:
    """The history of a part, with that of every part of its maker and number. Raises NotFound."""
    part = find(session, Part, part_id, "part")
    parts = queries.parts_like(session, part)
    states: States = {state.id: (state, owner) for owner in parts for state in owner.states}
    readings = queries.flows_of_states(session, list(states))
    load_checks(session)
    groups = _groups(readings)
    offsets = {one.shop: one.fraction for one in offsets_of(readings) if one.fraction is not None}
    titles = queries.titles_of_jobs(session, [one.job_id for one in parts if one.job_id])
    title = f"{part.maker} {part.number}" if part.maker and part.number else part.name
    rows = [_row(group, states, offsets, titles, preset) for group in groups]
    flowed = {states[group[0].part_state_id][1].id for group in groups}
    return History(title, len(parts) > 1, rows, history_words(readings, _gains(groups, states), len(flowed)))


def _row(
    group: Group, states: States, offsets: dict[str, float], titles: dict[UUID, str], preset: units.Preset
) -> HistoryRow:
    first = group[0]
    state, owner = states[first.part_state_id]
    flows, shop = _flows(group), first.setup.bench.shop
    mean = fmean(flows.values())
    return HistoryRow(
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
        units.show(mean / (1 + offsets[shop]), "flow", preset) if shop in offsets else None,
    )


def _flows(group: Group) -> dict[int, float]:
    return {port: fmean(refits) for port, refits in flows_by_runner(by_port(group)).items()}


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


def _gains(groups: Sequence[Group], states: States) -> list[float]:
    """What cutting gave each part: its last session cut against the latest before with the same set-up and ports."""
    owners: dict[UUID, list[Group]] = {}
    for group in groups:
        if not group[0].setup.bench.shop:
            owners.setdefault(states[group[0].part_state_id][1].id, []).append(group)
    return [gain for own in owners.values() if (gain := _gain(own, states)) is not None]


def _gain(groups: Sequence[Group], states: States) -> float | None:
    """Gain as a fraction of the mean; None where nothing was read alike before and after."""
    cut = [group for group in groups if states[group[0].part_state_id][0].sequence > 1]
    came = [group for group in groups if states[group[0].part_state_id][0].sequence == 1]
    for last in reversed(cut):
        for first in reversed(came):
            if _alike(first, last):
                return fmean(_flows(last).values()) / fmean(_flows(first).values()) - 1
    return None


def _alike(first: Group, second: Group) -> bool:
    same_ports = first[0].element_kind == second[0].element_kind and _flows(first).keys() == _flows(second).keys()
    return same_ports and not item_differences(declared(first[0].setup), declared(second[0].setup))
