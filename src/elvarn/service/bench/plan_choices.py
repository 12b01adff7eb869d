"""What a new test can be: on which element, in which states of its part, of which kind, at which places."""

from dataclasses import dataclass
from uuid import UUID

from elvarn.core.bench.plan import CLOCK, PlanKind, axis_of, usual_places
from elvarn.core.path.tree import ElementKind
from elvarn.service.bench.plans import TITLES
from elvarn.service.record.job import JobRecord


@dataclass(frozen=True)
class StateChoice:
    """A state of a part; `own` where the part is the job's, else the label names the part."""

    id: UUID
    label: str
    own: bool


@dataclass(frozen=True)
class AxisChoice:
    """The places of a test: what they are, in which unit, and which are usual."""

    name: str
    unit: str
    usual: list[float]


@dataclass(frozen=True)
class TargetChoice:
    """What a test can be made on: a runner or another element of the job's builds, in the states of its part; and the
    axis and places that each kind of test has there."""

    label: str
    element_kind: str
    cylinder: int | None
    states: list[StateChoice]
    axes: dict[str, AxisChoice]


@dataclass(frozen=True)
class KindChoice:
    """A kind of test; whether it takes a bore and clock positions, and those it usually has."""

    kind: str
    title: str
    takes_bore: bool
    takes_clocks: bool
    clocks: list[float]


@dataclass(frozen=True)
class PlanChoices:
    targets: list[TargetChoice]
    kinds: list[KindChoice]


def plan_choices(record: JobRecord) -> PlanChoices:
    """What a new test can be."""
    targets: dict[tuple[str, int | None], TargetChoice] = {}
    for build in record.builds:
        for node in build.nodes:
            state = record.state(node.part_state_id) if node.part_state_id else None
            if state is None or node.element_kind in (None, "plenum", "inlet"):
                continue
            own = state.part.job_id is not None
            named = "" if own else f"{state.part.name}, "
            ordered = sorted(state.part.states, key=lambda s: s.sequence)
            states = [StateChoice(s.id, f"{named}{s.label}", own) for s in ordered]
            key = (node.element_kind or "", node.cylinder)
            label = f"runner {node.cylinder}" if node.element_kind == "runner" else node.label
            kept = targets.setdefault(key, TargetChoice(label, key[0], node.cylinder, [], _axes(key[0])))
            kept.states.extend(one for one in states if one.id not in {other.id for other in kept.states})
    runners_first = sorted(targets.values(), key=lambda one: (one.element_kind != "runner", one.cylinder or 0))
    return PlanChoices(
        runners_first,
        [
            KindChoice(
                kind,
                TITLES[kind],
                kind in (PlanKind.LIFT, PlanKind.SWIRL, PlanKind.COPY),
                kind in (PlanKind.PITOT, PlanKind.COPY),
                list(CLOCK.usual) if kind is PlanKind.PITOT else [],
            )
            for kind in PlanKind
        ],
    )


def _axes(element_kind: str) -> dict[str, AxisChoice]:
    target = ElementKind(element_kind)
    axes = {kind: axis_of(kind, target) for kind in PlanKind}
    return {
        kind: AxisChoice(axis.name, axis.unit, list(usual_places(kind, target)))
        for kind, axis in axes.items()
        if axis is not None
    }
