"""How a job stands on its air path: how many elements were measured."""

from elvarn.core.path.tree import ElementKind
from elvarn.service.job.standing import Standing, Todo
from elvarn.service.record.job import JobRecord

READ_ON_THE_BENCH = (ElementKind.PLENUM, ElementKind.RUNNER, ElementKind.HEAD)


def standing(record: JobRecord) -> Standing:
    """The path is done once every element of the latest build was flowed or had its bore measured. What stands in
    front of the manifold is measured first, unless the bench was begun."""
    build = record.latest_build
    elements = [node for node in build.nodes if node.element_kind] if build else []
    if not elements:
        return Standing(done=False, status="")
    unmeasured = [node for node in elements if not record.measured(node)]
    in_front = [node for node in elements if node.element_kind not in READ_ON_THE_BENCH]
    begun = bool(record.read_runners(record.before_state))
    nothing = bool(in_front) and all(node in unmeasured for node in in_front)
    todo = (Todo(f"Measure the path, from the {in_front[0].label.lower()} on"),) if nothing and not begun else ()
    status = "measured" if not unmeasured else f"{len(elements) - len(unmeasured)} of {len(elements)}"
    return Standing(not unmeasured, status, todo)
