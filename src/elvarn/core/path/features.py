"""What a part offers to what is bolted, clamped and plugged to it, and what a job asks of it. SI."""

from dataclasses import dataclass
from enum import StrEnum

PART_KINDS = (  # in the order of the air
    "inlet", "filter", "tube", "restrictor", "meter", "compressor", "cooler", "throttle", "adapter", "nitrous",
    "manifold", "head",
)  # fmt: skip


@dataclass(frozen=True)
class Joint:
    """How an end is joined: by a flange with bolts, or by a clamp on a spigot.

    `opening` [m]: the bore there. Flange: `bolt_count` and `bolt_spacing` (across, along) [m]. Clamp: `outside` [m],
    the diameter that the coupler sits on.
    """

    opening: float | None = None
    bolt_count: int | None = None
    bolt_spacing: tuple[float, float] | None = None
    outside: float | None = None


@dataclass(frozen=True)
class Plug:
    """An electric connection: what it is for, its connector and its signal, both in the shop's words."""

    purpose: str
    connector: str | None = None
    signal: str | None = None


@dataclass(frozen=True)
class Home:
    """A hole that something sits in: a sensor or an injector, and its bore [m]."""

    purpose: str
    bore: float | None = None


class HazardKind(StrEnum):
    """What a known weakness can do: stick the throttle, be swallowed by the engine, or neither."""

    STICKS = "sticks"
    SWALLOWED = "swallowed"
    OTHER = "other"


@dataclass(frozen=True)
class Hazard:
    """A weakness that is known of a part, who says so, and what it can do."""

    words: str
    source: str
    kind: HazardKind = HazardKind.OTHER


@dataclass(frozen=True)
class Features:
    """Stated features of a part. None means that nobody said; an empty tuple that there is none. `kind`: of the part,
    empty where it is not known. `runners`: how many ports it feeds. `head_flange`: the pattern of the face that meets
    the head, in the shop's words; `port_pitch` [m] between its ports along a bank, `bank_angle` [°] between its faces.
    `casting`: what it is cast or moulded as, in the shop's words: parts that share it are one shape.

    `swing` [m]: how far the wide-open blade reaches past the face behind it. `height` [m] above the port flange,
    `front_length` [m] forward from it. `boost_rating` [Pa] gauge. `heat_limit` [K]. `flange_metal` [m] left round the
    opening. `ports`: vacuum, breather, servo and the rest, by purpose.
    `fuels`: that its material and seals stand. `rear`, `side` [m]: how far it reaches to the rear and to the sides of
    its flange. `plates` [m]: thickness of plates between it and what is behind it. `hazards`: known weaknesses.
    `off_road_days`: the vehicle stands while it is exchanged.
    """

    kind: str = ""
    inlet: Joint | None = None
    outlet: Joint | None = None
    swing: float | None = None
    plugs: tuple[Plug, ...] | None = None
    homes: tuple[Home, ...] | None = None
    ports: tuple[str, ...] | None = None
    height: float | None = None
    front_length: float | None = None
    boost_rating: float | None = None
    heat_limit: float | None = None
    weldable: bool | None = None
    flange_metal: float | None = None
    fouls: tuple[str, ...] | None = None
    splits: bool | None = None
    fuels: tuple[str, ...] | None = None
    runners: int | None = None
    head_flange: str | None = None
    port_pitch: float | None = None
    bank_angle: float | None = None
    casting: str | None = None
    welded: bool | None = None
    rear: float | None = None
    side: float | None = None
    plates: tuple[float, ...] = ()
    hazards: tuple[Hazard, ...] = ()
    off_road_days: int | None = None
    no_longer_made: bool = False


class RuleKind(StrEnum):
    """What a rule of class or inspection limits."""

    STOCK_CASTING = "stock_casting"
    THROTTLE_BORE = "throttle_bore"
    RESTRICTOR_BORE = "restrictor_bore"
    SPACER = "spacer"
    WELDING = "welding"


@dataclass(frozen=True)
class Rule:
    """A rule of class or inspection: what it limits, how far [m] where it is a bore, and its own words."""

    kind: RuleKind
    limit: float | None = None
    words: str = ""


@dataclass(frozen=True)
class Surroundings:
    """What the vehicle and the job ask: bonnet height [m] over the port flange, boost [Pa] gauge, what is fitted
    beside the engine, the plugs of the loom, the sensors and ports in use, the injector's bore [m], the fuel, the
    front length [m] that the coupler was made for, the heat [K] beside it, and whether welding is planned. Of the
    engine: its cylinders, the pattern of its heads' faces, the pitch [m] of their ports, the angle [°] between its
    banks, and the casting that it left the factory with. `rear`, `side` [m]: room to the rear and to the sides.
    `rules`: what class or inspection allow."""

    bonnet_height: float | None = None
    boost: float | None = None
    accessories: tuple[str, ...] = ()
    plugs: tuple[Plug, ...] = ()
    homes: tuple[Home, ...] = ()
    ports: tuple[str, ...] = ()
    fuel: str = "petrol"
    front_length: float | None = None
    heat: float | None = None
    welding: bool = False
    cylinders: int | None = None
    head_flange: str | None = None
    port_pitch: float | None = None
    bank_angle: float | None = None
    stock_casting: str | None = None
    rear: float | None = None
    side: float | None = None
    rules: tuple[Rule, ...] = ()


@dataclass(frozen=True)
class Neighbours:
    """The part in front and the part behind, by their features."""

    before: Features | None = None
    behind: Features | None = None
    before_name: str = "the part in front"
    behind_name: str = "the part behind"
