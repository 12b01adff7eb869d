"""What a part offers to what is bolted, clamped and plugged to it, and what a job asks of it. SI."""

from dataclasses import dataclass


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


@dataclass(frozen=True)
class Features:
    """Stated features of a part. None means that nobody said; an empty tuple that there is none.

    `swing` [m]: how far the wide-open blade reaches past the face behind it. `height` [m] above the port flange,
    `front_length` [m] forward from it. `boost_rating` [Pa] gauge. `heat_limit` [K]. `flange_metal` [m] left round the
    opening. `ports`: vacuum, breather, servo and the rest, by purpose.
    `fuels`: that its material and seals stand.
    """

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


@dataclass(frozen=True)
class Surroundings:
    """What the vehicle and the job ask: bonnet height [m] over the port flange, boost [Pa] gauge, what is fitted
    beside the engine, the plugs of the loom, the sensors and ports in use, the injector's bore [m], the fuel, the
    front length [m] that the coupler was made for, the heat [K] beside it, and whether welding is planned."""

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


@dataclass(frozen=True)
class Neighbours:
    """The part in front and the part behind, by their features."""

    before: Features | None = None
    behind: Features | None = None
    before_name: str = "the part in front"
    behind_name: str = "the part behind"
