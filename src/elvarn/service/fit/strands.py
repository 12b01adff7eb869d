"""The strands of a plan: what two builds, their parts and the engine's family say of each interface."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.core.fit.interface import Medium, Verb, kind_of
from elvarn.core.fit.schools import OF_CODE
from elvarn.core.fit.swap import (
    Interface,
    Need,
    Part,
    Said,
    Sits,
    Strand,
    interface_strand,
    part_strand,
    spare_strand,
    with_said,
)
from elvarn.core.path.tree import ElementKind
from elvarn.service.fit.said import InterfaceSpec
from elvarn.service.record.features import PartFeatures, SurroundingsSpec, read
from elvarn.service.record.trees import in_order, tree_of
from elvarn.store import queries
from elvarn.store.models import Build, BuildNode, FitPlan, Job
from elvarn.store.models import Part as PartRow

MANIFOLD = "manifold"
OF_MANIFOLD = (ElementKind.PLENUM, ElementKind.RUNNER)
NOT_BOLTED_ON = (ElementKind.HEAD,)
COUPLER = 0.012  # m that a coupler takes up by itself; common practice, no source


@dataclass(frozen=True)
class Place:
    """A part at its place in a build, with the rows that it stands at."""

    on: str
    label: str
    rows: tuple[BuildNode, ...]

    @property
    def part(self) -> PartRow | None:
        return self.rows[0].part_state.part if self.rows[0].part_state else None

    @property
    def features(self) -> PartFeatures:
        return read(PartFeatures, self.part.features) if self.part else PartFeatures()

    @property
    def state_id(self) -> UUID | None:
        return self.rows[0].part_state_id

    @property
    def said(self) -> str:
        """The part in words: a cut one with its stage."""
        state = self.rows[0].part_state
        if state is None:
            return self.label
        return f"{state.part.name}, {state.label}" if state.sequence > 1 else state.part.name


@dataclass(frozen=True)
class Pair:
    """A place before and after."""

    off: Place | None
    on: Place | None

    @property
    def kind(self) -> str:
        place = self.off or self.on
        return place.on if place else ""

    @property
    def same(self) -> bool:
        """Whether the part that comes off goes on again, cut or as it was."""
        both = self.off and self.on and self.off.part and self.on.part
        return bool(both and self.off and self.on and self.off.part is self.on.part)

    @property
    def changed(self) -> bool:
        return self.off is None or self.on is None or self.off.state_id != self.on.state_id


def strands_of(session: Session, plan: FitPlan, job: Job) -> list[Strand]:
    """Every strand of a plan as things stand now, with what was decided of it."""
    off, on = (session.get_one(Build, one) for one in (plan.off_build_id, plan.on_build_id))
    pairs = touched(paired(places_of(off), places_of(on)))
    around = read(SurroundingsSpec, job.surroundings)
    family = queries.family_named(session, plan.family) if plan.family else None
    listed = [read(InterfaceSpec, one) for one in (*(family.interfaces if family else []), *plan.extras)]
    banks = len({row.bank for row in off.nodes if row.element_kind == ElementKind.RUNNER}) or 1
    parted = OF_CODE["injectors"].way(plan.schools.get("injectors", "")).word.startswith("parted")
    found = [part_strand(_part(pair, banks, _longer(pair, around))) for pair in pairs]
    interfaces = _interfaces(pairs, around, listed, off.cylinder_count, 2 if parted else 1)
    interfaces = interfaces if parted else _in_the_rail(interfaces)
    found += [interface_strand(one) for one in interfaces]
    found += _spare(pairs, interfaces)
    return with_said(_unlike_keys(found), {key: Said(Verb(one["verb"]), one["how"]) for key, one in plan.said.items()})


def places_of(build: Build) -> list[Place]:
    """Parts of a build at their places, in the order of the air; plenum and runners of one part are one place, runners
    of which no part is noted go with the plenum in front of them."""
    groups: dict[tuple[str, object], list[BuildNode]] = {}
    manifold: object = MANIFOLD
    for row in in_order(*tree_of(build)):
        if row.element_kind in NOT_BOLTED_ON:
            continue
        on = MANIFOLD if row.element_kind in OF_MANIFOLD else str(row.element_kind)
        held: object = row.part_state.part_id if row.part_state else (manifold if on == MANIFOLD else row.id)
        manifold = held if on == MANIFOLD else manifold
        groups.setdefault((on, held), []).append(row)
    return [
        Place(on, MANIFOLD.capitalize() if on == MANIFOLD else rows[0].label or on.capitalize(), tuple(rows))
        for (on, _), rows in groups.items()
    ]


def paired(off: Sequence[Place], on: Sequence[Place]) -> list[Pair]:
    """Places of two builds side by side: the first throttle with the first throttle, and so on."""
    found = []
    left = list(on)
    for place in off:
        other = next((one for one in left if one.on == place.on), None)
        if other is not None:
            left.remove(other)
        found.append(Pair(place, other))
    return found + [Pair(None, one) for one in left]


def touched(pairs: Sequence[Pair]) -> list[Pair]:
    """Pairs that come apart, in the order of the air: what changes; the throttle of a manifold that does; and what is
    clamped in front."""
    apart = {n for n, pair in enumerate(pairs) if pair.changed}
    if any(pairs[n].kind == MANIFOLD for n in apart):
        apart |= {n for n, pair in enumerate(pairs) if pair.kind in (MANIFOLD, ElementKind.THROTTLE)}
    for n, pair in enumerate(pairs):
        if pair.kind == ElementKind.THROTTLE and n in apart and n and pairs[n - 1].kind != MANIFOLD:
            apart.add(n - 1)
    first = min(apart, default=0)
    if apart and pairs[first].kind == MANIFOLD and first:
        apart.add(first - 1)
    order = [*ElementKind, MANIFOLD]
    return sorted((pair for n, pair in enumerate(pairs) if n in apart), key=lambda pair: order.index(pair.kind))


def _part(pair: Pair, banks: int, longer: float | None) -> Part:
    off, on = pair.off, pair.on
    place = on or off
    label = place.label if place else ""
    seals: tuple[Need, ...] = ()
    if pair.kind == MANIFOLD and on:
        seals = (Need("flange gasket", banks),)
    elif pair.kind == ElementKind.THROTTLE and on:
        seals = (Need("throttle gasket or ring", len(on.rows)),)
    goes_on = on.said if on else ""
    if on and pair.changed and on.part is None:
        goes_on = f"{on.label}, not chosen yet"
    mass = on.part.mass_kg if on and on.part else off.part.mass_kg if off and off.part else None
    return Part(
        pair.kind, label, off.said if off else "", goes_on,
        pair.same or not pair.changed, mass, seals, longer,
    )  # fmt: skip


def _longer(pair: Pair, around: SurroundingsSpec) -> float | None:
    """How much further the front of the new manifold reaches [m], where a coupler has to make up for it."""
    if pair.kind != MANIFOLD or pair.off is None or pair.on is None or pair.same:
        return None
    before = pair.off.features.front_length_mm or around.front_length_mm
    after = pair.on.features.front_length_mm
    if before is None or after is None or abs(after - before) / 1000 <= COUPLER:
        return None
    return (after - before) / 1000


def _interfaces(
    pairs: Sequence[Pair], around: SurroundingsSpec, listed: Sequence[InterfaceSpec], cylinders: int, rings: int
) -> list[Interface]:
    """Interfaces in use on what comes off: those that the vehicle has, those of the family, and those stated of the
    part itself; each once."""
    found: dict[str, Interface] = {}
    for spec in (*_of_vehicle(around), *listed, *_of_parts(pairs)):
        kind = kind_of(spec.words)
        key = kind.name if kind else spec.words.strip().lower()
        on = spec.on or (kind.on if kind else MANIFOLD)
        pair = next((one for one in pairs if one.kind == on and one.off), None)
        if key in found or pair is None:
            continue
        was = Sits(spec.bore_mm / 1000 if spec.bore_mm else None, spec.connector, spec.signal)
        known, becomes = _on_new(pair, spec, kind.medium if kind else None)
        many = cylinders if kind and kind.name == "injector" else 1
        moved = pair.same or not pair.changed
        found[key] = Interface(
            spec.words.strip(), on, was, becomes, known, moved, many, rings if many > 1 else 1, pair.on is None
        )
    return list(found.values())


def _in_the_rail(interfaces: Sequence[Interface]) -> list[Interface]:
    """Injectors that are left in their rail come off and go on with it."""
    rail, injectors = (
        next((one for one in interfaces if one.kind and one.kind.name == name), None)
        for name in ("fuel rail", "injector")
    )
    if rail is None or injectors is None:
        return list(interfaces)
    both = replace(injectors, words="fuel rail with injectors", moved=injectors.moved and rail.moved)
    return [both if one is injectors else one for one in interfaces if one is not rail]


def _of_vehicle(around: SurroundingsSpec) -> Iterable[InterfaceSpec]:
    for port in around.ports:
        yield InterfaceSpec(port)
    for home in around.homes:
        yield InterfaceSpec(home.purpose, bore_mm=home.bore_mm)
    for plug in around.plugs:
        yield InterfaceSpec(plug.purpose, connector=plug.connector or "", signal=plug.signal or "")


def _of_parts(pairs: Sequence[Pair]) -> Iterable[InterfaceSpec]:
    for pair in pairs:
        if pair.off is None:
            continue
        of = pair.off.features
        for port in of.ports or []:
            yield InterfaceSpec(port, pair.kind)
        for home in of.homes or []:
            yield InterfaceSpec(home.purpose, pair.kind, home.bore_mm)
        for plug in of.plugs or []:
            yield InterfaceSpec(plug.purpose, pair.kind, None, plug.connector or "", plug.signal or "")


def _on_new(pair: Pair, spec: InterfaceSpec, medium: Medium | None) -> tuple[bool, Sits | None]:
    """Whether anybody said so, and how the interface sits on the part that goes on."""
    if pair.on is None:
        return True, None
    of = pair.on.features
    meant = kind_of(spec.words)

    def is_it(words: str) -> bool:
        return words.strip().lower() == spec.words.strip().lower() or (meant is not None and kind_of(words) is meant)

    if any(is_it(port) for port in of.ports or []):
        return True, Sits()
    home = next((one for one in of.homes or [] if is_it(one.purpose)), None)
    if home is not None:
        return True, Sits(home.bore_mm / 1000 if home.bore_mm else None)
    plug = next((one for one in of.plugs or [] if is_it(one.purpose)), None)
    if plug is not None:
        return True, Sits(None, plug.connector or "", plug.signal or "")
    if meant is not None and meant.name == "injector":
        return of.homes is not None, None
    lists = {Medium.VACUUM: (of.ports,), Medium.AIR: (of.ports,), Medium.ELECTRIC: (of.homes, of.plugs)}
    asked = lists.get(medium, ()) if medium is not None else ()
    return any(one is not None for one in asked), None


def _spare(pairs: Sequence[Pair], interfaces: Sequence[Interface]) -> list[Strand]:
    """Ports of the new manifold that nothing connects to."""
    used = {kind.name if (kind := one.kind) else one.words.lower() for one in interfaces}
    found = []
    for pair in pairs:
        if pair.on is None or pair.same or not interfaces:
            continue
        for port in pair.on.features.ports or []:
            kind = kind_of(port)
            if (kind.name if kind else port.strip().lower()) not in used:
                found.append(spare_strand(port, pair.kind))
    return found


def _unlike_keys(strands: Sequence[Strand]) -> list[Strand]:
    """Strands whose keys would be the same, told apart by a number."""
    seen: dict[str, int] = {}
    found = []
    for one in strands:
        seen[one.key] = seen.get(one.key, 0) + 1
        again = seen[one.key] > 1
        found.append(replace(one, key=f"{one.key} {seen[one.key]}") if again else one)
    return found
