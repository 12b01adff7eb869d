"""The whole job: a made-up 2.4-litre inline five for hill climbs, from filter box to verdict."""

from dataclasses import replace
from datetime import date
from uuid import UUID, uuid5

import numpy as np

from elvarn.core.gas.air import Weather
from elvarn.demo import five_fit, five_outlines, five_port, five_tests, pictures
from elvarn.demo import shop as demo
from elvarn.demo.physics import Breathing, Runners, pull_file
from elvarn.demo.shelf import FOUR_BOLTS, OPPOSED, SURROUNDINGS
from elvarn.service.bench import setups
from elvarn.service.checkin import engine as checkin_engine
from elvarn.service.checkin import new_job, received
from elvarn.service.dyno import cards, pulls
from elvarn.service.job import parts, photos
from elvarn.service.kernel.apart import here
from elvarn.service.kernel.files import FileStore
from elvarn.service.path import builds, variants
from elvarn.service.port import cut as port_cut
from elvarn.service.record.curves import CurveShelf
from elvarn.service.record.features import PartFeatures
from elvarn.service.record.specs import BendSpec, JointSpec
from elvarn.service.shelf import part as shelf_part
from elvarn.store.models import Build, PartState

JOB = demo.named("hill climb five")
MANIFOLD = uuid5(JOB, "part")
RUNNERS = Runners(
    bore_before=0.0400,
    bore_after=0.0408,
    coefficients_before=(0.741, 0.733, 0.706, 0.728, 0.734),
    coefficients_after=(0.768, 0.764, 0.744, 0.762, 0.766),
)
STOCK = Breathing(2.4e-3, best=1.005, tuned_rpm=4500, breadth_rpm=2600, choke_rpm=9000)
PORTED = Breathing(2.4e-3, best=1.004, tuned_rpm=4850, breadth_rpm=2550, choke_rpm=9250)
PORTED_70 = Breathing(2.4e-3, best=1.006, tuned_rpm=4900, breadth_rpm=2550, choke_rpm=9600)
SHEET = Breathing(2.4e-3, best=0.976, tuned_rpm=6250, breadth_rpm=2350, choke_rpm=9500)
SHEET_70 = Breathing(2.4e-3, best=0.978, tuned_rpm=6300, breadth_rpm=2350, choke_rpm=9900)
STOCK_DAY = Weather(291.15, 98_900.0, 0.58)
PORTED_DAY = Weather(289.35, 99_700.0, 0.66)

# kind, name, maker, dimensions as typed, flow as typed
ELEMENTS = (
    ("filter", "Filter box", "Norrvik", {"bore": "98 mm", "length": "190 mm"}, "612"),
    ("tube", "Tube", "Norrvik", {"bore": "70 mm", "length": "420 mm"}, "498"),
    ("meter", "Meter", "Halvex", {"bore": "76 mm", "length": "95 mm"}, "655"),
    ("throttle", "Throttle", "Veskard", {"bore": "65 mm", "length": "80 mm"}, "574"),
)


def make(sessions: demo.Sessions, files: FileStore, shop: demo.DemoShop) -> None:
    """Write the job step by step, as it was worked."""
    _take_in(sessions, shop)
    _came_in(sessions, files, shop)
    states = _parts(sessions, shop)
    _features(sessions, states)
    build = _stock_build(sessions, states)
    generator = np.random.default_rng(5)
    setup = _bench_before(sessions, shop, generator, states)
    _pull(sessions, files, shop, build, STOCK, STOCK_DAY, "2026-10-14", 41)
    five_port.measured_before(sessions, shop, JOB, states["manifold"])
    five_port.throttle_gauged(sessions, shop, JOB, states["throttle"])
    cut = _cut(sessions, shop)
    five_port.measured_after(sessions, shop, JOB, cut)
    five_port.planned(sessions, shop, JOB, MANIFOLD)
    five_outlines.traced(sessions, files, shop, JOB, cut)
    demo.flow_series(sessions, JOB, setup, cut, RUNNERS.readings("after", generator), "2026-11-04", 10)
    five_tests.check_sessions(sessions, shop, ("2026-10-13", "2026-11-04"))
    five_tests.flow_tests(sessions, shop, JOB, demo.named(JOB, "setup", "2026-11-04"), {**states, "cut": cut})
    designs = _designs(sessions, shop, build, cut)
    _variant(sessions, shop, cut)
    ported = uuid5(cut, "build")
    _day_at_the_cell(sessions, files, shop, (build, ported, *designs))
    five_fit.make(sessions, shop, JOB, build, designs[0])


