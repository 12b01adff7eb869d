"""What the five's bench was checked with, and the tests that were flowed beside its runners."""

from collections.abc import Sequence
from uuid import UUID

from elvarn.demo import shop as demo
from elvarn.service.bench import checks, plans

PLATE = "brass 40"


def check_sessions(sessions: demo.Sessions, shop: demo.DemoShop, days: tuple[str, ...]) -> None:
    """The reference plate in every session: what the bench shifts is known."""
    for day in days:
        for minute, shown in ((46, "178.4"), (50, "178.8"), (54, "178.6")):
            new = checks.NewCheck(shop.tove, "plate", shop.bench, shown, demo.at(day, f"09:{minute}"), plate=PLATE)
            with sessions.begin() as session:
                checks.add_check(session, demo.named("plate", day, minute), new)


def flow_tests(sessions: demo.Sessions, shop: demo.DemoShop, job: UUID, setup: UUID, states: dict[str, UUID]) -> None:
    """A throttle at every opening, configurations of a runner, a lift curve under way, a map of the opening."""
    cut, throttle = states["cut"], states["throttle"]

    def series(*labels: str, state: UUID, changes: Sequence[dict[str, str]] = ()) -> list[plans.NewSeries]:
        rows = changes or [{} for _ in labels]
        return [plans.NewSeries(label, state, change) for label, change in zip(labels, rows, strict=True)]

    edge, bell = {"entry_radius": "none", "throttle": "as_sold"}, {"entry_radius": "clay", "throttle": "as_sold"}
    sweep = plans.NewPlan(
        shop.tove, job, "opening", setup, "throttle",
        series("sharp entry", "clay bell", state=throttle, changes=(edge, bell)),
        places=[25, 50, 75, 100], title="Throttle, sharp entry against bell",
    )  # fmt: skip
    _flow(sessions, shop, sweep, "sweep", [96.2, 268.4, 441.0, 551.7, 96.5, 271.9, 455.3, 574.2])
    bare = {"entry_radius": "none"}
    rigs = plans.NewPlan(
        shop.tove, job, "configuration", setup, "runner",
        series("bare", "with radius", "throttle as sold", state=cut, changes=(bare, {}, {"throttle": "as_sold"})),
        cylinder=1, title="Runner 1, what is put on it",
    )  # fmt: skip
    _flow(sessions, shop, rigs, "rigs", [211.9, 219.3, 214.6])
    lift = plans.NewPlan(
        shop.imre, job, "lift", setup, "runner",
        series("head only", "with runner", state=cut, changes=({"mounted": "head"}, {"mounted": "runner, head"})),
        cylinder=3, places=[2, 4, 6, 8, 10], bore="33 mm",
    )  # fmt: skip
    _flow(sessions, shop, lift, "lift", [47.1, 92.8, 131.5, 158.2, 171.6, 46.9, 91.4, 127.0, 150.3])
    around = plans.NewPlan(
        shop.tove, job, "pitot", setup, "runner", series("behind the tube's bend", state=cut), cylinder=1,
        clocks=[12, 1.5, 3, 4.5, 6, 7.5, 9, 10.5],
        title="Velocity around the port",
    )  # fmt: skip
    _flow(sessions, shop, around, "pitot", ["0.1", "5.9", "6.4", "7.0", "7.3", "6.7", "5.5", "4.8", "5.2"])


def _flow(
    sessions: demo.Sessions, shop: demo.DemoShop, plan: plans.NewPlan, name: str, figures: list[float] | list[str]
) -> None:
    identifier = demo.named(plan.job_id, "test", name)
    with sessions.begin() as session:
        plans.add_plan(session, identifier, plan)
    for index, figure in enumerate(figures):
        taken = demo.at("2026-11-05", f"14:{index:02d}")
        new = plans.NewPoint(shop.tove, identifier, index, str(figure), taken)
        with sessions.begin() as session:
            plans.capture_point(session, demo.named(plan.job_id, name, index), new)
