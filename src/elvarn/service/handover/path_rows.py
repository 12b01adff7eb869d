"""The air path on paper: what it loses and where most, before and after."""

from dataclasses import dataclass
from math import isfinite

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.path.engine_losses import EngineLosses
from elvarn.core.path.pinch import pinch
from elvarn.service.record.curves import CurveShelf
from elvarn.service.record.job import JobRecord
from elvarn.service.record.solved import Ask, SolvedPath, solved_path
from elvarn.store.models import Build

LEAST_KNOWN = 2  # lines of the path that can be held against each other


@dataclass(frozen=True)
class PathRow:
    """A line of the air path: before and after; empty after where there is one build."""

    name: str
    before: str
    after: str


@dataclass(frozen=True)
class PathOnPaper:
    """The air path of the first build and the last, at an engine speed."""

    at: str
    before: str
    after: str
    rows: list[PathRow]


def path_on_paper(session: Session, curves: CurveShelf, record: JobRecord, preset: units.Preset) -> PathOnPaper | None:
    """What the path loses before and after. None where there is no engine, or too little of the path is known to say
    what restricts it."""
    if record.job.engine is None or not record.builds:
        return None
    first, last = record.stock_build or record.builds[0], record.builds[-1]
    builds = [first] if first.id == last.id else [first, last]
    paths = [_solved(session, curves, record, build) for build in builds]
    if any(path.losses is None or _known(path.losses) < LEAST_KNOWN or path.losses.choked for path in paths):
        return None
    told = [_told(path, preset) for path in paths]
    names = dict.fromkeys(name for one in told for name in one)
    rows = [PathRow(name, told[0].get(name, ""), told[-1].get(name, "") if len(told) > 1 else "") for name in names]
    return PathOnPaper(f"{paths[0].rpm:,} rpm".replace(",", " "), first.name, last.name if len(told) > 1 else "", rows)


def _known(losses: EngineLosses) -> int:
    return sum(1 for row in losses.rows if row.share is not None)


def _solved(session: Session, curves: CurveShelf, record: JobRecord, build: Build) -> SolvedPath:
    return solved_path(session, curves, record, build, Ask(), changed=False)


def _told(path: SolvedPath, preset: units.Preset) -> dict[str, str]:
    losses = path.losses
    worst = pinch(losses) if losses else None
    if losses is None or worst is None:
        return {}
    known = " of what is known" if losses.unknown else ""
    told = {"Biggest restriction": f"{worst.row.label}, {100 * (worst.share or 0):.0f} %{known}"}
    if losses.to_plenum and isfinite(losses.to_plenum):
        drop = units.show(losses.to_plenum, "pressure", preset)
        told[f"Drop to {path.ends_at.removeprefix('the ')}"] = (
            f"{'at least ' if losses.unknown else ''}{drop.text} {drop.unit}"
        )
    return told