def _take_in(sessions: demo.Sessions, shop: demo.DemoShop) -> None:
    engine = checkin_engine.NewEngine(
        "Veskard 2.4 inline five",
        bore_mm=83.0,
        stroke_mm=88.7,
        limit_rpm=7600,
        compression_ratio=11.2,
        inlet_valve_count=2,
        inlet_valve_mm=33.0,
        firing_order=[1, 2, 4, 5, 3],
        inlet_opens_deg=12,
        inlet_closes_deg=46,
        exhaust_opens_deg=50,
        exhaust_closes_deg=10,
        cam_lift_mm=1.0,
        injector_cc_min=410,
        injector_rated_kpa=300,
        rail_kpa=300,
    )
    new = new_job.NewJob(
        person_id=shop.tove,
        kind="whole_job",
        part="Cast manifold F5",
        runner_count=5,
        customer="M. Lindqvist",
        part_maker="Veskard",
        part_number="F5-240-17",
        title="Veskard 2.4 hill climb",
        engine=engine,
        use="hill climb",
        band_low_rpm=4500,
        band_high_rpm=7000,
        received_on=date(2026, 10, 12),
        due_on=demo.in_days(1),
        power_wanted="230 hp",
        budget=900,
        surroundings=SURROUNDINGS,
    )
    with sessions.begin() as session:
        new_job.take_in(session, JOB, new)


def _parts(sessions: demo.Sessions, shop: demo.DemoShop) -> dict[str, UUID]:
    states = {"manifold": uuid5(JOB, "state 1")}
    for kind, name, maker, dimensions, _ in ELEMENTS:
        states[kind] = demo.named(JOB, kind, "state")
        new = parts.NewPart(shop.tove, JOB, kind, name, states[kind], maker=maker)
        with sessions.begin() as session:
            parts.add_part(session, demo.named(JOB, kind), new)
        for quantity, typed in dimensions.items():
            demo.dimension(sessions, JOB, states[kind], kind, quantity, typed, shop.tove)
    for quantity, typed in {"bore": "88 mm", "length": "330 mm", "volume": "3.1 L", "opening": "68 mm"}.items():
        demo.dimension(sessions, JOB, states["manifold"], "plenum", quantity, typed, shop.tove)
    for cylinder in range(1, 6):
        for quantity, typed in {"bore": "44 mm", "bore_out": "40.0 mm", "length": "310 mm"}.items():
            demo.dimension(sessions, JOB, states["manifold"], "runner", quantity, typed, shop.tove, cylinder)
    return states


def _came_in(sessions: demo.Sessions, files: FileStore, shop: demo.DemoShop) -> None:
    """What stood on the receipt, with pictures."""
    came = (
        ("Manifold with throttle and meter", "fine", ""),
        ("Flange gasket", "missing", "a new one is ordered"),
        ("Runner entries 2 and 3", "worked_on", "gasket-matched by somebody, steps left"),
        ("Vacuum nipple at the plenum", "broken", "brittle"),
    )
    for words, condition, note in came:
        with sessions.begin() as session:
            item = received.NewItem(shop.tove, JOB, words, condition, note)
            received.add_item(session, demo.named(JOB, "item", words), item)
    for caption, drawing in pictures.PICTURES.items():
        with sessions.begin() as session:
            digest = photos.keep_picture(session, files, here, f"{caption}.png", pictures.png(drawing))
            photo = photos.NewPhoto(shop.tove, digest, JOB, caption=caption)
            photos.add_photo(session, files, demo.named(JOB, "photo", caption), photo)


