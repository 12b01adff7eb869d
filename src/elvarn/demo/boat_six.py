"""The posted-in part: the manifold of a made-up inline six from a work boat, in the middle of the series after."""

from datetime import date
from uuid import uuid5

import numpy as np

from elvarn.demo import shop as demo
from elvarn.demo.physics import Runners
from elvarn.service.bench import setups
from elvarn.service.checkin import new_job
from elvarn.service.port import cut as port_cut

JOB = demo.named("boat six")
RUNNERS = Runners(
    bore_before=0.0440,
    bore_after=0.0446,
    coefficients_before=(0.688, 0.701, 0.694, 0.699, 0.704, 0.671),
    coefficients_after=(0.706, 0.716, 0.710, 0.713, 0.719, 0.697),
)
READ_AFTER = 4


def make(sessions: demo.Sessions, shop: demo.DemoShop) -> None:
    """A box by post, all six runners before, stage 1, four of six after."""
    generator = np.random.default_rng(6)
    new = new_job.NewJob(
        person_id=shop.imre,
        kind="port_by_post",
        part="Odrun M6 manifold",
        runner_count=6,
        customer="Boatyard Sandøra",
        part_number="M6-L-04",
        received_on=date(2026, 11, 16),
        due_on=demo.in_days(8),
    )
    with sessions.begin() as session:
        new_job.take_in(session, JOB, new)
    setup = setups.NewSetup(
        person_id=shop.imre,
        job_id=JOB,
        bench_id=shop.bench,
        depression="25",
        entry_radius="clay",
        blocked="other runners, 2 vacuum",
    )
    before = [figure * (25 / 28) ** 0.5 for figure in RUNNERS.readings("before", generator)]
    demo.flow_series(sessions, JOB, setup, uuid5(JOB, "state 1"), before, "2026-11-17", 20)
    cut = demo.named(JOB, "stage 1")
    with sessions.begin() as session:
        port_cut.cut_part(session, cut, port_cut.NewState(shop.imre, uuid5(JOB, "part"), 1, "stage 1"))
    after = [figure * (25 / 28) ** 0.5 for figure in RUNNERS.readings("after", generator)[:READ_AFTER]]
    demo.flow_series(sessions, JOB, setup, cut, after, "2026-11-24", 20)
