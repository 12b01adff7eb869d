"""How the model of what sections are worth did on this casting: measured gains against modelled ones."""

from collections.abc import Sequence
from itertools import pairwise
from statistics import fmean
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.core.port.worth import Record, record_of, worth
from elvarn.service.port.typed import section_of
from elvarn.service.record.pairing import pairs_or_apart
from elvarn.service.record.refits import sides_of
from elvarn.service.record.stated import by_port
from elvarn.store import queries
from elvarn.store.models import AnySection, FlowReading, Part, PartState

LEAST_MODELLED = 0.002  # of the flow: what the model hardly changes proves nothing; choice, no source


def record_of_casting(session: Session, part: Part) -> Record:
    """The model's record on all parts of this maker and number, or on this one alone where it has none."""
    return record_of([ratio for one in queries.parts_like(session, part) for ratio in _ratios(session, one)])


def _ratios(session: Session, part: Part) -> list[float]:
    """Measured over modelled gain of each state against the one before, where both have flows and sections."""
    states = sorted(part.states, key=lambda one: one.sequence)
    ids = [state.id for state in states]
    flows, sections = queries.flows_of_states(session, ids), queries.sections_of(session, ids)
    found = (_ratio(first, second, flows, sections) for first, second in pairwise(states))
    return [ratio for ratio in found if ratio is not None]


def _ratio(
    first: PartState, second: PartState, flows: Sequence[FlowReading], sections: Sequence[AnySection]
) -> float | None:
    """Over the runners that were flowed alike on both sides and have two stations or more on both."""
    rows = [[row for row in flows if row.part_state_id == state.id and row.cylinder] for state in (first, second)]
    pairs = pairs_or_apart(sides_of(*(by_port(side) for side in rows)), ())
    measured, modelled = [], []
    for pair in pairs.alike:
        before, after = (_profile(sections, state.id, pair.runner) for state in (first, second))
        places = sorted(set(before) & set(after))
        if len(places) > 1:
            found = worth([p / 1000 for p in places], [before[p] for p in places], [after[p] for p in places])
            measured.append(pair.after / pair.before - 1)
            modelled.append(found.gain)
    if not modelled or abs(fmean(modelled)) < LEAST_MODELLED:
        return None
    return fmean(measured) / fmean(modelled)


def _profile(sections: Sequence[AnySection], state: UUID, runner: int) -> dict[int, float]:
    """Areas [m²] of a runner in a state by place [mm]."""
    own = [row for row in sections if row.part_state_id == state and row.cylinder == runner]
    return {round(1000 * row.place_m): section_of(row.shape, row.sizes).area for row in own}
