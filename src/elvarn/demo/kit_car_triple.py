"""A job just taken in: a made-up boosted triple in a kit car, waiting for its stock pull."""

from datetime import date
from uuid import uuid5

from elvarn.demo import shop as demo
from elvarn.service.checkin import engine as checkin_engine
from elvarn.service.checkin import new_job

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
        due_on=date(2026, 12, 18),
    )
    with sessions.begin() as session:
        new_job.take_in(session, JOB, new)
    state = uuid5(JOB, "state 1")
    for quantity, typed in {"bore": "70 mm", "length": "210 mm", "volume": "1.6 L"}.items():
        demo.dimension(sessions, JOB, state, "plenum", quantity, typed, shop.tove)
    for cylinder in (1, 2, 3):
        demo.dimension(sessions, JOB, state, "runner", "bore", "36 mm", shop.tove, cylinder)
        demo.dimension(sessions, JOB, state, "runner", "length", "180 mm", shop.tove, cylinder)
