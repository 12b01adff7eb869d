"""What rests on a build, a job or a part, so that it can't be taken away; and taking away what nothing rests on."""

from uuid import UUID

from sqlalchemy import ColumnElement, delete, func, or_, select, update
from sqlalchemy.orm import Session

from elvarn.store.models import (
    Base,
    BoltMap,
    Build,
    BuildNode,
    DimensionReading,
    Engine,
    FitNote,
    FitPlan,
    FlowReading,
    HandedSheet,
    Job,
    LogReading,
    OutlineReading,
    Part,
    PartPiece,
    PartState,
    Photo,
    Plan,
    PortPass,
    PortPlan,
    PullCard,
    Reading,
    ReceivedItem,
    Recording,
    SectionReading,
    Setup,
    Task,
    WallReading,
    WantedPart,
    WantState,
)
from elvarn.store.queries.jobs import versions_of_engine

Resting = dict[str, int]
OfJob = Reading | Setup | Plan | Photo | ReceivedItem | Task | HandedSheet | Recording | PortPass | FitNote
OfState = FlowReading | DimensionReading | SectionReading | WallReading | OutlineReading
MEASURED: tuple[type[OfState], ...] = (FlowReading, DimensionReading, SectionReading, WallReading, OutlineReading)


def rests_on_build(session: Session, build_id: UUID) -> Resting:
    """What was measured with a build, or of parts as they stand in no other, and swaps of it, by its name, and how many
    of it: struck ones too, for nothing measured is lost."""
    here, elsewhere = (
        select(BuildNode.part_state_id).where(where, BuildNode.part_state_id.is_not(None))
        for where in (BuildNode.build_id == build_id, BuildNode.build_id != build_id)
    )
    readings = (
        _count(session, kind, kind.part_state_id.in_(here) & kind.part_state_id.not_in(elsewhere) & ~_on_shelf(kind))
        for kind in MEASURED
    )
    return _some({
        "pull": _count(session, PullCard, PullCard.build_id == build_id),
        "log": _count(session, LogReading, LogReading.build_id == build_id),
        "recording": _count(session, Recording, Recording.build_id == build_id),
        "swap": _count(session, FitPlan, or_(FitPlan.off_build_id == build_id, FitPlan.on_build_id == build_id)),
        "reading": sum(readings),
    })  # fmt: skip


def rests_on_job(session: Session, job_id: UUID) -> Resting:
    """What was noted or measured of a job."""
    kinds: dict[str, type[OfJob]] = {
        "reading": Reading, "set-up": Setup, "test": Plan, "picture": Photo, "received item": ReceivedItem,
        "task": Task, "printed sheet": HandedSheet, "recording": Recording, "pass": PortPass,
        "fitting note": FitNote,
    }  # fmt: skip
    found = {name: _count(session, kind, kind.job_id == job_id) for name, kind in kinds.items()}
    found["job copied from it"] = _count(session, Job, Job.copied_from_id == job_id)
    open_want = (WantedPart.job_id == job_id) & WantedPart.state.not_in((WantState.WANTED, WantState.DROPPED))
    found["ordered part"] = _count(session, WantedPart, open_want)
    return _some(found)


def rests_on_state(session: Session, state_id: UUID, own: UUID) -> Resting:
    """What was measured or worked of a state of a part, and in which builds beside its own it stands."""
    builds = select(BuildNode.build_id).where(BuildNode.part_state_id == state_id, BuildNode.build_id != own)
    return _some({
        "reading": sum(_count(session, kind, kind.part_state_id == state_id) for kind in MEASURED),
        "pass": _count(session, PortPass, PortPass.part_state_id == state_id),
        "picture": _count(session, Photo, Photo.part_state_id == state_id),
        "build": _count(session, Build, Build.id.in_(builds)),
    })  # fmt: skip


def rests_on_part(session: Session, part_id: UUID) -> Resting:
    """What was measured of a part, and what it is used in."""
    states = select(PartState.id).where(PartState.part_id == part_id)
    piece = or_(PartPiece.part_id == part_id, PartPiece.piece_id == part_id)
    builds = select(BuildNode.build_id).where(BuildNode.part_state_id.in_(states))
    return _some({
        "reading": sum(_count(session, kind, kind.part_state_id.in_(states)) for kind in MEASURED),
        "build": _count(session, Build, Build.id.in_(builds)),
        "picture": _count(session, Photo, Photo.part_id == part_id),
        "assembly": _count(session, PartPiece, piece),
        "order": _count(session, WantedPart, WantedPart.part_id == part_id),
    })  # fmt: skip


def drop_build(session: Session, build: Build) -> None:
    """Take a build and its nodes away; the job's revision rises with it."""
    session.execute(delete(BuildNode).where(BuildNode.build_id == build.id))
    session.execute(delete(Build).where(Build.id == build.id))
    session.execute(update(Job).where(Job.id == build.job_id).values(title=Job.title))


def drop_state(session: Session, state: PartState) -> None:
    """Take a state of a part away."""
    session.execute(delete(PartState).where(PartState.id == state.id))


def drop_job(session: Session, job: Job) -> None:
    """Take a job away with its builds, parts and engines."""
    builds = select(Build.id).where(Build.job_id == job.id)
    parts = select(Part.id).where(Part.job_id == job.id)
    engines = versions_of_engine(session, job.engine_id)
    session.execute(delete(WantedPart).where(WantedPart.job_id == job.id))
    session.execute(delete(PortPlan).where(PortPlan.job_id == job.id))
    session.execute(delete(BoltMap).where(BoltMap.job_id == job.id))
    session.execute(delete(FitPlan).where(FitPlan.job_id == job.id))
    session.execute(delete(BuildNode).where(BuildNode.build_id.in_(builds)))
    session.execute(delete(Build).where(Build.job_id == job.id))
    session.execute(delete(PartPiece).where(PartPiece.part_id.in_(parts)))
    session.execute(delete(PartState).where(PartState.part_id.in_(parts)))
    session.execute(delete(Part).where(Part.job_id == job.id))
    session.execute(delete(Job).where(Job.id == job.id))
    for engine in engines:
        session.execute(delete(Engine).where(Engine.id == engine))


def drop_part(session: Session, part: Part) -> None:
    """Take a part with its states away."""
    session.execute(delete(PortPlan).where(PortPlan.part_id == part.id))
    session.execute(delete(PartState).where(PartState.part_id == part.id))
    session.execute(delete(Part).where(Part.id == part.id))


def _count(session: Session, kind: type[Base], condition: ColumnElement[bool]) -> int:
    return session.scalar(select(func.count()).select_from(kind).where(condition)) or 0


def _some(counts: Resting) -> Resting:
    return {name: count for name, count in counts.items() if count}


def _on_shelf(kind: type[OfState]) -> ColumnElement[bool]:
    """Whether a reading is of a part that belongs to no job: it is seen on the shelf, whatever builds there are."""
    of = select(PartState.id).join(Part, Part.id == PartState.part_id).where(Part.job_id.is_(None))
    return kind.part_state_id.in_(of)
