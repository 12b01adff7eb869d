"""The sheet of what was noted while fitting: room and what gives it, fault codes, and why it may run badly."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.core.errors import CoreError
from elvarn.core.fit.clearance import NEEDED, READS_TO, Gauge, Meets, lacking
from elvarn.core.fit.relief import Side, shared_relief
from elvarn.core.fit.trouble import CODES, FIRST_OF_ALL, LEAK_TEST, Symptom, causes_of, codes_of
from elvarn.service.fit.notes import (
    BrokenNote,
    CauseNote,
    ClearanceNote,
    CodeNote,
    CodeState,
    ImpressionNote,
    needed_of,
)
from elvarn.service.fit.state import state_of
from elvarn.service.job.cautions import CAUTIONS
from elvarn.service.kernel.find import find
from elvarn.service.kernel.sentences import first_up
from elvarn.service.record.features import read
from elvarn.store import queries
from elvarn.store.models import FitNote, Job, NoteKind


@dataclass(frozen=True)
class ClearanceView:
    """Room at a place: measured and needed, whether it is enough, and what comes off where, where it is not."""

    id: UUID
    version: int
    place: str
    parts: str
    measured: str
    needed: str
    enough: bool
    verdict: str
    relief: str
    said: ClearanceNote


@dataclass(frozen=True)
class CodeView:
    """A fault code, what it says and what of this job can be behind it; `said` how it stands."""

    id: UUID
    version: int
    code: str
    words: str
    behind: str
    state: str
    history: list[str]


@dataclass(frozen=True)
class LikelyCode:
    code: str
    words: str
    behind: str


@dataclass(frozen=True)
class CauseView:
    """A likely cause, how it is told, and what was found."""

    words: str
    test: str
    outcome: str
    note: str
    id: UUID | None
    version: int | None


@dataclass(frozen=True)
class SymptomView:
    """Something that can be seen: what comes first of all, and likely causes of this job in order."""

    words: str
    first: str
    tell: str
    causes: list[CauseView]
    found: bool


@dataclass(frozen=True)
class BrokenView:
    id: UUID
    version: int
    words: str
    for_now: bool
    mended: bool
    photo_id: UUID | None


@dataclass(frozen=True)
class ImpressionView:
    id: UUID
    when: str
    words: str


@dataclass(frozen=True)
class NoteSheet:
    """Everything that was noted while fitting a job."""

    clearances: list[ClearanceView]
    codes: list[CodeView]
    likely_codes: list[LikelyCode]
    symptoms: list[SymptomView]
    broken: list[BrokenView]
    impressions: list[ImpressionView]
    gauges: list[str]
    meetings: list[str]
    cautions: list[str]


def note_sheet(session: Session, job_id: UUID) -> NoteSheet:
    """What was noted while fitting a job."""
    job = find(session, Job, job_id, "job")
    banks = job.engine.bank_count if job.engine else 2  # nobody noted the engine: nothing is left out
    rows = queries.fit_notes_of(session, job_id)
    plan = queries.fit_plan_of(session, job_id)
    touched = state_of(session, plan).touched if plan else {"manifold", "throttle", "tube"}
    of = {kind: [row for row in rows if row.kind == kind] for kind in NoteKind}
    return NoteSheet(
        [_clearance(row) for row in of[NoteKind.CLEARANCE]],
        [_code(row, touched) for row in of[NoteKind.CODE]],
        [LikelyCode(one.code, one.words, one.behind) for one in codes_of(touched, banks)],
        [_symptom(one, touched, of[NoteKind.CAUSE]) for one in Symptom],
        [_broken(row) for row in of[NoteKind.BROKEN]],
        [ImpressionView(row.id, (said := read(ImpressionNote, row.said)).when, said.words)
         for row in of[NoteKind.IMPRESSION]],
        list(Gauge),
        list(Meets),
        CAUTIONS["fit"],
    )  # fmt: skip


def _clearance(row: FitNote) -> ClearanceView:
    said = read(ClearanceNote, {name: value for name, value in row.said.items() if name != "before"})
    needed = needed_of(said, NEEDED[said.meets])
    lack = _up(lacking(said.measured_mm / 1000, needed, said.gauge, said.rocks_mm / 1000))
    rocks = f", {said.rocks_mm:g} mm nearer when it rocks" if said.rocks_mm else ""
    whose = "its maker's" if said.needed_mm is not None else f"{said.meets}, usual"
    return ClearanceView(
        row.id,
        row.version,
        said.place,
        said.parts,
        f"{said.measured_mm:g} mm by {said.gauge}, ±{1000 * READS_TO[said.gauge]:g} mm{rocks}",
        f"{1000 * needed:g} mm ({whose})",
        lack <= 0,
        "enough" if lack <= 0 else f"{1000 * lack:.1f} mm short",
        _relief(said, lack) if lack > 0 else "",
        said,
    )


def _up(lack: float) -> float:
    """A lack to the next tenth of a millimetre [m]: less would still touch."""
    return ceil(lack * 1e4 - 1e-6) / 1e4


def _relief(said: ClearanceNote, lack: float) -> str:
    """What comes off where."""
    if not said.walls:
        return "Gauge the walls of the parts that meet: relief is shared over them."
    try:
        sides = [Side(one.name, one.wall_mm / 1000, one.least_mm / 1000) for one in said.walls]
        depths = shared_relief(lack, sides)
    except CoreError as error:
        return str(error)
    shares = ", ".join(f"{1000 * depth:.1f} mm off {side.name}" for side, depth in zip(sides, depths, strict=True))
    return f"{first_up(shares)}. Every wall keeps what has to stay; seal grooves too."


def _code(row: FitNote, touched: set[str]) -> CodeView:
    said = read(CodeNote, {name: value for name, value in row.said.items() if name != "before"})
    known = next((one for one in CODES if one.code == said.code), None)
    history = [str(one["state"]) for one in row.said.get("before", [])]
    of_this_job = known is not None and known in codes_of(touched, 2)
    behind = known.behind if known and of_this_job else "not of what this swap touched" if known else ""
    if said.state is CodeState.BACK:
        behind = f"Genuine: it came back. {first_up(behind)}" if behind else "Genuine: it came back."
    words = said.words or (known.words if known else "")
    return CodeView(row.id, row.version, said.code, words, behind, said.state, history)


def _symptom(symptom: Symptom, touched: set[str], rows: Sequence[FitNote]) -> SymptomView:
    notes = {str(row.said["cause"]): row for row in rows if row.said["symptom"] == symptom}
    causes = []
    for cause in causes_of(symptom, touched):
        row = notes.get(cause.words)
        said = read(CauseNote, row.said) if row else None
        causes.append(
            CauseView(cause.words, cause.test, said.outcome if said else "", said.words if said else "",
                      row.id if row else None, row.version if row else None)
        )  # fmt: skip
    first = FIRST_OF_ALL.get(symptom, "")
    if symptom is Symptom.LUMPY:
        first = "With a long cam a lumpy idle is no fault. With the stock cam look on."
    return SymptomView(
        symptom, first, LEAK_TEST.get(symptom, ""), causes, any(one.outcome == "found" for one in causes)
    )


def _broken(row: FitNote) -> BrokenView:
    said = read(BrokenNote, row.said)
    return BrokenView(row.id, row.version, said.words, said.for_now, said.mended, row.photo_id)
