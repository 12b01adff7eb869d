"""The swap of the inline five: what the shop planned, counted and did of it, up to the flange bolts."""

from datetime import timedelta
from uuid import UUID

from elvarn.core.fit.clearance import Gauge, Meets
from elvarn.core.fit.interface import Verb
from elvarn.core.fit.order import Phase
from elvarn.core.fit.tightening import tightening_order
from elvarn.demo import shop as demo
from elvarn.service.fit import bolts, notes, plans, ticks
from elvarn.service.fit.said import InterfaceSpec, InTheWay, NewFitPlan, OwnStep, Renewal, SaidOf, SwapPlan
from elvarn.service.fit.state import state_of
from elvarn.store import queries
from elvarn.store.models import FitPlan

FAMILY = "Veskard F5"
DAY = "2026-11-23"
HAS = (
    InterfaceSpec("fuel rail"),
    InterfaceSpec("idle-air valve"),
    InterfaceSpec("vacuum nipple"),
    InterfaceSpec("knock sensor bracket"),
    InterfaceSpec("earth strap"),
    InterfaceSpec("throttle coolant"),
    InterfaceSpec("throttle cable"),
)
BODY = SwapPlan(
    family=FAMILY,
    schools={"throttle": "before the flange is tight", "injectors": "left in the rail", "retune": "at once"},
    said={
        "throttle throttle coolant": SaidOf(Verb.LOOP, "no ice on a hill climb"),
        "throttle throttle cable": SaidOf(Verb.ADAPT, "bracket moved 6 mm, slack at full lock"),
        "manifold vacuum nipple": SaidOf(Verb.NEW, "1/8-27 NPT, paste; the old one was brittle"),
    },
    extras=list(HAS),
    steps=[OwnStep("Paint mark on each flange bolt", Phase.TIGHT)],
    in_the_way=[InTheWay("strut brace", "4 × M10 × 30", 15), InTheWay("coolant bottle", "2 × M6 × 20", 10)],
    renewals=[Renewal("coolant hoses under the manifold", 64, True), Renewal("breather hose and valve", 38),
              Renewal("vacuum hoses", 12), Renewal("injector filters and rings", 45), Renewal("tube clamps", 9)],
)  # fmt: skip
FLANGE = bolts.BoltMapBody(
    name="Manifold flange", thread="M8", stack_mm=15, length_mm=30, depth_mm=18, torque="22 N·m",
    torque_source="sheet F5-3",
    places=[bolts.BoltPlace(x, y, "13 mm socket, long") for y in (-38, 38) for x in (-182, -91, 0, 91, 182)],
)  # fmt: skip
TIGHT = 14  # bolts of the rounds by hand and at 30 %


def make(sessions: demo.Sessions, shop: demo.DemoShop, job: UUID, off: UUID, on: UUID) -> None:
    """Write the swap as it was worked."""
    plan = demo.named(job, "swap")
    with sessions.begin() as session:
        plans.begin_plan(session, plan, NewFitPlan(shop.imre, job, off, on, family=FAMILY))
    _say(sessions, shop, plan, BODY)
    _flange(sessions, shop, job)
    with sessions.begin() as session:
        kit = state_of(session, session.get_one(FitPlan, plan)).kit
    _say(sessions, shop, plan, SwapPlan(**{**vars(BODY), "kit": dict(kit)}))
    _work(sessions, shop, plan)
    _noted(sessions, shop, job)


def _say(sessions: demo.Sessions, shop: demo.DemoShop, plan: UUID, body: SwapPlan) -> None:
    with sessions.begin() as session:
        version = session.get_one(FitPlan, plan).version
        plans.edit_plan(session, plan, plans.FitPlanEdit(version, shop.imre, body))


def _flange(sessions: demo.Sessions, shop: demo.DemoShop, job: UUID) -> None:
    identifier = demo.named(job, "flange")
    with sessions.begin() as session:
        bolts.add_bolt_map(session, identifier, bolts.NewBoltMap(shop.imre, job, FLANGE))
    order = tightening_order([(place.x_mm / 1000, place.y_mm / 1000) for place in FLANGE.places]).bolts
    for number in range(TIGHT):
        with sessions.begin() as session:
            at = demo.at(DAY, "14:20") + timedelta(seconds=20 * number)
            tick = bolts.Tick(number + 1, shop.imre, at, order[number % len(order)])
            bolts.tick(session, identifier, tick)


def _work(sessions: demo.Sessions, shop: demo.DemoShop, plan: UUID) -> None:
    """Every task in its order, up to the flange bolts."""
    at = demo.at(DAY, "08:00")
    with sessions.begin() as session:
        for key in state_of(session, session.get_one(FitPlan, plan)).tasks:
            if key == "bolts":
                return
            at += timedelta(minutes=8)
            row = queries.tasks_of_plan(session, plan)[key]
            minutes = 25 if key in ("photos", "faces") else 8
            ticks.tick_task(session, row.id, ticks.FitTick(row.version, shop.imre, at, "done", minutes))


def _noted(sessions: demo.Sessions, shop: demo.DemoShop, job: UUID) -> None:
    """What was measured and what broke on the way."""
    room = notes.ClearanceNote(
        "runner 4 over the alternator bracket", "runner floor, bracket", 3.2, Gauge.CLAY, Meets.FIXED
    )
    tab = notes.ClearanceNote(
        "cable bracket beside the servo hose", "bracket tab, hose", 2.5, Gauge.FEELER, Meets.MOVING,
        walls=[notes.WallSpec("bracket tab", 6.5, 2.0)],
    )  # fmt: skip
    bodies = {
        "room": notes.NoteBody(clearance=room),
        "tab": notes.NoteBody(clearance=tab),
        "nipple": notes.NoteBody(broken=notes.BrokenNote("Vacuum nipple at the plenum: broke off, new one fitted")),
        "before": notes.NoteBody(impression=notes.ImpressionNote(notes.When.BEFORE, "Flat above 6500, soft off idle.")),
    }
    for name, body in bodies.items():
        with sessions.begin() as session:
            notes.add_note(session, demo.named(job, "note", name), notes.NewFitNote(shop.imre, job, body))
