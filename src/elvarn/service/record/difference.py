"""In what two builds differ, in words."""

from collections import OrderedDict
from dataclasses import dataclass
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.core.path.difference import BuildChange, Place, build_changes
from elvarn.core.path.tree import ElementKind
from elvarn.service.kernel.find import find
from elvarn.service.kernel.sentences import listed
from elvarn.service.record.trees import in_order, tree_of
from elvarn.store.models import Build, BuildNode


@dataclass(frozen=True)
class BuildDifference:
    """How one build differs from another, a line each."""

    before: str
    after: str
    lines: list[str]


def difference_of(session: Session, before_id: UUID, after_id: UUID) -> BuildDifference:
    """The difference of two builds in words."""
    before, after = find(session, Build, before_id, "build"), find(session, Build, after_id, "build")
    found = build_changes(_places(before), _places(after))
    return BuildDifference(before.name, after.name, _words(found))


def _places(build: Build) -> list[Place]:
    return [Place(row.element_kind or "", row.label, row.cylinder, _held(row)) for row in in_order(*tree_of(build))]


def _held(row: BuildNode) -> tuple[str, str]:
    """What stands at a node: the part, and its state."""
    state = row.part_state
    if state is None:
        return "no part chosen", ""
    part = state.part
    return " ".join(word for word in (part.maker, part.name) if word), state.label


def _words(found: list[BuildChange]) -> list[str]:
    """A line each; what is the same for several runners, or for plenum and runners of a manifold, is told once."""
    told: OrderedDict[str, list[Place]] = OrderedDict()
    for one in found:
        place = one.after or one.before
        if place is not None:
            told.setdefault(_change(one), []).append(place)
    return [f"{_where(places)}: {what}" for what, places in told.items()]


def _change(one: BuildChange) -> str:
    if one.before is None:
        return f"added: {one.after.holds[0]}" if one.after else ""
    if one.after is None:
        return f"removed: {one.before.holds[0]}"
    (was, from_state), (now, to_state) = one.before.holds, one.after.holds
    if was == now:
        return f"{now}, {from_state} → {to_state}"
    return f"{was} → {now}"


def _where(places: list[Place]) -> str:
    kinds = {place.kind for place in places}
    if kinds == {ElementKind.PLENUM, ElementKind.RUNNER}:
        return "Manifold"
    if places[0].cylinder is None:
        return listed([place.label for place in places])
    numbers = listed([str(place.cylinder) for place in places])
    return f"{places[0].kind.capitalize()}{'s' if len(places) > 1 else ''} {numbers}"
