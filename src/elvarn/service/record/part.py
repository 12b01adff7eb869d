"""What is known of a part at a state: its dimensions, its flow readings, and the passage that follows from them."""

from collections.abc import Collection, Hashable, Iterable, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from math import degrees, pi, radians
from statistics import fmean
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE, REFERENCE_DEPRESSION
from elvarn.core.finding import Grade
from elvarn.core.gas.discharge import effective_area, volume_flow_of
from elvarn.core.likeness import signature_of
from elvarn.core.path.passage import Geometry, Passage, estimated, lossless, measured
from elvarn.core.path.throttle import CLOSED_ANGLE_DEG
from elvarn.core.path.tree import ElementKind
from elvarn.core.port.bore_map import mean_bore
from elvarn.service.record.checks import load_checks
from elvarn.service.record.features import Advertised, PartFeatures, core_bends, read
from elvarn.service.record.setup import declared
from elvarn.service.record.stated import at_reference, counts, flow_of
from elvarn.store import queries
from elvarn.store.models import DimensionReading, FlowReading, Part, PartState
from elvarn.store.models.reading.dimension import ACROSS

Measurand = tuple[str, str, int | None, float | None, float | None]


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
        fitting = self.measured(kind, quantity, cylinder)
        if quantity in ("bore", "bore_out") and (mapped := self._mapped(kind, quantity, fitting, cylinder)):
            return mapped
        return fitting.value_si if fitting else None

    def across(self, kind: str) -> list[DimensionReading]:
        """What was gauged across the bore of an element, as it counts: the last of each place and hour."""
        return [d for key, d in self._dimensions.items() if key[0] == kind and key[1] == ACROSS]

    def _mapped(self, kind: str, quantity: str, single: DimensionReading | None, barrel: int | None) -> float | None:
        """The bore by a map of it along its depth, where that is newer than one figure for all: at its entry, of a
        throttle where it is narrowest; its outlet. Of the element's own barrel, where it has one, else of all."""
        rows = self.across(kind)
        rows = [d for d in rows if d.barrel == barrel] or rows
        if not rows or (single is not None and max(d.taken_at for d in rows) < single.taken_at):
            return None
        by_barrel: dict[int, dict[float, list[float]]] = {}
        for d in rows:
            by_barrel.setdefault(d.barrel or 1, {}).setdefault(round(d.place_m or 0.0, 4), []).append(d.value_si)
        bores = [[mean_bore(map_[place]) for place in sorted(map_)] for map_ in by_barrel.values()]
        if quantity == "bore_out":
            return min(one[-1] for one in bores) if min(map(len, bores)) > 1 else None
        return min(min(one) if kind == ElementKind.THROTTLE else one[0] for one in bores)

    def measured(self, kind: str, quantity: str, cylinder: int | None = None) -> DimensionReading | None:
        """The same with when and of which state it was measured."""
        return self._dimensions.get((kind, quantity, cylinder if kind == ElementKind.RUNNER else None, None, None))

    @cached_property
    def _dimensions(self) -> dict[Measurand, DimensionReading]:
        """The measurement that counts, by element, quantity and runner; across a bore by barrel, place and hour."""
        sequences = {state.id: state.sequence for state in self.part.states}
        known = [d for d in self.dimensions if sequences.get(d.part_state_id, 99) <= self.state.sequence]
        known.sort(key=lambda d: (sequences[d.part_state_id], d.taken_at))
        return {_measurand(d): d for d in known}

    @property
    def counting_dimensions(self) -> set[UUID]:
        """Ids of the measurements that count."""
        return {reading.id for reading in self._dimensions.values()}

    def readings(self, kind: str, cylinder: int | None = None) -> list[FlowReading]:
        """Flow readings of an element of the part at this state that tell what it passes: those of the part alone, if
        there are any, and only what was set up as the last of them was. Only runners are read each for itself."""
        return self._readings.get((kind, cylinder if kind == ElementKind.RUNNER else None), [])

    @cached_property
    def _readings(self) -> dict[tuple[str, int | None], list[FlowReading]]:
        found: dict[tuple[str, int | None], list[FlowReading]] = {}
        for reading in self.flows:
            found.setdefault((reading.element_kind, reading.cylinder), []).append(reading)
        chosen = self.counting
        return {place: _alike(readings, chosen) for place, readings in found.items()}

    @property
    def counting(self) -> Hashable | None:
        """How the readings were set up that somebody chose to count; None where nobody did, or none of them is left."""
        wanted = self.state.counting_setup_id
        return next((signature_of(declared(r.setup)) for r in self.flows if r.setup_id == wanted), None)

    def passage(self, kind: str, cylinder: int | None = None) -> Passage | None:
        """What an element passes: as read, else from its measured geometry, else from the maker's, else unknown."""
        bore_in, bore_out = self.dimension(kind, "bore", cylinder), self.dimension(kind, "bore_out", cylinder)
        kept = self.readings(kind, cylinder)
        if kept:
            areas = [effective_area(flow_of(r), r.pulled_pa) for r in kept]
            mean = volume_flow_of(sum(areas) / len(areas), REFERENCE_DEPRESSION)
            return measured(mean, REFERENCE_DEPRESSION, bore_in, bore_out)
        stated = self.features
        if kind == ElementKind.COOLER and stated.drop_kpa and stated.drop_at_cfm:
            flow = measured(stated.drop_at_cfm * CUBIC_FOOT_PER_MINUTE, stated.drop_kpa * 1000, bore_in, bore_out)
            return replace(flow, grade=Grade.RULE)
        if bore_in is not None:
            return estimated(kind, self.geometry(kind, bore_in, bore_out, cylinder))
        if kind in (ElementKind.PLENUM, ElementKind.COMPRESSOR):
            return lossless()
        return self._as_advertised(kind)

    def geometry(self, kind: str, bore_in: float, bore_out: float | None, cylinder: int | None) -> Geometry:
        """What was measured of an element, with these bores [m]."""
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
            plate=self.dimension(kind, "plate"),
            wide_open_deg=degrees(self.dimension(kind, "wide_open_angle") or pi / 2),
            closed_deg=degrees(self.dimension(kind, "closed_angle") or radians(CLOSED_ANGLE_DEG)),
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


