"""Figures beside a path's ledger: velocities, Mach index, duty, and the speeds that its lengths favour."""

from collections.abc import Iterator
from dataclasses import dataclass
from math import isfinite

from elvarn.core.engine import demand, injector, tuning
from elvarn.core.finding import Grade
from elvarn.core.gas.air import STANDARD_AIR, density_ideal
from elvarn.core.gas.discharge import port_velocity_during_stroke, port_velocity_over_cycle, round_area
from elvarn.core.path.tree import ElementKind
from elvarn.service.kernel.sentences import first_up
from elvarn.service.path.tuned import CHARGE_SOUND, path_favours
from elvarn.service.record.engine import EngineFacts, inlet_mach_index
from elvarn.service.record.solved import SolvedPath, losses_air
from elvarn.store.models import Engine


@dataclass(frozen=True)
class PathFigure:
    """A figure beside the ledger: its name, text with unit, note, grade, and whether it passes a limit."""

    name: str
    text: str
    note: str
    grade: Grade
    doubt: bool = False


def figures_of(path: SolvedPath) -> list[PathFigure]:
    """Velocities, Mach index, duty and favoured speeds at the speed asked for."""
    engine = path.engine
    if engine is None:
        return []
    return [*_velocities(path, engine), *_mach(path, engine), *_duty(path, engine), *_favoured(path)]


def _velocities(path: SolvedPath, engine: EngineFacts) -> Iterator[PathFigure]:
    bores = [
        (passage.bore_out or passage.bore_in)
        for passage, element in zip(path.passages, path.routes.elements, strict=True)
        if passage and element.kind is ElementKind.RUNNER and (passage.bore_out or passage.bore_in)
    ]
    known = [bore for bore in bores if bore]
    if not known or path.filling is None:
        return
    area = round_area(min(known))
    stroke = port_velocity_during_stroke(engine.bore, engine.stroke, path.rpm, area)
    cycle = port_velocity_over_cycle(engine.cylinder_displacement, path.rpm, area, path.filling.at(path.rpm))
    fast = stroke > path.settings.port_velocity_m_s
    note = f"piston speed × piston over port area; your limit: {path.settings.port_velocity_m_s:g} m/s"
    yield PathFigure("Port velocity on the intake stroke", f"{stroke:.0f} m/s", note, Grade.COMPUTED, fast)
    yield PathFigure(
        "Port velocity, average over the cycle", f"{cycle:.0f} m/s", "air drawn over port area", Grade.COMPUTED
    )


def _mach(path: SolvedPath, engine: EngineFacts) -> Iterator[PathFigure]:
    index = inlet_mach_index(engine, path.rpm)
    if index is None:
        return
    high = index > demand.MACH_INDEX_FALL
    note = "VE drops off fast above 0.6" if high else "up to 0.5 is good; VE falls off above 0.6"
    yield PathFigure("Intake Mach index", f"{index:.2f}", note, Grade.ESTIMATED, high)


def _duty(path: SolvedPath, engine: EngineFacts) -> Iterator[PathFigure]:
    row, air = engine.row, losses_air(path)
    if not row.injector_cc_min or not row.injector_rated_kpa or not row.rail_kpa or air is None:
        return
    drop = path.losses.to_plenum if path.losses and isfinite(path.losses.to_plenum) else 0.0
    manifold = engine.boost or -drop  # boost is held at the plenum, whatever the drops
    across = injector.pressure_across(row.rail_kpa * 1000, manifold)
    held_open = injector.flow_at_pressure(row.injector_cc_min / 60e6, row.injector_rated_kpa * 1000, across)
    mass = held_open * injector.PETROL_DENSITY
    fuel = air * density_ideal(STANDARD_AIR) / demand.AIR_FUEL_RATIO * fuel_factor_of(row)
    duty = fuel / (mass * row.cylinder_count)
    words = f"{across / 1000:.0f} kPa across it"
    if duty > injector.DUTY_STOP:
        words += ": above 90 %, stop"
    elif duty > injector.DUTY_WARNING:
        words += ": above 85 %"
    yield PathFigure("Injector duty", f"{100 * duty:.0f} %", words, Grade.ESTIMATED, duty > injector.DUTY_WARNING)


def fuel_factor_of(engine: Engine) -> float:
    """Fuel that an engine needs against petrol: by its share of ethanol where that is said, else by its name."""
    ethanol = engine.card.get("ethanol_percent")
    named = injector.fuel_factor(engine.fuel)
    return named if ethanol is None or engine.fuel == "methanol" else injector.blend_factor(ethanol / 100)


def _favoured(path: SolvedPath) -> Iterator[PathFigure]:
    for one in favoured_speeds(path):
        grade = Grade.RULE if one.by == "inlet cam" else Grade.ESTIMATED
        span = f"{round(one.low_rpm, -2):.0f} to {round(one.high_rpm, -2):.0f} rpm"
        yield PathFigure(f"{first_up(one.by)} favours", span, one.assumes, grade)


def favoured_speeds(path: SolvedPath) -> list[tuning.Favoured]:
    """Speeds favoured by runner, by plenum and duct, and by the cam, where enough is known."""
    engine = path.engine
    if engine is None:
        return []
    runner = path_favours(path)
    found = [runner] if runner else []
    duct, volume = _duct(path)
    if duct is not None and volume is not None:
        group = len(next(iter(_plenum_groups(path)), ()))
        if group:
            found.append(tuning.resonance_speed(duct, volume, group, CHARGE_SOUND))
    if engine.cam is not None:
        found.append(tuning.cam_speed(tuning.CAM_DURATION.nearest(engine.cam.inlet_duration)))
    return found


def _duct(path: SolvedPath) -> tuple[tuning.Section | None, float | None]:
    """The tube, meter and throttle right in front of the plenum, and the plenum's volume with its runners."""
    number = path.routes.cylinders[0]
    sections: list[tuning.Section] = []
    volume = None
    for stage in path.routes.stages[number]:
        place = stage.ducts[0][0]
        node, passage = path.nodes[place], path.passages[place]
        length = path.dimension(place, "length")
        if node.element_kind == ElementKind.PLENUM:
            volume = path.dimension(place, "volume")
            break
        if node.element_kind == ElementKind.FILTER:
            sections = []
        elif length and passage and passage.bore_in:
            sections.append(tuning.Section(length, round_area(passage.bore_in)))
    return (tuning.equivalent_section(sections) if sections else None), volume


def _plenum_groups(path: SolvedPath) -> Iterator[tuple[int, ...]]:
    for stage in path.routes.every_stage():
        if path.nodes[stage.ducts[0][0]].element_kind == ElementKind.PLENUM:
            yield stage.cylinders
