"""Throttles and adapters of a job as they were gauged: each barrel's bores along its depth, now and before."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from math import degrees
from uuid import UUID

from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.finding import Grade
from elvarn.core.gas.discharge import volume_flow_of
from elvarn.core.path.throttle import CLOSED_ANGLE_DEG
from elvarn.core.port.bore_map import Barrel, Worth, changes_of, mean_bore
from elvarn.service.record.job import JobRecord
from elvarn.service.record.part import PartFacts, main_flow
from elvarn.service.record.trees import in_order, tree_of
from elvarn.store.models import BuildNode, DimensionReading, Part, PartState

TUBES = ("tube", "meter", "adapter", "throttle", "restrictor")  # out of anything else the air comes as from open space
KINDS = ("throttle", "adapter", "restrictor")
WITH_A_PLATE = ("throttle",)


@dataclass(frozen=True)
class Depth:
    """A depth of a barrel: what was gauged there, the last of each hour that counts, and its first mean bore [m]."""

    place: float
    rows: tuple[DimensionReading, ...]
    before: float

    @property
    def diameters(self) -> list[float]:
        return [row.value_si for row in self.rows]

    @property
    def mean(self) -> float:
        return mean_bore(self.diameters)


@dataclass(frozen=True)
class Neighbour:
    """What lies in front of a throttle or adapter, or behind it: its name, and its bore there [m] if known."""

    label: str
    bore: float | None


@dataclass(frozen=True)
class Bored:
    """A throttle or adapter at its latest state."""

    facts: PartFacts
    count: int
    front: Neighbour | None = None
    behind: Neighbour | None = None

    @property
    def part(self) -> Part:
        return self.facts.part

    @property
    def state(self) -> PartState:
        return self.facts.state

    @property
    def kind(self) -> str:
        return self.part.kind

    @property
    def has_plate(self) -> bool:
        return self.kind in WITH_A_PLATE

    def size(self, quantity: str) -> float | None:
        return self.facts.dimension(self.kind, quantity)

    def depths(self, barrel: int) -> list[Depth]:
        """What was gauged of a barrel, by depth from the entry face."""
        rows = [d for d in self.facts.across(self.kind) if d.barrel == barrel]
        places = sorted({round(d.place_m or 0.0, 4) for d in rows})
        found = []
        for place in places:
            here = sorted((d for d in rows if round(d.place_m or 0.0, 4) == place), key=lambda d: (d.hour or 0.0) % 12)
            found.append(Depth(place, tuple(here), self._first(barrel, place)))
        return found

    def _first(self, barrel: int, place: float) -> float:
        """The mean bore at a depth in the first state of which it was gauged."""
        order = {state.id: state.sequence for state in self.part.states}
        rows = [
            d
            for d in self.facts.dimensions
            if d.place_m is not None and d.barrel == barrel and round(d.place_m, 4) == place
        ]
        first = min(order[d.part_state_id] for d in rows)
        by_hour = {d.hour: d.value_si for d in rows if order[d.part_state_id] == first}
        return mean_bore(list(by_hour.values()))

    def barrel(self, number: int) -> Barrel | None:
        """A barrel as the core takes it; by its one bore where it was not gauged along its depth."""
        depths = self.depths(number)
        bore = self.size("bore")
        if not depths and bore is None:
            return None
        angles = {name: self.size(name) for name in ("wide_open_angle", "closed_angle")}
        return Barrel(
            tuple(depth.place for depth in depths) or (0.0,),
            tuple(depth.mean for depth in depths) or (bore or 0.0,),
            self.size("entry_radius"),
            self.size("plate_at"),
            self.size("shaft") if self.has_plate else None,
            self.size("plate") if self.has_plate else None,
            degrees(angles["wide_open_angle"]) if angles["wide_open_angle"] else 90.0,
            degrees(angles["closed_angle"]) if angles["closed_angle"] else CLOSED_ANGLE_DEG,
            self.front.bore if self.front else None,
            self.has_plate,
        )

    @cached_property
    def leading(self) -> int:
        """The narrowest of the barrels that were gauged: the one that is spoken of."""
        least = {n: min(d.mean for d in depths) for n in range(1, self.count + 1) if (depths := self.depths(n))}
        return min(least, key=lambda n: least[n], default=1)

    @cached_property
    def worths(self) -> list[Worth]:
        """What can be done to that barrel, the best first."""
        barrel = self.barrel(self.leading)
        return changes_of(barrel, self.size("land_in"), self.size("land_out")) if barrel else []

    @cached_property
    def flow(self) -> tuple[float | None, Grade]:
        """What it passes [m³/s at the reference depression]: as read, else as its path reckons."""
        read = main_flow(self.facts)
        if read is not None:
            return read, Grade.MEASURED
        passage = self.facts.passage(self.kind, 1)
        if passage is None or passage.area is None:
            return None, Grade.ESTIMATED
        return volume_flow_of(passage.area, REFERENCE_DEPRESSION), Grade.ESTIMATED


def bored_parts(record: JobRecord) -> list[Bored]:
    """Throttles and adapters that a job brought or mounts, each at its latest state: the job's own first."""
    mounted = {node.part_state_id for build in record.builds for node in build.nodes}
    latest: dict[UUID, PartFacts] = {}
    for facts in sorted(record.facts.values(), key=lambda one: one.state.sequence):
        own = facts.part.job_id == record.job.id or facts.state.id in mounted
        if own and facts.part.kind in KINDS:
            latest[facts.part.id] = facts
    found = [
        Bored(facts, _barrels(record, facts.part, facts), *_neighbours(record, facts.part)) for facts in latest.values()
    ]
    return sorted(found, key=lambda b: (KINDS.index(b.kind), b.part.job_id is None, b.part.created_at, b.part.name))


def _neighbours(record: JobRecord, part: Part) -> tuple[Neighbour | None, Neighbour | None]:
    """What lies next to a part in the last build that has it: in front a tube or the like, behind whatever follows."""
    for build in reversed(record.builds):
        nodes = in_order(*tree_of(build))
        at = next((n for n, node in enumerate(nodes) if node.part_state and node.part_state.part_id == part.id), None)
        if at is None:
            continue
        before = nodes[at - 1] if at and nodes[at - 1].element_kind in TUBES else None
        after = next((node for node in nodes[at + 1 :] if node.element_kind != part.kind), None)
        opening = "opening" if after and after.element_kind == "plenum" else "bore"
        return _neighbour(record, before, "bore_out", "bore"), _neighbour(record, after, opening)
    return None, None


def _neighbour(record: JobRecord, node: BuildNode | None, *quantities: str) -> Neighbour | None:
    if node is None:
        return None
    bores = (record.dimension(node, quantity) for quantity in quantities)
    return Neighbour((node.label or node.element_kind or "").lower(), next((b for b in bores if b), None))


def _barrels(record: JobRecord, part: Part, facts: PartFacts) -> int:
    """As many as stand in a build, or were gauged."""
    in_builds = [
        sum(node.part_state is not None and node.part_state.part_id == part.id for node in build.nodes)
        for build in record.builds
    ]
    gauged = [d.barrel or 1 for d in facts.across(part.kind)]
    return max([1, *in_builds, *gauged])


def hours_of(depths: Sequence[Depth]) -> list[float]:
    """The hours at which anything was gauged, 12 first."""
    return sorted({row.hour or 12.0 for depth in depths for row in depth.rows}, key=lambda hour: hour % 12)