def _measurand(d: DimensionReading) -> Measurand:
    """What was measured, whatever came of it."""
    if d.quantity == ACROSS:
        return d.element_kind, d.quantity, d.barrel, round(d.place_m or 0.0, 3), d.hour
    return d.element_kind, d.quantity, d.cylinder if d.element_kind == ElementKind.RUNNER else None, None, None


def _alike(readings: Sequence[FlowReading], chosen: Hashable | None) -> list[FlowReading]:
    """Of one element's readings those that were set up alike: as somebody chose, else the part alone as it was last."""
    as_chosen = [reading for reading in readings if signature_of(declared(reading.setup)) == chosen]
    if as_chosen:
        return as_chosen
    alone = [r for r in readings if r.setup.throttle == "off" and not r.setup.mounted] or list(readings)
    as_last = signature_of(declared(alone[-1].setup))
    return [reading for reading in alone if signature_of(declared(reading.setup)) == as_last]


def load_facts(session: Session, state_ids: Iterable[UUID]) -> dict[UUID, PartFacts]:
    """Facts of part states."""
    wanted = list(set(state_ids))
    if not wanted:
        return {}
    return facts_of_parts(session, queries.parts_with_states(session, wanted), wanted)


def facts_of_parts(session: Session, parts: Sequence[Part], state_ids: Collection[UUID]) -> dict[UUID, PartFacts]:
    """Facts of these states of parts that are loaded."""
    readings = queries.flows_of_states(session, list(state_ids))
    load_checks(session)
    return facts_of(session, parts, state_ids, readings)


def facts_of(
    session: Session, parts: Sequence[Part], state_ids: Collection[UUID], readings: Iterable[FlowReading]
) -> dict[UUID, PartFacts]:
    """Facts of these states of parts that are loaded, with those of the readings that count."""
    owner = {state.id: part.id for part in parts for state in part.states}
    dimensions: dict[UUID, list[DimensionReading]] = {}
    for row in queries.dimensions_of(session, list(owner)):
        dimensions.setdefault(owner[row.part_state_id], []).append(row)
    flows: dict[UUID, list[FlowReading]] = {}
    for reading in readings:
        if reading.strike is None and counts(reading):
            flows.setdefault(reading.part_state_id, []).append(reading)
    asked = set(state_ids)
    return {
        state.id: PartFacts(part, state, dimensions.get(part.id, []), flows.get(state.id, []))
        for part in parts
        for state in part.states
        if state.id in asked
    }


def main_element(kind: str) -> str:
    """The element of a part that its main bore is of."""
    return ElementKind.RUNNER if kind == "manifold" else kind


def main_dimension(facts: PartFacts, quantity: str) -> float | None:
    """A dimension of a part's main element; of a manifold the smallest over its runners, its volume the plenum's."""
    if facts.part.kind != "manifold":
        return facts.dimension(facts.part.kind, quantity)
    if quantity in ("volume", "opening"):
        return facts.dimension(ElementKind.PLENUM, quantity)
    cylinders = {d.cylinder for d in facts.dimensions if d.element_kind == ElementKind.RUNNER}
    found = [facts.dimension(ElementKind.RUNNER, quantity, cylinder) for cylinder in cylinders]
    return min((value for value in found if value is not None), default=None)


def main_flow(facts: PartFacts) -> float | None:
    """Mean flow of the main element in m³/s at the reference depression, of what counts: over the runners of a
    manifold that were set up alike."""
    runners = counting_runners(facts)
    return fmean(fmean(map(at_reference, readings)) for readings in runners) if runners else None


def counting_runners(facts: PartFacts) -> list[list[FlowReading]]:
    """Readings that count, by runner: only of runners that were set up as the last of them."""
    kind = main_element(facts.part.kind)
    places = {(r.element_kind, r.cylinder) for r in facts.flows if r.element_kind == kind}
    found = [facts.readings(*place) for place in places]
    latest = max((readings[-1] for readings in found), key=lambda one: one.taken_at, default=None)
    as_last = signature_of(declared(latest.setup)) if latest else None
    return [readings for readings in found if signature_of(declared(readings[-1].setup)) == as_last]
