"""An earlier job with the same casting as the hill-climb five: what it taught is told on the shelf."""

from datetime import date
from uuid import UUID, uuid5

import numpy as np

from elvarn.demo import shop as demo
from elvarn.demo.physics import Runners
from elvarn.service.bench import setups
from elvarn.service.checkin import new_job
from elvarn.service.handover import closing
from elvarn.service.port import cut as port_cut
from elvarn.service.shop import benches as shops

JOB = demo.named("earlier five")
RUNNERS = Runners(
    bore_before=0.0400,
    bore_after=0.0404,
    coefficients_before=(0.738, 0.735, 0.709, 0.730, 0.731),
    coefficients_after=(0.752, 0.750, 0.733, 0.748, 0.749),
)


def make(sessions: demo.Sessions, shop: demo.DemoShop) -> None:
    """Posted in last spring, stage 1, sent back."""
    generator = np.random.default_rng(15)
    new = new_job.NewJob(
        person_id=shop.imre,
        kind="port_by_post",
        part="Cast manifold F5",
        runner_count=5,
        customer="T. Aasgaard",
        part_maker="Veskard",
        part_number="F5-240-17",
        title="Cast manifold F5, spring",
        received_on=date(2026, 3, 9),
    )
    with sessions.begin() as session:
        job = new_job.take_in(session, JOB, new)
        version = job.version
    setup = setups.NewSetup(
        person_id=shop.imre,
        job_id=JOB,
        bench_id=shop.bench,
        depression="28",
        entry_radius="clay",
        blocked="other runners",
    )
    demo.flow_series(
        sessions, JOB, setup, uuid5(JOB, "state 1"), RUNNERS.readings("before", generator), "2026-03-10", 20
    )
    _elsewhere(sessions, shop, uuid5(JOB, "state 1"))
    cut = demo.named(JOB, "stage 1")
    with sessions.begin() as session:
        port_cut.cut_part(session, cut, port_cut.NewState(shop.imre, uuid5(JOB, "part"), 1, "stage 1"))
    demo.flow_series(sessions, JOB, setup, cut, RUNNERS.readings("after", generator), "2026-03-12", 20)
    with sessions.begin() as session:
        closing.close_job(session, JOB, closing.Closing(version, True))


def _elsewhere(sessions: demo.Sessions, shop: demo.DemoShop, state: UUID) -> None:
    """What the customer's former shop had read of the same runners: kept apart, with its offset."""
    bench = demo.named("bench elsewhere")
    with sessions.begin() as session:
        shops.add_bench(session, bench, shops.NewBench("Bench at Grenmo", shop="Grenmo Motorverk"))
    setup = setups.NewSetup(
        person_id=shop.imre,
        job_id=JOB,
        bench_id=bench,
        depression="25",
        entry_radius="clay",
        blocked="other runners",
    )
    generator = np.random.default_rng(16)
    figures = [0.945 * 1.048 * flow for flow in RUNNERS.readings("before", generator)]
    demo.flow_series(sessions, JOB, setup, state, figures, "2025-09-18", 10)
