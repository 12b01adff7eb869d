"""The speed that a manifold's runners favour on an engine: a closed form, an estimate until the engine is computed."""

from elvarn.core.constants import ZERO_CELSIUS
from elvarn.core.engine import tuning
from elvarn.core.gas.air import STANDARD_AIR, speed_of_sound
from elvarn.core.gas.discharge import round_area
from elvarn.core.path.passage import Passage
from elvarn.core.path.tree import ElementKind
from elvarn.service.record.engine import EngineFacts
from elvarn.service.record.features import core_sections
from elvarn.service.record.part import PartFacts
from elvarn.service.record.solved import SolvedPath

CHARGE_TEMPERATURE = 40 + ZERO_CELSIUS  # K, of the air in the runner at full load; common practice, no source
USUAL_PORT_LENGTH = 0.090  # m, from flange to valve where the head is not in the path; common practice, no source
CHARGE_SOUND = speed_of_sound(STANDARD_AIR) * (CHARGE_TEMPERATURE / STANDARD_AIR.temperature) ** 0.5  # m/s


def manifold_favours(path: SolvedPath, facts: PartFacts) -> tuning.Favoured | None:
    """The speed that a manifold would favour in this path, with the port that is there."""
    if path.engine is None:
        return None
    return _with_port(path, path.engine, _on_plates(facts, _runner_of(facts)))


def path_favours(path: SolvedPath) -> tuning.Favoured | None:
    """The speed that the first cylinder's runner in this path favours."""
    places = _way(path)
    found: list[tuning.Section] = []
    for place in places:
        if path.nodes[place].element_kind == ElementKind.RUNNER:
            facts = path.known[place]
            section = core_sections(facts.features) if facts else []
            section = section or _section(path.passages[place], path.dimension(place, "length"))
            if not section:
                return None
            found += _on_plates(facts, section) if facts else section
    return _with_port(path, path.engine, found) if path.engine else None


def _on_plates(facts: PartFacts, runner: list[tuning.Section]) -> list[tuning.Section]:
    """A runner with what plates under the manifold add to its length."""
    thick = sum(plate.thickness_mm for plate in facts.features.plates) / 1000
    return [*runner, tuning.Section(thick, runner[-1].area)] if thick and runner else runner


def _runner_of(facts: PartFacts) -> list[tuning.Section]:
    """A manifold's runner: by its sections, else as measured, else as its maker states."""
    stated = core_sections(facts.features)
    if stated:
        return stated
    cylinders = sorted({d.cylinder for d in facts.dimensions if d.cylinder is not None})
    for cylinder in cylinders:
        length = facts.dimension(ElementKind.RUNNER, "length", cylinder)
        measured = _section(facts.passage(ElementKind.RUNNER, cylinder), length)
        if measured:
            return measured
    length_mm = facts.advertised.length_mm
    return _section(facts.passage(ElementKind.RUNNER), length_mm / 1000 if length_mm else None)


def _with_port(path: SolvedPath, engine: EngineFacts, runner: list[tuning.Section]) -> tuning.Favoured | None:
    """The speed that a runner with its port favours; None where one of them or the compression is not known."""
    port = _port(path, runner[-1]) if runner else []
    if not port or not engine.row.compression_ratio:
        return None
    whole = tuning.equivalent_section([*runner, *port])
    return tuning.engelman_speed(whole, engine.cylinder_displacement, engine.row.compression_ratio, CHARGE_SOUND)


def _port(path: SolvedPath, runner: tuning.Section) -> list[tuning.Section]:
    """The head's port, as it is in the path, else a usual one as wide as the runner's end."""
    for place in _way(path):
        if path.nodes[place].element_kind == ElementKind.HEAD:
            return _section(path.passages[place], path.dimension(place, "length"))
    return [tuning.Section(USUAL_PORT_LENGTH, runner.area)]


def _section(passage: Passage | None, length: float | None) -> list[tuning.Section]:
    if length is None or passage is None or not passage.bore_in:
        return []
    mean = (round_area(passage.bore_in) + round_area(passage.bore_out or passage.bore_in)) / 2
    return [tuning.Section(length, mean)]


def _way(path: SolvedPath) -> list[int]:
    number = path.routes.cylinders[0]
    return [place for stage in path.routes.stages[number] for duct in stage.ducts for place in duct]
