"""What one declared item does: set-ups of one job that differ in it alone; and those that are unlike, with the list."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.bench.effect import effect_between
from elvarn.core.likeness import item_differences
from elvarn.core.statistics.scatter import Scatter
from elvarn.service.kernel.sentences import judged
from elvarn.service.record.job import JobRecord
from elvarn.service.record.refits import side_of
from elvarn.service.record.setup import declared
from elvarn.service.record.stated import by_port
from elvarn.service.record.trust import Trust, learned_of, trust_of
from elvarn.store.models import FlowReading


@dataclass(frozen=True)
class ItemView:
    """An item in which two set-ups differ."""

    item: str
    first: str
    second: str


@dataclass(frozen=True)
class EffectView:
    """Two set-ups of one state over the ports that both have. With one item between them, the percent is its effect;
    with more they are unlike, and it is only what lies between them."""

    state: str
    items: list[ItemView]
    alike: bool
    first: units.Shown
    second: units.Shown
    percent: str
    half_width: str
    real: bool
    words: str
    ports: int


Series = tuple[dict[str, str], list[FlowReading]]


def effects_of(session: Session, record: JobRecord, preset: units.Preset) -> list[EffectView]:
    """Every pair of unlike set-ups in which a port was read twice, those that differ in one item first."""
    found = []
    known: dict[UUID, Scatter] = {}
    readings = [reading for reading in record.configured if reading.strike is None]
    for state_id in dict.fromkeys(reading.part_state_id for reading in readings):
        state = record.state(state_id)
        series = _series([reading for reading in readings if reading.part_state_id == state_id])
        for first, second in combinations(series, 2):
            bench = second[1][-1].setup.bench
            if bench.id not in known:
                known[bench.id] = learned_of(session, bench)
            trust = trust_of(bench, known[bench.id], first[1], second[1])
            view = _effect(state.label if state else "", first, second, trust, preset)
            if view is not None:
                found.append(view)
    return sorted(found, key=lambda view: (not view.alike, len(view.items)))


def _series(readings: Sequence[FlowReading]) -> list[Series]:
    """Readings by what was declared of their set-up, in the order in which each came first."""
    series: list[Series] = []
    by_setup: dict[UUID, Series] = {}
    for reading in readings:
        if reading.setup_id not in by_setup:
            words = declared(reading.setup)
            same = next((one for one in series if not item_differences(one[0], words)), None)
            if same is None:
                same = (words, [])
                series.append(same)
            by_setup[reading.setup_id] = same
        by_setup[reading.setup_id][1].append(reading)
    return series


def _effect(state: str, first: Series, second: Series, trust: Trust, preset: units.Preset) -> EffectView | None:
    """None where no port was read in both, or where two benches were: that is no effect of an item."""
    sides = [side_of(by_port(readings), trust.sessions) for _, readings in (first, second)]
    if not set(sides[0]) & set(sides[1]):
        return None
    effect = effect_between(sides[0], sides[1], trust.known)
    items = item_differences(first[0], second[0])
    if any(one.item == "bench" for one in items):
        return None
    return EffectView(
        state,
        [ItemView(one.item, one.first or "not said", one.second or "not said") for one in items],
        len(items) == 1,
        units.show(effect.first, "flow", preset),
        units.show(effect.second, "flow", preset),
        units.percent_text(effect.verdict.change),
        f"{effect.verdict.half_width * 100:.1f} %",
        effect.verdict.real,
        judged(effect.verdict),
        effect.ports,
    )
