"""How a job stands on its air path: how many elements were measured."""

from elvarn.service.job.standing import Standing
from elvarn.service.record.job import JobRecord


def standing(record: JobRecord) -> Standing:
    """The path is done once every element of the latest build was flowed or had its bore measured."""
    build = record.latest_build
    elements = [node for node in build.nodes if node.element_kind] if build else []
    measured = sum(record.measured(node) for node in elements)
    everything = measured == len(elements)
    return Standing(bool(elements) and everything, "measured" if everything else f"{measured} of {len(elements)}")
