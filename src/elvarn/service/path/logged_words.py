"""What logs of the engine computer say of a path: the drop that was measured, and whether another throttle moved it."""

from collections.abc import Iterator

from elvarn.core.finding import Grade
from elvarn.core.path.tree import ElementKind
from elvarn.service.kernel.sentences import Sentence, sentence
from elvarn.service.record.logs import last_drop
from elvarn.service.record.solved import SolvedPath
from elvarn.service.record.trees import in_order, tree_of
from elvarn.store.models import Build

LOG_APART, LEAST_APART_KPA = 0.3, 0.7  # of a logged drop, and kPa: within both it is the same; choice, no source
UNCHANGED = 0.05  # of the drop, as two logs of one engine differ; common practice, no source


def about_logged_drop(path: SolvedPath) -> Iterator[Sentence]:
    """The drop that a log of this build has at this speed, beside the one that is computed, and what another throttle
    did to it."""
    found = last_drop(path.record.session, path.record.job.id, path.build.id)
    measured = found.drop.at(path.rpm) if found and found.drop else None
    if found is None or measured is None or measured < 0 or path.changed:
        return
    yield from _about_another_throttle(path, measured)
    day = f"{found.log.taken_at:%-d %b %Y}"
    answer = f"Measured in the log of {day}: {measured:.1f} kPa from outside to the manifold at {path.rpm} rpm."
    computed = path.losses.to_plenum if path.losses else None
    if computed is None:
        yield sentence(answer, Grade.MEASURED)
        return
    apart = abs(measured - computed / 1000) > max(LOG_APART * measured, LEAST_APART_KPA)
    reason = f"The path computes {computed / 1000:.1f} kPa to the plenum."
    reason += " Something in it is not as measured, or not measured." if apart else ""
    yield sentence(answer, Grade.MEASURED, "doubt" if apart else "plain", reason)


def _about_another_throttle(path: SolvedPath, measured: float) -> Iterator[Sentence]:
    """Where another throttle left the drop as it was, the restriction is elsewhere."""
    for build in path.record.builds:
        if build.id == path.build.id or not _differ_in_throttle_alone(build, path.build):
            continue
        other = last_drop(path.record.session, path.record.job.id, build.id)
        there = other.drop.at(path.rpm) if other and other.drop else None
        if other is None or there is None or there < 0:
            continue
        if abs(measured - there) > max(UNCHANGED * max(measured, there), LEAST_APART_KPA):
            continue
        answer = f"Another throttle changed nothing: {measured:.1f} kPa with this one, {there:.1f} kPa with that of "
        answer += f"'{build.name}', both measured at {path.rpm} rpm."
        reason = "The restriction is elsewhere."
        yield sentence(answer, Grade.MEASURED, "doubt", reason, "Look at what else carries all the air.")


def _differ_in_throttle_alone(one: Build, other: Build) -> bool:
    """Whether two builds have the same elements with the same parts, but for their throttles."""
    first, second = (
        [(node.element_kind, node.cylinder, node.part_state_id) for node in in_order(*tree_of(build))]
        for build in (one, other)
    )
    if [node[:2] for node in first] != [node[:2] for node in second]:
        return False
    changed = {a[0] for a, b in zip(first, second, strict=True) if a != b}
    return changed == {ElementKind.THROTTLE.value}
