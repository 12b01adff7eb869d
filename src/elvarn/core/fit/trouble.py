"""An engine that runs badly after a swap: from what is seen to what this job can have caused, and how each is told."""

from collections.abc import Collection
from dataclasses import dataclass
from enum import StrEnum


class Symptom(StrEnum):
    """What is seen."""

    IDLE_HIGH = "idle stays high"
    HUNTING = "idle hunts"
    LEAN_AT_IDLE = "lean at idle, right at speed"
    LEAN = "lean at speed"
    ONE_DEAD = "one cylinder misses"
    LAMP_FLASHES = "the lamp flashes"
    LIMP = "limp mode"
    HARD_PEDAL = "hard brake pedal"
    LUMPY = "lumpy idle"


@dataclass(frozen=True)
class Cause:
    """Something that this job can have left: how it is told, and what of the swap makes it possible: names of
    interfaces or kinds of elements; none: always."""

    words: str
    test: str
    of: tuple[str, ...] = ()


SMOKE = "smoke, or low pressure with the intake closed"
SOAP = "soapy water along it: bubbles under low pressure"
TRIM = "fuel trim at idle against 2500 rpm: a leak is large at idle and small at speed"

CONNECTOR = Cause("a plug not pushed home", "push, lock, pull at each that was undone; its code names it")
BOOT = Cause("a boot or coupler not seated", "turn it by hand, look all round; soapy water", ("tube", "meter"))
CLAMP = Cause("a clamp left loose or forgotten", "count them; a screwdriver on each", ("tube", "throttle", "meter"))
OPEN_PORT = Cause("a port left open", SMOKE, ("manifold",))
GASKET = Cause("the flange gasket or a port seal", SOAP, ("manifold",))
SERVO = Cause("the brake hose or its valve", "pinch it shut: the idle changes", ("brake servo",))
TUBE = Cause("another meter tube or meter: its calibration", "trim off by the same at every speed", ("meter",))
LEARN = Cause("throttle not learned", "ignition on, off, as its maker says; then drive", ("throttle",))
BLADE = Cause("the blade does not close fully", "lamp behind it, engine off; its stop", ("throttle",))
RING = Cause("an injector's ring cut or dry", "soapy water at its seat; smoke", ("injector", "fuel rail"))
INJECTOR = Cause("an injector's plug or its fuel", "listen at it; change it with its neighbour", ("injector",))
COIL = Cause("a coil or plug moved on the way", "change it with its neighbour: the miss moves")
BREATHER = Cause("the breather's hose or valve", "pinch it shut: the trim changes", ("breather",))

LIKELY: dict[Symptom, tuple[Cause, ...]] = {  # in order; common practice, no source
    Symptom.IDLE_HIGH: (OPEN_PORT, BLADE, GASKET, SERVO, BREATHER, LEARN, CONNECTOR),
    Symptom.HUNTING: (LEARN, OPEN_PORT, BREATHER, GASKET, TUBE, CONNECTOR),
    Symptom.LEAN_AT_IDLE: (GASKET, OPEN_PORT, RING, SERVO, BREATHER, BOOT, CLAMP),
    Symptom.LEAN: (TUBE, BOOT, INJECTOR, CLAMP),
    Symptom.ONE_DEAD: (INJECTOR, COIL, RING, GASKET, CONNECTOR),
    Symptom.LAMP_FLASHES: (INJECTOR, COIL, RING, CONNECTOR),
    Symptom.LIMP: (CONNECTOR, LEARN, BLADE),
    Symptom.HARD_PEDAL: (SERVO,),
    Symptom.LUMPY: (OPEN_PORT, GASKET, INJECTOR, LEARN),
}
FIRST_OF_ALL = {
    Symptom.LAMP_FLASHES: "A flashing lamp is a misfire: stop the engine. Unburnt fuel burns in the catalyst.",
    Symptom.HARD_PEDAL: "Don't drive it. Without assistance the brakes need several times the force.",
}
LEAK_TEST = {Symptom.LEAN_AT_IDLE: TRIM, Symptom.LEAN: TRIM}


def causes_of(symptom: Symptom, touched: Collection[str]) -> list[Cause]:
    """What this job can have left that looks like this, the likeliest first.

    Arguments: symptom; touched: names of interfaces and kinds of elements that the swap touched.
    Returns: causes that are possible, in order.
    Raises: nothing.
    Source: common practice, no source.
    """
    return [cause for cause in LIKELY[symptom] if not cause.of or any(name in touched for name in cause.of)]


@dataclass(frozen=True)
class Code:
    """A generic fault code, what it says, and what of this job can be behind it; `banks` an engine has at least."""

    code: str
    words: str
    of: tuple[str, ...]
    behind: str
    banks: int = 1


# meanings of generic codes: SAE J2012, from memory; what is behind them: common practice, no source
CODES = (
    Code("P0101", "air meter: range", ("meter", "tube"), "another tube or calibration; a leak behind the meter"),
    Code("P0102", "air meter: low", ("meter",), "its plug"),
    Code("P0106", "pressure sensor: range", ("pressure sensor",), "its hose, its seat, another sensor"),
    Code("P0107", "pressure sensor: low", ("pressure sensor",), "its plug"),
    Code("P0113", "air temperature: high", ("air-temperature sensor",), "its plug is off"),
    Code("P0121", "throttle position: range", ("throttle",), "not learned; another throttle"),
    Code("P0171", "lean, bank 1", ("manifold", "tube", "throttle"), "an air leak; or the meter's calibration"),
    Code("P0174", "lean, bank 2", ("manifold", "tube", "throttle"), "an air leak; or the meter's calibration", 2),
    Code("P0172", "rich, bank 1", ("injector", "fuel rail", "regulator reference"), "injectors, fuel pressure"),
    Code("P0300", "misfire", ("manifold", "injector"), "a plug of an injector or coil, a leak at one port"),
    Code("P0325", "knock sensor", ("knock sensor bracket", "manifold"), "its plug, its torque"),
    Code("P0441", "purge flow", ("purge",), "its hose or its valve left off"),
    Code("P0505", "idle control", ("idle-air valve", "throttle"), "a leak; not learned"),
    Code("P2004", "runner flaps stay open", ("flaps",), "deleted: out of the map"),
    Code("P2135", "throttle signals disagree", ("throttle",), "another throttle's signal, its plug"),
)


def codes_of(touched: Collection[str], banks: int = 1) -> list[Code]:
    """Codes that this job can cause.

    Arguments: touched: names of interfaces and kinds of elements that the swap touched; banks [-] of the engine.
    Returns: codes, in their order.
    Raises: nothing.
    Source: SAE J2012 for their meaning, from memory.
    """
    return [code for code in CODES if code.banks <= banks and any(name in touched for name in code.of)]
