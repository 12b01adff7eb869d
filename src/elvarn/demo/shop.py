"""People, bench and dynos of the made-up shop, and short ways to write its jobs."""

from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from uuid import UUID, uuid5

from sqlalchemy.orm import Session, sessionmaker

from elvarn.instruments.dyno_line import DynoLine
from elvarn.service.bench import capture, element, setups
from elvarn.service.job import dimensions, tasks
from elvarn.service.shop import benches, dynos, people, settings
from elvarn.store.models import Setup

NAMESPACE = UUID("6f1c9a52-3f0e-4d0b-9a53-0c5b0e1f7a11")
Sessions = sessionmaker[Session]
ON_PAPER = settings.PathSettings(shop_name="Grenmo Port Works", shop_address="Slipway 4, Grenmo")
RANGES = [benches.BenchRange(flow, 28) for flow in (120, 250, 800)]


@dataclass(frozen=True)
class DemoShop:
    tove: UUID
    imre: UUID
    bench: UUID
    cell: UUID


def named(*words: object) -> UUID:
    """An id that is the same at every first start."""
    return uuid5(NAMESPACE, "/".join(map(str, words)))


def in_days(count: int) -> date:
    """A day so many days from that on which the shop is filled: what is due stays ahead, whenever that is."""
    return date.today() + timedelta(days=count)


def at(day: str, time: str) -> datetime:
    return datetime.fromisoformat(f"{day}T{time}:00").replace(tzinfo=UTC)


def make_shop(sessions: Sessions) -> DemoShop:
    """Two people, a bench that knows how it repeats, an engine cell and a roller dyno."""
    found = DemoShop(named("tove"), named("imre"), named("bench"), named("cell"))
    writes = (
        lambda s: people.add_person(s, found.tove, people.NewPerson("Tove")),
        lambda s: people.add_person(s, found.imre, people.NewPerson("Imre")),
        lambda s: benches.add_bench(s, found.bench, benches.NewBench("Bench 1", 0.4, 0.3, ranges=RANGES)),
        lambda s: dynos.add_dyno(s, found.cell, dynos.NewDyno("Engine cell", "engine", "brake", 0.8, line=DynoLine())),
        lambda s: settings.edit_settings(s, settings.SettingsEdit(0, ON_PAPER)),
        lambda s: dynos.add_dyno(s, named("rollers"), dynos.NewDyno("Rollers", "roller", "inertia")),
    )
    for write in writes:
        with sessions.begin() as session:
            write(session)
    return found


def flow_series(
    sessions: Sessions,
    job: UUID,
    setup: setups.NewSetup,
    state: UUID,
    figures: list[float],
    day: str,
    start_minute: int,
) -> None:
    """A series on the bench: one set-up, a figure every two minutes."""
    identifier = named(job, "setup", day)
    with sessions.begin() as session:
        setups.add_setup(session, identifier, setup)
    for index, figure in enumerate(figures):
        taken = at(day, f"10:{start_minute + 2 * index:02d}")
        new = capture.NewFlow(setup.person_id, job, identifier, state, index + 1, f"{figure:.1f}", taken)
        with sessions.begin() as session:
            capture.capture(session, named(job, "flow", day, index), new)


def element_flow(
    sessions: Sessions, job: UUID, setup: Setup | UUID, state: UUID, kind: str, figure: str, person: UUID
) -> None:
    """A whole element on the bench."""
    identifier = setup if isinstance(setup, UUID) else setup.id
    new = element.NewElementFlow(person, job, identifier, state, kind, figure, at("2026-10-12", "11:30"))
    with sessions.begin() as session:
        element.capture_element(session, named(job, "element flow", kind), new)


def dimension(
    sessions: Sessions,
    job: UUID,
    state: UUID,
    kind: str,
    quantity: str,
    typed: str,
    person: UUID,
    cylinder: int | None = None,
) -> None:
    """A measured dimension."""
    taken = at("2026-10-12", "09:00")
    new = dimensions.NewDimension(person, job, state, kind, quantity, typed, taken, cylinder)
    with sessions.begin() as session:
        dimensions.add_dimension(session, named(job, state, kind, quantity, cylinder), new)


def step(
    sessions: Sessions,
    job: UUID,
    person: UUID,
    rail_step: str,
    title: str,
    minutes: float | None,
    result: str = "",
    day: str = "2026-10-29",
) -> None:
    """A step of the work, done where it has minutes."""
    identifier = named(job, rail_step, title)
    with sessions.begin() as session:
        made = tasks.add_task(session, identifier, tasks.NewTask(person, job, rail_step, title))
        if minutes is not None:
            tasks.edit_task(
                session,
                identifier,
                tasks.TaskEdit(made.version, person, "done", at(day, "16:00"), minutes, result or None),
            )
