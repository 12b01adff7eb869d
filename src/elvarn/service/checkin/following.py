"""What follows at once from what is said of an engine."""

from dataclasses import dataclass
from typing import Any

from elvarn import units
from elvarn.core.engine import demand, tuning
from elvarn.core.engine.geometry import PISTON_SPEED_WARNING, CamEvents, mean_piston_speed
from elvarn.core.engine.injector import PETROL_DENSITY
from elvarn.core.errors import CoreError
from elvarn.core.gas.air import STANDARD_AIR, density_ideal
from elvarn.service.checkin.engine import NewEngine, checked
from elvarn.service.record.engine import EngineFacts, charge_density, engine_facts, inlet_mach_index, usual_charge
from elvarn.store.models import Engine


@dataclass(frozen=True)
class Following:
    """Something that follows from what was typed: its name, figure and a word on it; `doubt` where it is unusual."""

    name: str
    text: str
    note: str = ""
    doubt: bool = False


def following(engine: Engine, preset: units.Preset) -> list[Following]:
    """What follows from an engine's data at once."""
    facts = engine_facts(engine)
    if facts is None:
        return []
    found = [Following("Displacement", f"{facts.displacement * 1000:.2f} L")]
    ratio = facts.stroke / facts.bore
    found.append(Following("Stroke/bore ratio", f"{ratio:.2f}"))
    if engine.limit_rpm:
        found += _at_limit(facts, engine.limit_rpm, preset)
    if facts.cam is not None:
        found += _of_cam(facts.cam, engine)
    if engine.card.get("lobe_lift_mm"):
        found.append(_valve_lift(engine.card))
    if engine.compression_ratio:
        volume = tuning.effective_cylinder_volume(facts.cylinder_displacement, engine.compression_ratio)
        found.append(Following("Compression", f"{engine.compression_ratio:.2f}:1", _by_volumes(engine)))
        found.append(Following("Volume at half stroke", f"{volume * 1e6:.0f} cm³"))
    if engine.injector_cc_min and engine.injector_rated_kpa:
        grams = engine.injector_cc_min / 60e6 * PETROL_DENSITY * 1000
        note = f"wide open at {engine.injector_rated_kpa / 100:g} bar"
        found.append(Following("Injector", f"{grams:.2f} g/s", note))
    return found


def _by_volumes(engine: Engine) -> str:
    return "by chamber, crown, deck and gasket" if engine.card.get("chamber_cm3") else "as stated"


def _valve_lift(card: dict[str, Any]) -> Following:
    rocker = card.get("rocker_ratio")
    lift = card["lobe_lift_mm"] * (rocker or 1.0)
    return Following("Valve lift", f"{lift:.2f} mm", f"at a rocker ratio of {rocker:g}" if rocker else "no rocker")


def _at_limit(facts: EngineFacts, limit: int, preset: units.Preset) -> list[Following]:
    speed = mean_piston_speed(facts.stroke, limit)
    at = f"at {limit} rpm"
    fast = speed > PISTON_SPEED_WARNING
    denser = charge_density(usual_charge(facts)) / density_ideal(STANDARD_AIR)
    air = units.show(demand.air_demand(facts.displacement, limit, 1.0) * denser, "flow", preset, 0)
    boosted = f", {denser:.2f} times for its boost" if facts.boost else ""
    found = [
        Following("Mean piston speed", f"{speed:.1f} m/s", at + (": high for a road engine" if fast else ""), fast),
        Following("Air demand", f"{air.text} {air.unit}", f"{at}, 100 % VE, outside air{boosted}"),
    ]
    index = inlet_mach_index(facts, limit)
    if index is not None:
        above = index > demand.MACH_INDEX_FALL
        note = at if not above else f"{at}: VE drops off fast above 0.6"
        found.append(Following("Intake Mach index", f"{index:.2f}", note, above))
    return found


def _of_cam(cam: CamEvents, engine: Engine) -> list[Following]:
    lift = f"at {engine.cam_lift_mm:g} mm of lift" if engine.cam_lift_mm else "lift not noted"
    found = [Following("Intake duration", f"{cam.inlet_duration:.0f}°", lift)]
    if cam.overlap is not None:
        found.append(Following("Overlap", f"{cam.overlap:.0f}°", lift))
    return found


def following_of(new: NewEngine, cylinder_count: int, preset: units.Preset) -> list[Following]:
    """What would follow from an engine as it is being typed. Raises Invalid for what can't be."""
    values = checked(new, cylinder_count)
    try:
        return following(Engine(cylinder_count=cylinder_count, **values), preset)
    except CoreError as error:
        return [Following("Not yet", str(error), doubt=True)]
