"""Castings by maker and number, with what each job learned of them."""

from collections.abc import Sequence
from dataclasses import dataclass
from statistics import fmean
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.bench.pairs import alike_with_last
from elvarn.service.record.pairing import gains_of_setups, pairs_or_apart
from elvarn.service.record.part import PartFacts
from elvarn.service.record.refits import sides_of
from elvarn.service.record.stated import by_port
from elvarn.store import queries
from elvarn.store.models import FlowReading, Part


@dataclass(frozen=True)
class CastingJob:
    """What one job learned of a casting; flows are means over its runners."""

    job_id: UUID | None
    title: str
    before: units.Shown | None
    after: units.Shown | None
    gain_percent: float | None
    stage: int | None
    note: str


@dataclass(frozen=True)
class Casting:
    """A casting by maker and number, with every job that had it."""

    part_id: UUID
    maker: str
    number: str
    name: str
    jobs: list[CastingJob]
    words: str


def castings(
    session: Session, parts: Sequence[Part], facts: dict[UUID, PartFacts], preset: units.Preset
) -> list[Casting]:
    """Manifolds with a number, by maker and number, with what each job measured of them."""
    titles = queries.titles_of_jobs(session, [part.job_id for part in parts if part.job_id])
    groups: dict[tuple[str, str], list[Part]] = {}
    for part in parts:
        groups.setdefault((part.maker or "", part.number or ""), []).append(part)
    return [
        _casting(key, [_casting_job(session, part, facts, titles, preset) for part in group], group[0])
        for key, group in sorted(groups.items())
    ]


def _casting_job(
    session: Session, part: Part, facts: dict[UUID, PartFacts], titles: dict[UUID, str], preset: units.Preset
) -> CastingJob:
    first, last = part.states[0], part.states[-1]
    rows = _runners(facts.get(first.id)), _runners(facts.get(last.id) if last.id != first.id else None)
    sides = sides_of(*(by_port(readings) for readings in rows))
    before, after = ([alike_with_last(refits) for refits in side.values()] for side in sides)
    pairs = pairs_or_apart(sides, gains_of_setups(session, sides, *rows))
    gain = pairs.fraction if pairs.alike else None
    return CastingJob(
        part.job_id,
        titles.get(part.job_id, "on the shelf") if part.job_id else "on the shelf",
        units.show(fmean(before), "flow", preset) if before else None,
        units.show(fmean(after), "flow", preset) if after else None,
        100 * gain if gain is not None else None,
        last.stage,
        part.note,
    )


def _runners(facts: PartFacts | None) -> list[FlowReading]:
    return [reading for reading in facts.flows if reading.cylinder is not None] if facts else []


def _casting(key: tuple[str, str], jobs: list[CastingJob], first: Part) -> Casting:
    gains = [job.gain_percent for job in jobs if job.gain_percent is not None]
    words = f"{len(jobs)} seen"
    if gains:
        span = f"{min(gains):.1f}" if len(gains) == 1 else f"{min(gains):.1f} to {max(gains):.1f}"
        words += f"; porting gained {span} % a runner"
    return Casting(first.id, key[0], key[1], first.name, jobs, words)
