"""Parts on the made-up shop's shelf: makers, numbers and claims exist nowhere."""

from dataclasses import dataclass, field
from typing import Any
from uuid import uuid5

from elvarn.core.path.features import RuleKind
from elvarn.demo import shop as demo
from elvarn.service.bench import element as bench_element
from elvarn.service.job import dimensions, parts
from elvarn.service.record import features, specs
from elvarn.service.record.features import Advertised, Claim, PartFeatures
from elvarn.service.record.part import main_element
from elvarn.service.record.specs import BendSpec, HomeSpec, JointSpec, PlugSpec
from elvarn.service.shelf import part as shelf_part

FOUR_BOLTS = JointSpec(bolt_count=4, bolt_across_mm=66, bolt_along_mm=66)
THREE_BOLTS = JointSpec(bolt_count=3, bolt_across_mm=72, bolt_along_mm=60)
OPPOSED = PlugSpec("throttle position", "six-way", "two tracks, opposed")
SENSOR_HOMES = [HomeSpec("pressure sensor", 12.7), HomeSpec("injector", 13.8)]
ENGINE_PORTS = ["brake servo", "purge", "breather"]


@dataclass(frozen=True)
class DemoPart:
    """A part of the shelf: what its maker says, what was measured and read here."""

    kind: str
    name: str
    maker: str
    price: float
    lead_days: int
    mass_kg: float
    material: str
    advertised: Advertised
    measured: dict[str, str] = field(default_factory=dict)
    flow: str | None = None
    depression: str = "28"
    features: PartFeatures = field(default_factory=PartFeatures)
    claims: list[Claim] = field(default_factory=list)
    number: str | None = None
    note: str = ""


def _throttle(opening: float, swing: float, joint: JointSpec = FOUR_BOLTS, plug: PlugSpec = OPPOSED) -> PartFeatures:
    return PartFeatures(inlet=JointSpec(outside_mm=opening + 8), outlet=joint, swing_mm=swing, plugs=[plug])


def _tube(outside: float, *bends: tuple[float, float], **more: Any) -> PartFeatures:
    joint = JointSpec(outside_mm=outside)
    bent = [BendSpec(*bend) for bend in bends]
    return PartFeatures(inlet=joint, outlet=joint, bends=bent, **{"heat_limit_c": 180, **more})


def _manifold(opening: float, height: float, front: float, **more: Any) -> PartFeatures:
    inlet = JointSpec(opening, 4, 66, 66)
    engine = {"runners": 5, "head_flange": "F5", "port_pitch_mm": 91, "heat_limit_c": 200}
    return PartFeatures(inlet=inlet, height_mm=height, front_length_mm=front, **{**engine, **more})


PARTS = (
    DemoPart("tube", "Tube 76", "Norrvik", 185, 7, 0.9, "aluminium", Advertised(76, None, 410),
             {"bore": "75.4 mm", "length": "408 mm"}, "596", features=_tube(79, (45, 1.5), (30, 1.5))),
    DemoPart("tube", "Ribbed hose 80", "Halvex", 62, 2, 0.4, "rubber, ribbed", Advertised(80, None, 430),
             {"bore": "79.5 mm", "length": "430 mm"}, "455",
             features=_tube(79, (60, 1.2), (45, 1.2), ribbed=True, heat_limit_c=120),
             claims=[Claim("3 % more power", "a tune and an exhaust", 3)]),
    DemoPart("tube", "Tube 89", "Ombrik", 240, 14, 1.1, "aluminium", Advertised(89, None, 400),
             {"bore": "88.2 mm", "length": "402 mm"}, "702",
             features=_tube(92, (45, 1.0), (45, 1.0), fouls=["coolant bottle"])),
    DemoPart("tube", "Composite tube 80", "Fjellsen", 320, 21, 0.5, "carbon composite", Advertised(80, None, 405),
             {"bore": "79.1 mm", "length": "405 mm"}, "628",
             features=_tube(79, (45, 1.8), (30, 1.8), heat_limit_c=120)),
    DemoPart("throttle", "Throttle 70", "Halvex", 295, 5, 1.3, "aluminium", Advertised(70),
             {"bore": "68.7 mm", "shaft": "8 mm"}, "648", features=_throttle(68.7, 9)),
    DemoPart("throttle", "Throttle 74", "Ombrik", 360, 12, 1.5, "aluminium", Advertised(74),
             {"bore": "73.1 mm", "shaft": "9 mm"}, "731", features=_throttle(73.1, 13),
             claims=[Claim("8 % more power on any engine", "", 8)]),
    DemoPart("throttle", "Throttle 68 by wire", "Norrvik", 410, 21, 1.6, "aluminium", Advertised(68, flow_cfm=690),
             features=_throttle(68, 9, THREE_BOLTS, PlugSpec("throttle position", "six-way", "two tracks, alike"))),
    DemoPart("manifold", "Cast manifold F5 late", "Veskard", 210, 10, 6.1, "aluminium, cast",
             Advertised(44, 40, 310, 3.1),
             {"bore": "44 mm", "bore_out": "40.4 mm", "length": "310 mm", "volume": "3.2 L"}, "212", number="F5-240-31",
             features=_manifold(68, 158, 212, homes=SENSOR_HOMES, ports=ENGINE_PORTS, weldable=True, cast=True,
                                flange_metal_mm=7, splits=False, casting="F5")),
    DemoPart("manifold", "Cast manifold B6", "Veskard", 260, 10, 7.4, "aluminium, cast",
             Advertised(42, 39, 340, 3.8), {"bore": "42 mm", "bore_out": "39.2 mm", "length": "340 mm"}, "216",
             number="B6-310-02",
             features=_manifold(70, 160, 230, runners=6, head_flange="B6", port_pitch_mm=98, cast=True, casting="B6",
                                homes=SENSOR_HOMES, ports=ENGINE_PORTS, weldable=True)),
    DemoPart("manifold", "Sheet manifold S5", "Fjellsen", 980, 28, 3.4, "aluminium sheet", Advertised(47, 43, 250, 4.2),
             {"bore": "46.6 mm", "bore_out": "42.8 mm", "length": "248 mm", "volume": "4.1 L"}, "238",
             features=_manifold(74, 171, 236, homes=SENSOR_HOMES, ports=["brake servo", "purge"], weldable=True,
                                splits=False, welded=True),
             claims=[Claim("12 % more power at the top", "a cam and a tune", 12)]),
    DemoPart("manifold", "Composite manifold C5", "Norrvik", 640, 14, 2.9, "glass-filled composite",
             Advertised(45, 41, 330, 3.6), {"bore": "45 mm", "bore_out": "41.2 mm", "length": "330 mm"}, "205",
             depression="25",
             features=_manifold(70, 161, 215, homes=SENSOR_HOMES, ports=ENGINE_PORTS, heat_limit_c=140, weldable=False,
                                splits=True, boost_kpa=80, fuels=["petrol", "E85"])),
    DemoPart("filter", "Open filter 100", "Halvex", 88, 3, 0.5, "cotton", Advertised(100), {"bore": "100 mm"}, "668"),
    DemoPart("filter", "Box insert F5", "Norrvik", 45, 2, 0.3, "paper", Advertised(98), {"bore": "98 mm"}, "630"),
    DemoPart("meter", "Meter 82", "Halvex", 230, 9, 0.6, "aluminium", Advertised(82), {"bore": "81.6 mm"}, "748",
             note="its calibration goes with its diameter: the tuner has to know"),
)  # fmt: skip


