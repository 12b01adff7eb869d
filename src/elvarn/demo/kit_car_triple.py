"""A job just taken in: a made-up boosted triple in a kit car, waiting for its stock pull."""

from datetime import date
from uuid import uuid5

from sqlalchemy import select

from elvarn.demo import shop as demo
from elvarn.service.checkin import engine as checkin_engine
from elvarn.service.checkin import new_job
from elvarn.service.job import parts
from elvarn.service.path import builds
from elvarn.service.record.features import PartFeatures
from elvarn.service.shelf import part as shelf_part
from elvarn.store.models import Build

JOB = demo.named("kit car triple")


def make(sessions: demo.Sessions, shop: demo.DemoShop) -> None:
    """Taken in, a few dimensions measured, nothing flowed yet."""
    engine = checkin_engine.NewEngine(
        "Tarnholt 1.2 triple",
        bore_mm=75.0,
        stroke_mm=90.5,
        limit_rpm=7000,
        boosted=True,
        boost_kpa=60,
        compression_ratio=9.6,
        inlet_valve_count=2,
        inlet_valve_mm=28.5,
        firing_order=[1, 3, 2],
    )
    new = new_job.NewJob(
        person_id=shop.tove,
        kind="whole_job",
        part="Sheet manifold T3",
        runner_count=3,
        customer="A. Brandvold",
        title="Tarnholt 1.2 kit car",
        engine=engine,
        use="road",
        band_low_rpm=2500,
        band_high_rpm=6000,
        received_on=date(2026, 11, 23),
        due_on=demo.in_days(22),
    )
    with sessions.begin() as session:
        new_job.take_in(session, JOB, new)
    state = uuid5(JOB, "state 1")
    for quantity, typed in {"bore": "70 mm", "length": "210 mm", "volume": "1.6 L"}.items():
        demo.dimension(sessions, JOB, state, "plenum", quantity, typed, shop.tove)
    _charging(sessions, shop)
    for cylinder in (1, 2, 3):
        demo.dimension(sessions, JOB, state, "runner", "bore", "36 mm", shop.tove, cylinder)
        demo.dimension(sessions, JOB, state, "runner", "length", "180 mm", shop.tove, cylinder)


def _charging(sessions: demo.Sessions, shop: demo.DemoShop) -> None:
    """What came of its compressor and cooler, at their places in the stock path."""
    stated = {
        "compressor": ("Compressor K1", PartFeatures(efficiency_percent=71, ratio_limit=2.1)),
        "cooler": ("Cooler K1", PartFeatures(cooling_percent=64, drop_kpa=4.5, drop_at_cfm=190, boost_kpa=120)),
    }
    for kind, (name, features) in stated.items():
        part, state = demo.named(JOB, kind), demo.named(JOB, kind, "state")
        with sessions.begin() as session:
            made = parts.add_part(session, part, parts.NewPart(shop.tove, JOB, kind, name, state, maker="Tarnholt"))
            edit = shelf_part.PartEdit(made.version, name, made.maker, features=features)
            shelf_part.edit_part(session, part, edit)
            build = session.scalars(select(Build).where(Build.job_id == JOB)).one()
            node = next(one for one in build.nodes if one.element_kind == kind)
            builds.mount_part(session, build.id, builds.Mounting(build.version, node.id, state))