def _features(sessions: demo.Sessions, states: dict[str, UUID]) -> None:
    """What the throttle and the manifold that came offer to each other."""
    stated = {
        "throttle": PartFeatures(outlet=FOUR_BOLTS, swing_mm=8, plugs=[OPPOSED], inlet=JointSpec(outside_mm=73)),
        "manifold": PartFeatures(
            inlet=FOUR_BOLTS,
            height_mm=158,
            front_length_mm=212,
            weldable=True,
            flange_metal_mm=7,
            splits=False,
            cast=True,
            casting="F5",
            runners=5,
            head_flange="F5",
            port_pitch_mm=91,
        ),
        "tube": PartFeatures(
            inlet=JointSpec(outside_mm=79),
            outlet=JointSpec(outside_mm=79),
            bends=[BendSpec(45, 1.2), BendSpec(30, 1.5)],
        ),
        "meter": PartFeatures(inlet=JointSpec(outside_mm=79), outlet=JointSpec(outside_mm=79)),
    }
    for kind, spec in stated.items():
        with sessions.begin() as session:
            part = session.get_one(PartState, states[kind]).part
            edit = shelf_part.PartEdit(part.version, part.name, part.maker, part.number, features=spec)
            shelf_part.edit_part(session, part.id, edit)


def _stock_build(sessions: demo.Sessions, states: dict[str, UUID]) -> UUID:
    """Put the parts that came at their places in the stock build."""
    identifier = uuid5(JOB, "build 1")
    for kind, *_ in ELEMENTS:
        with sessions.begin() as session:
            build = session.get_one(Build, identifier)
            node = next(node for node in build.nodes if node.element_kind == kind)
            builds.mount_part(session, identifier, builds.Mounting(build.version, node.id, states[kind]))
    return identifier


def _bench_before(
    sessions: demo.Sessions, shop: demo.DemoShop, generator: np.random.Generator, states: dict[str, UUID]
) -> setups.NewSetup:
    setup = setups.NewSetup(
        person_id=shop.tove,
        job_id=JOB,
        bench_id=shop.bench,
        depression="28",
        entry_radius="clay",
        throttle="off",
        blocked="other runners, injectors, 4 vacuum",
        air_temperature_c=18.5,
        air_pressure_kpa=99.2,
        air_humidity_percent=61,
    )
    figures = RUNNERS.readings("before", generator)
    demo.flow_series(sessions, JOB, setup, states["manifold"], figures, "2026-10-13", 10)
    for kind, _, _, _, flow in ELEMENTS:
        if flow is not None:
            demo.element_flow(
                sessions, JOB, demo.named(JOB, "setup", "2026-10-13"), states[kind], kind, flow, shop.tove
            )
    return setup


def _cut(sessions: demo.Sessions, shop: demo.DemoShop) -> UUID:
    work = (
        ("Mark the cutting line, open the entries to a bell", 95, "floor and roof alike"),
        ("80 grit in rounds, no seam left to feel", 140, ""),
        ("120 grit, two passes, wash between", 80, "runner 3 blended most"),
        ("Wall thickness checked, thinnest 3.4 mm", 20, "below runner 3"),
    )
    for title, minutes, result in work:
        demo.step(sessions, JOB, shop.imre, "port", title, minutes, result)
    identifier = demo.named(JOB, "stage 2")
    new = port_cut.NewState(shop.imre, MANIFOLD, 2, "stage 2")
    with sessions.begin() as session:
        port_cut.cut_part(session, identifier, new)
    for cylinder in range(1, 6):
        demo.dimension(sessions, JOB, identifier, "runner", "bore_out", "40.8 mm", shop.imre, cylinder)
        demo.dimension(sessions, JOB, identifier, "runner", "bore", "46 mm", shop.imre, cylinder)
    return identifier


