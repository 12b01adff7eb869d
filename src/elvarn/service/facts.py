"""What is known of a part at a state: its dimensions, its flow readings, and the passage that follows from them."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.finding import Grade
from elvarn.core.path.passage import Geometry, Passage, effective_area, estimated, lossless, measured, volume_flow_of
from elvarn.core.path.tree import ElementKind
from elvarn.service.features import Advertised, PartFeatures, core_bends, read
from elvarn.service.stated import counts, flow_of
from elvarn.store import queries
from elvarn.store.models import DimensionReading, FlowReading, Part, PartState


@dataclass(frozen=True)
class PartFacts:
    """A part at one of its states, with the valid readings that count there."""

    part: Part
    state: PartState
    dimensions: Sequence[DimensionReading]
    flows: Sequence[FlowReading]

    @property
    def features(self) -> PartFeatures:
        return read(PartFeatures, self.part.features)

    @property
    def advertised(self) -> Advertised:
        return read(Advertised, self.part.advertised)

    def dimension(self, kind: str, quantity: str, cylinder: int | None = None) -> float | None:
        """The last valid measurement in SI; where a cut left it alone, of the state before."""
        sequences = {state.id: state.sequence for state in self.part.states}
        fitting = [
            d
            for d in self.dimensions
            if sequences.get(d.part_state_id, 99) <= self.state.sequence
            and d.element_kind == kind
            and d.quantity == quantity
            and (d.cylinder == cylinder or kind != ElementKind.RUNNER)
        ]
        fitting.sort(key=lambda d: (sequences[d.part_state_id], d.taken_at))
        return fitting[-1].value_si if fitting else None

    def readings(self, kind: str, cylinder: int | None = None) -> list[FlowReading]:
        """Flow readings of an element of the part at this state."""
        return [r for r in self.flows if r.element_kind == kind and r.cylinder == cylinder]

    def passage(self, kind: str, cylinder: int | None = None) -> Passage | None:
        """What an element passes: as read, else from its measured geometry, else from the maker's, else unknown."""
        bore_in, bore_out = self.dimension(kind, "bore", cylinder), self.dimension(kind, "bore_out", cylinder)
        kept = self.readings(kind, cylinder)
        if kept:
            areas = [effective_area(flow_of(r), r.pulled_pa) for r in kept]
            mean = volume_flow_of(sum(areas) / len(areas), REFERENCE_DEPRESSION)
            return measured(mean, REFERENCE_DEPRESSION, bore_in, bore_out)
        if bore_in is not None:
            return estimated(kind, self._geometry(kind, bore_in, bore_out, cylinder))
        if kind == ElementKind.PLENUM:
            return lossless()
        return self._as_advertised(kind)

    def _geometry(self, kind: str, bore_in: float, bore_out: float | None, cylinder: int | None) -> Geometry:
        features = self.features
        return Geometry(
            bore_in,
            bore_out,
            self.dimension(kind, "length", cylinder),
            self.dimension(kind, "entry_radius", cylinder),
            self.dimension(kind, "shaft", cylinder),
            core_bends(features) if kind == ElementKind.TUBE else (),
            features.ribbed,
            features.cast,
        )

    def _as_advertised(self, kind: str) -> Passage | None:
        """By the maker's dimensions: the grade says so."""
        stated = self.advertised
        main = {"manifold": ElementKind.RUNNER}.get(self.part.kind, self.part.kind)
        if stated.bore_mm is None or kind != main:
            return None
        bore_out = stated.bore_out_mm / 1000 if stated.bore_out_mm else None
        length = stated.length_mm / 1000 if stated.length_mm else None
        features = self.features
        geometry = Geometry(stated.bore_mm / 1000, bore_out, length, bends=core_bends(features), ribbed=features.ribbed)
        return replace(estimated(kind, geometry), grade=Grade.RULE)


def load_facts(session: Session, state_ids: Iterable[UUID]) -> dict[UUID, PartFacts]:
    """Facts of part states, in three questions to the database."""
    wanted = list(set(state_ids))
    if not wanted:
        return {}
    parts = queries.parts_with_states(session, wanted)
    every = [state.id for part in parts for state in part.states]
    dimensions: dict[UUID, list[DimensionReading]] = {}
    owner = {state.id: part.id for part in parts for state in part.states}
    for row in queries.dimensions_of(session, every):
        dimensions.setdefault(owner[row.part_state_id], []).append(row)
    flows: dict[UUID, list[FlowReading]] = {}
    for reading in queries.flows_of_states(session, wanted):
        if counts(reading):
            flows.setdefault(reading.part_state_id, []).append(reading)
    asked = set(wanted)
    return {
        state.id: PartFacts(part, state, dimensions.get(part.id, []), flows.get(state.id, []))
        for part in parts
        for state in part.states
        if state.id in asked
    }
