"""What sits on an intake: hoses, plugs, bolted things; which way they flow, and what is lost without one."""

from dataclasses import dataclass
from enum import StrEnum


class Verb(StrEnum):
    """What happens to an interface between the intake that comes off and the one that goes on."""

    TRANSFER = "transfer"
    ADAPT = "adapt"
    BLANK = "blank off"
    TAP = "drill and tap"
    REAM = "ream"
    EXTEND = "extend"
    LOOP = "loop"
    DELETE = "delete"
    NEW = "new"
    LOOK = "find out"


class Medium(StrEnum):
    """What goes through an interface."""

    AIR = "air"
    VACUUM = "vacuum"
    COOLANT = "coolant"
    FUEL = "fuel"
    ELECTRIC = "electric"
    BOLTED = "bolted"
    EARTH = "earth"


@dataclass(frozen=True)
class Kind:
    """An interface as the trade knows it. `words` are other names; `on` the kind of element that it sits on; `lost`
    what is lost where it is left off; `idle` and `full` which way it flows then; `seal` what seals it; `without` what
    is done where the new part has no place for it; `tuner` what the tuner has to know then; `safety`: the engine must
    not be started without it; `emission`: taking it off can break a local code."""

    name: str
    medium: Medium
    on: str
    words: tuple[str, ...] = ()
    lost: str = ""
    idle: str = ""
    full: str = ""
    seal: str = ""
    without: Verb = Verb.BLANK
    tuner: str = ""
    safety: bool = False
    emission: bool = False


INTO, OUT, NONE = "into the manifold", "out of the manifold", "none"

# common practice, no source
KINDS = (
    Kind("brake servo", Medium.VACUUM, "manifold", ("servo", "brake booster", "booster", "brake vacuum"),
         "the brakes lose their assistance", INTO, "held by its check valve", "hose clamp", Verb.TAP, safety=True),
    Kind("purge", Medium.VACUUM, "manifold", ("purge valve", "tank vapour", "canister"),
         "tank vapours go nowhere, a fault code follows", f"{INTO}, in pulses", NONE, "hose clamp", Verb.TAP,
         "tank vapours are no longer drawn in: fuel trim and codes", emission=True),
    Kind("breather", Medium.AIR, "manifold", ("pcv", "low-load breather", "crankcase breather"),
         "the crankcase fills with pressure and pushes oil out",
         "from the crankcase into the manifold, through its valve",
         "shut by its valve; the high-load breather takes over", "hose clamp", Verb.TAP,
         "the breather no longer enters the manifold: fuel trim at idle", emission=True),
    Kind("high-load breather", Medium.AIR, "tube", ("fresh-air breather",),
         "the crankcase fills with pressure at full load", "fresh air from the tube to the crankcase",
         "from the crankcase to the tube", "hose clamp", Verb.TAP, emission=True),
    Kind("small vacuum", Medium.VACUUM, "manifold", ("heater vacuum", "vacuum nipple", "heater controls"),
         "what it drives stands still, and open it is an air leak", INTO, "next to none", "hose", Verb.BLANK),
    Kind("regulator reference", Medium.VACUUM, "manifold", ("fuel regulator", "regulator vacuum"),
         "fuel pressure no longer follows the manifold: rich at idle, lean under boost", "follows the manifold",
         "follows the manifold", "hose", Verb.TAP, "fuel pressure no longer follows the manifold"),
    Kind("pressure sensor", Medium.ELECTRIC, "manifold", ("map sensor", "manifold-pressure sensor", "map"),
         "the ECU has no load signal", seal="O-ring", without=Verb.TAP,
         tuner="the pressure sensor is another, or sits elsewhere: its scale"),
    Kind("air-temperature sensor", Medium.ELECTRIC, "manifold", ("iat", "air temperature", "charge temperature"),
         "fuel and ignition are no longer corrected for heat", seal="O-ring", without=Verb.TAP,
         tuner="air temperature is read elsewhere, or not at all"),
    Kind("idle-air valve", Medium.AIR, "manifold", ("iac", "idle valve", "idle air"),
         "idle is no longer held", "round the blade into the manifold", "the same, lost in the main flow", "gasket",
         Verb.BLANK, "the idle-air valve is gone: idle is held another way"),
    Kind("injector", Medium.FUEL, "manifold", ("injectors",), "that cylinder gets no fuel", seal="O-ring",
         without=Verb.TAP),
    Kind("fuel rail", Medium.FUEL, "manifold", ("rail", "fuel rail with injectors"), "no fuel",
         seal="O-ring", without=Verb.ADAPT),
    Kind("throttle position", Medium.ELECTRIC, "throttle", ("tps", "throttle motor"),
         "limp mode: the ECU does not know where the blade is", without=Verb.ADAPT,
         tuner="the throttle is another: its closed and open positions are to be learned", safety=True),
    Kind("throttle cable", Medium.BOLTED, "throttle", ("cable bracket", "cable"),
         "the pedal opens nothing", without=Verb.ADAPT, safety=True),
    Kind("throttle coolant", Medium.COOLANT, "throttle", ("coolant", "throttle heating", "coolant hoses"),
         "the throttle can ice in the cold", "from the head through the body",
         "the same", "hose clamps", Verb.LOOP),
    Kind("air meter", Medium.ELECTRIC, "meter", ("maf", "mass air flow"), "the ECU has no air signal",
         without=Verb.ADAPT, tuner="the air meter's tube or its meter is another: its calibration"),
    Kind("secondary air", Medium.AIR, "tube", ("secondary-air line", "smog pump"), "exhaust is not afterburned cold",
         "from the tube to the exhaust when cold", NONE, "hose clamp", Verb.BLANK,
         "secondary air is gone: its code", emission=True),
    Kind("flaps", Medium.ELECTRIC, "manifold", ("length valve", "runner flaps", "flap actuator"),
         "the middle of the curve", seal="O-ring", without=Verb.DELETE,
         tuner="the flaps are gone: their map and their code"),
    Kind("knock sensor bracket", Medium.BOLTED, "manifold", ("knock sensor",),
         "knock is no longer heard", without=Verb.ADAPT, tuner="the knock sensor sits elsewhere: its threshold"),
    Kind("earth strap", Medium.EARTH, "manifold", ("earth", "ground strap", "ground"),
         "sensors drift, the starter labours", without=Verb.ADAPT),
    Kind("support bracket", Medium.BOLTED, "manifold", ("bracket", "stay"), "the manifold hangs on its flange alone",
         without=Verb.ADAPT),
)  # fmt: skip


def kind_of(words: str) -> Kind | None:
    """The interface that somebody means, where the trade knows it.

    Arguments: words: what it is called.
    Returns: its kind, or None.
    Raises: nothing.
    Source: common practice, no source.
    """
    meant = " ".join(words.lower().replace("-", " ").split())
    for kind in KINDS:
        if meant in {name.replace("-", " ") for name in (kind.name, *kind.words)}:
            return kind
    return None