def make(sessions: demo.Sessions, shop: demo.DemoShop) -> None:
    """Put the parts on the shelf, as they were measured and read."""
    for part in PARTS:
        _one(sessions, shop, part)
    _inserts(sessions, shop)


def _one(sessions: demo.Sessions, shop: demo.DemoShop, part: DemoPart) -> None:
    identifier = demo.named("shelf", part.maker, part.name)
    state = uuid5(identifier, "state 1")
    new = parts.NewPart(
        shop.tove, None, part.kind, part.name, state, "as it came", part.maker, part.number, part.material
    )
    with sessions.begin() as session:
        made = parts.add_part(session, identifier, new)
        edit = shelf_part.PartEdit(
            made.version, part.name, part.maker, part.number, part.material, part.mass_kg, part.price, part.lead_days,
            part.note, part.advertised, part.features, part.claims,
        )  # fmt: skip
        shelf_part.edit_part(session, identifier, edit)
        _readings(session, shop, part, state)


def _readings(session: Any, shop: demo.DemoShop, part: DemoPart, state: Any) -> None:
    kind, cylinder = (main_element(part.kind), 1 if part.kind == "manifold" else None)
    taken = demo.at("2026-09-21", "09:00")
    for quantity, typed in part.measured.items():
        of_plenum = part.kind == "manifold" and quantity == "volume"
        element, of = ("plenum", None) if of_plenum else (kind, cylinder)
        dimension = dimensions.NewDimension(shop.tove, None, state, element, quantity, typed, taken, of)
        dimensions.add_dimension(session, uuid5(state, quantity), dimension)
    if part.flow is not None:
        flow = bench_element.NewPartFlow(
            shop.tove, state, kind, shop.bench, part.depression, part.flow, taken, cylinder=cylinder
        )
        bench_element.flow_of_part(session, uuid5(state, "flow"), flow)


def _inserts(sessions: demo.Sessions, shop: demo.DemoShop) -> None:
    """Two assemblies whose runner inserts can change places."""
    for maker, assembly, insert in (
        ("Fjellsen", "Sheet manifold S5", "Insert 250"),
        ("Norrvik", "Composite manifold C5", "Insert 330"),
    ):
        whole = demo.named("shelf", maker, assembly)
        identifier = uuid5(whole, insert)
        new = parts.NewPart(
            shop.tove, None, "manifold", insert, uuid5(identifier, "state 1"), "as it came", maker,
            piece_of=whole, role="runner insert",
        )  # fmt: skip
        with sessions.begin() as session:
            parts.add_part(session, identifier, new)


SURROUNDINGS = features.SurroundingsSpec(
    bonnet_height_mm=168,
    accessories=["coolant bottle", "alternator"],
    plugs=[OPPOSED],
    homes=SENSOR_HOMES,
    ports=ENGINE_PORTS,
    front_length_mm=212,
    heat_c=105,
    welding=True,
    head_flange="F5",
    port_pitch_mm=91,
    brakes=specs.Brakes.VACUUM,
    noise=specs.Noise.WANTED,
    rules=[features.RuleSpec(RuleKind.THROTTLE_BORE, 72, "one throttle, bore 72 mm at most")],
)
