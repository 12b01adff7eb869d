"""Pieces of what is stated of parts and of what a job asks, as they are kept and sent."""

from enum import StrEnum

from elvarn.core.path.features import HazardKind
from elvarn.given import given
from elvarn.typed import Count, Degrees, Millimetres, Number, Percent


class Brakes(StrEnum):
    """What assists the brakes: vacuum of the manifold is lost with its port."""

    VACUUM = "vacuum"
    OTHER = "other"
    NONE = "none"


class Noise(StrEnum):
    """Whether intake noise is wanted."""

    WANTED = "wanted"
    UNWANTED = "unwanted"


@given
class JointSpec:
    """How an end is joined: bore there, bolts with their spacing, or the spigot that a coupler sits on."""

    opening_mm: Millimetres | None = None
    bolt_count: Count | None = None
    bolt_across_mm: Millimetres | None = None
    bolt_along_mm: Millimetres | None = None
    outside_mm: Millimetres | None = None


@given
class PlugSpec:
    purpose: str
    connector: str | None = None
    signal: str | None = None


@given
class HomeSpec:
    purpose: str
    bore_mm: Millimetres | None = None


@given
class BendSpec:
    angle_deg: Degrees
    radius_over_bore: Number


@given
class SectionSpec:
    """A length of a runner with its mean section: round, or across by height."""

    length_mm: Millimetres
    across_mm: Millimetres
    height_mm: Millimetres | None = None


@given
class PlateSpec:
    """A plate between the part and what stands behind it: its thickness, and what it is for."""

    thickness_mm: Millimetres
    words: str = ""


class BoreForm(StrEnum):
    """The bore of a throttle round its plate: plain, or shaped so that it opens more slowly at first."""

    PLAIN = "plain"
    TAPERED = "tapered"
    LOBED = "lobed"


class Had(StrEnum):
    """How a part is had."""

    STOCK = "stock"
    ORDER = "order"
    RUN = "run"
    EXCHANGE = "exchange"
    USED = "used"
    GONE = "gone"


@given
class WeaknessSpec:
    """A known weakness, who says so, and what it can do."""

    words: str
    source: str
    hazard: HazardKind = HazardKind.OTHER


@given
class MapPoint:
    """A point of a compressor's map: flow [kg/s] corrected to 25 °C and 100 kPa, pressure ratio, efficiency."""

    flow_kg_s: float
    ratio: Number
    efficiency_percent: Percent
