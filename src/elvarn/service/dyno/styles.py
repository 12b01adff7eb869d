"""Which manifold and which throttle each build of a job has, as numbers: 0 are those of the first build."""

from collections.abc import Sequence
from uuid import UUID

from elvarn.core.path.tree import ElementKind
from elvarn.service.dyno.matrix import Style
from elvarn.store.models import Build

MANIFOLD, THROTTLE = (ElementKind.PLENUM.value, ElementKind.RUNNER.value), (ElementKind.THROTTLE.value,)


def styles_of(builds: Sequence[Build]) -> list[Style]:
    """The style of each build, in order."""
    hues, dashes = _numbers(builds, MANIFOLD), _numbers(builds, THROTTLE)
    return [
        Style(build.id, build.name, hue, dash, _name(build, THROTTLE))
        for build, hue, dash in zip(builds, hues, dashes, strict=True)
    ]


def _numbers(builds: Sequence[Build], kinds: tuple[str, ...]) -> list[int]:
    """A number for each build, the same where the same parts stand at elements of these kinds."""
    known: list[frozenset[UUID | None]] = []
    found = []
    for build in builds:
        parts = frozenset(node.part_state_id for node in build.nodes if node.element_kind in kinds)
        if parts not in known:
            known.append(parts)
        found.append(known.index(parts))
    return found


def _name(build: Build, kinds: tuple[str, ...]) -> str:
    """The name of the part that stands at elements of these kinds."""
    states = (node.part_state for node in build.nodes if node.element_kind in kinds)
    return next((state.part.name for state in states if state is not None), "")