def _variant(sessions: demo.Sessions, shop: demo.DemoShop, cut: UUID) -> None:
    """A build in thought: the cut manifold behind a wider tube."""
    source = uuid5(cut, "build")
    tube = uuid5(demo.named("shelf", "Norrvik", "Tube 76"), "state 1")
    with sessions.begin() as session:
        build = session.get_one(Build, source)
        node = next(node for node in build.nodes if node.element_kind == "tube")
        swap = variants.Swap(node.id, tube)
        copy = variants.BuildCopy(shop.tove, source, "stage 2, tube 76", [swap])
        variants.copy_build(session, demo.named(JOB, "tube 76"), copy)


def _designs(sessions: demo.Sessions, shop: demo.DemoShop, stock: UUID, cut: UUID) -> tuple[UUID, UUID, UUID]:
    """The cut manifold behind a larger throttle, and a sheet manifold behind both."""
    throttle = ("throttle", uuid5(demo.named("shelf", "Halvex", "Throttle 70"), "state 1"))
    sheet = ("plenum", uuid5(demo.named("shelf", "Fjellsen", "Sheet manifold S5"), "state 1"))
    found = []
    for name, source, swaps in (
        ("stage 2, throttle 70", uuid5(cut, "build"), (throttle,)),
        ("sheet S5", stock, (sheet,)),
        ("sheet S5, throttle 70", stock, (sheet, throttle)),
    ):
        identifier = demo.named(JOB, name)
        with sessions.begin() as session:
            nodes = {node.element_kind: node.id for node in session.get_one(Build, source).nodes}
            chosen = [variants.Swap(nodes[kind], state) for kind, state in swaps]
            variants.copy_build(session, identifier, variants.BuildCopy(shop.tove, source, name, chosen))
        found.append(identifier)
    return found[0], found[1], found[2]


def _day_at_the_cell(
    sessions: demo.Sessions, files: FileStore, shop: demo.DemoShop, builds: tuple[UUID, UUID, UUID, UUID, UUID]
) -> None:
    """Every design on one day, stock first and, from the shop's spare manifold, again at the end."""
    stock, ported, ported_70, sheet, sheet_70 = builds
    order = (
        (stock, STOCK, 2), (ported, PORTED, 2), (ported_70, PORTED_70, 3), (sheet, SHEET, 2), (sheet_70, SHEET_70, 2),
        (stock, STOCK, 2),
    )  # fmt: skip
    generator = np.random.default_rng(18)
    seed = 50
    for mount, (build, filling, pulls_made) in enumerate(order):
        level = 1 + generator.normal(0, 0.001)
        for _ in range(pulls_made):
            warmer = Weather(PORTED_DAY.temperature + 0.6 * mount, PORTED_DAY.pressure, PORTED_DAY.relative_humidity)
            pulled = replace(filling, best=filling.best * level * (1 + generator.normal(0, 0.0012)))
            _pull(sessions, files, shop, build, pulled, warmer, "2026-11-18", seed)
            seed += 1


def _pull(
    sessions: demo.Sessions,
    files: FileStore,
    shop: demo.DemoShop,
    build: UUID,
    filling: Breathing,
    weather: Weather,
    day: str,
    seed: int,
) -> None:
    content = pull_file(filling, weather, (2400, 7500), np.random.default_rng(seed), day).encode()
    with sessions.begin() as session:
        seen = pulls.preview(session, files, here, f"cell-{day}-{seed}.csv", content)
        assert seen.mapping is not None
        new = pulls.NewPull(
            person_id=shop.imre,
            job_id=JOB,
            file_digest=seen.digest,
            mapping=seen.mapping,
            facts=cards.PullFacts(
                build_id=build,
                dyno_id=shop.cell,
                pulled_at=demo.at(day, f"{9 + seed // 10}:{seed % 10 * 6:02d}"),
                label=f"cell-{day}-{seed}.csv",
                air_temperature_c=weather.temperature - 273.15,
                air_pressure_kpa=weather.pressure / 1000,
                air_humidity_percent=weather.relative_humidity * 100,
                declared={"fuel": "98", "tune": "map 2", "exhaust": "4-2-1, open"},
            ),
        )
        pulls.add_pull(session, CurveShelf(), files, here, demo.named(JOB, "pull", seed), new)
