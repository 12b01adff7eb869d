"""An engine as its cards say: the cam by durations, compression by the volumes above the piston. Each is another way in
to what is kept, and what is kept is shown both ways."""

from dataclasses import dataclass
from typing import Any

from elvarn.core.engine.cam import card_of, events_of, same_events
from elvarn.core.engine.compression import clearance_volume, compression_ratio
from elvarn.core.engine.geometry import CamEvents, engine_displacement
from elvarn.core.errors import CoreError
from elvarn.given import given
from elvarn.service.kernel.errors import Invalid
from elvarn.store.models import Engine
from elvarn.typed import CubicCentimetres, Degrees, Millimetres, Number, Percent

SAME_RATIO = 0.05  # what a stated ratio may differ from the one of its volumes; choice, no source
EVENTS = ("inlet_opens_deg", "inlet_closes_deg", "exhaust_opens_deg", "exhaust_closes_deg")


@given
class CamCardSpec:
    """A cam by its card: durations at the lift of the card, lobe separation, and advance or the inlet's centreline."""

    inlet_duration_deg: Degrees
    exhaust_duration_deg: Degrees | None = None
    separation_deg: Degrees | None = None
    advance_deg: Degrees | None = None
    centreline_deg: Degrees | None = None


@given
class CardSpec:
    """What else an engine's card says. Chamber, crown (a dish above 0, a dome below), deck and gasket make the
    compression ratio; lobe lift and rocker ratio the valve's lift. `ethanol_percent` of the fuel, by volume."""

    chamber_cm3: CubicCentimetres | None = None
    crown_cm3: CubicCentimetres | None = None
    deck_mm: Millimetres | None = None
    gasket_mm: Millimetres | None = None
    gasket_bore_mm: Millimetres | None = None
    lobe_lift_mm: Millimetres | None = None
    exhaust_lobe_lift_mm: Millimetres | None = None
    rocker_ratio: Number | None = None
    exhaust_valve_mm: Millimetres | None = None
    port_volume_cm3: CubicCentimetres | None = None
    headers: str = ""
    ethanol_percent: Percent | None = None
    octane: Number | None = None


# mm, cm³ and the rest, as engines have them; common practice, no source
LIMITS = {
    "chamber_cm3": (5, 300), "crown_cm3": (-60, 60), "deck_mm": (-3, 5), "gasket_mm": (0.1, 4),
    "gasket_bore_mm": (30, 210), "lobe_lift_mm": (2, 15), "exhaust_lobe_lift_mm": (2, 15), "rocker_ratio": (0.9, 2.2),
    "exhaust_valve_mm": (10, 80), "port_volume_cm3": (20, 600), "ethanol_percent": (0, 100), "octane": (70, 130),
}  # fmt: skip
VOLUMES = ("chamber_cm3", "gasket_mm")  # without them there is no clearance


@dataclass(frozen=True)
class CamShown:
    """A cam both ways, as figures [crank °]; empty where the exhaust's events are not known."""

    inlet_duration_deg: float
    exhaust_duration_deg: float | None
    separation_deg: float | None
    advance_deg: float | None
    centreline_deg: float


def with_cards(values: dict[str, Any], cam: CamCardSpec | None, card: CardSpec, cylinder_count: int) -> dict[str, Any]:
    """What is kept of an engine, with what its cards say. Raises Invalid where a card can't be, or contradicts what was
    typed beside it."""
    _check(card)
    found = {**values, "card": {name: value for name, value in vars(card).items() if value not in (None, "")}}
    if cam is not None:
        found |= _events(cam, values)
    ratio = ratio_of(card, values.get("bore_mm"), values.get("stroke_mm"), cylinder_count)
    if ratio is not None:
        stated = values.get("compression_ratio")
        if stated is not None and abs(stated - ratio) > SAME_RATIO:
            text = f"Chamber, crown, deck and gasket make {ratio:.2f}, not {stated:g}. Keep one: empty the other."
            raise Invalid(text, path="engine.compression_ratio")
        found["compression_ratio"] = round(ratio, 3)
    return found


def ratio_of(card: CardSpec, bore: float | None, stroke: float | None, cylinder_count: int) -> float | None:
    """The compression ratio that the volumes make; None where they are not all known. Raises Invalid where they leave
    nothing above the piston."""
    if bore is None or stroke is None or any(getattr(card, name) is None for name in VOLUMES):
        return None
    try:
        clearance = clearance_volume(
            (card.chamber_cm3 or 0) / 1e6,
            (card.crown_cm3 or 0) / 1e6,
            (card.deck_mm or 0) / 1000,
            (card.gasket_mm or 0) / 1000,
            (card.gasket_bore_mm or bore) / 1000,
            bore / 1000,
        )
        swept = engine_displacement(bore / 1000, stroke / 1000, cylinder_count) / cylinder_count
        return compression_ratio(swept, clearance)
    except CoreError as error:
        raise Invalid(str(error), path="engine.card.crown_cm3") from error


def cam_shown(engine: Engine) -> CamShown | None:
    """A cam's card from the events that are kept."""
    if engine.inlet_opens_deg is None or engine.inlet_closes_deg is None:
        return None
    events = CamEvents(*(getattr(engine, name) for name in EVENTS))
    card = card_of(events)
    middle = (engine.inlet_closes_deg + 180 - engine.inlet_opens_deg) / 2
    figures = (card.inlet_duration, card.exhaust_duration, card.separation, card.advance, middle)
    inlet, exhaust, separation, advance, centreline = (None if f is None else round(f, 2) for f in figures)
    return CamShown(inlet or 0.0, exhaust, separation, advance, centreline or 0.0)


def _events(cam: CamCardSpec, values: dict[str, Any]) -> dict[str, float | None]:
    try:
        events = events_of(
            cam.inlet_duration_deg, cam.separation_deg, cam.advance_deg, cam.centreline_deg, cam.exhaust_duration_deg
        )
    except CoreError as error:
        raise Invalid(str(error), path=f"engine.cam.{_field(error.quantity)}") from error
    opens, closes, exhaust_opens, exhaust_closes = (values.get(name) for name in EVENTS)
    if opens is None or closes is None:
        return dict(zip(EVENTS, _figures(events), strict=True))
    if not same_events(CamEvents(opens, closes, exhaust_opens, exhaust_closes), events):
        told = f"{events.inlet_opens_before_top:g} and {events.inlet_closes_after_bottom:g}"
        text = f"By its durations the inlet opens and closes at {told}, by its events at {opens:g} and {closes:g}. "
        raise Invalid(f"{text}Keep one: empty the other.", path="engine.inlet_opens_deg")
    return dict(zip(EVENTS, _figures(events), strict=True))


def _figures(events: CamEvents) -> tuple[float | None, ...]:
    return (
        events.inlet_opens_before_top, events.inlet_closes_after_bottom,
        events.exhaust_opens_before_bottom, events.exhaust_closes_after_top,
    )  # fmt: skip


def _field(quantity: str) -> str:
    known = {"separation": "separation_deg", "advance": "advance_deg", "centreline": "centreline_deg"}
    return known.get(quantity, "inlet_duration_deg")


def _check(card: CardSpec) -> None:
    for name, (low, high) in LIMITS.items():
        value = getattr(card, name)
        if value is not None and not low <= value <= high:
            words, unit = name.rsplit("_", 1)[0].replace("_", " "), {"mm": " mm", "cm3": " cm³", "percent": " %"}
            ends = f"{low:g} to {high:g}{unit.get(name.rsplit('_', 1)[1], '')}"
            raise Invalid(f"The {words} can't be {value:g}. Enter {ends}.", path=f"engine.card.{name}")
