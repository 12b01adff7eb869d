"""Dyno files in, pulls against stock, pulls out."""

from uuid import UUID

from fastapi import APIRouter, Request
from fastapi.responses import PlainTextResponse, Response
from pydantic import TypeAdapter

from elvarn.api.answers import Asked, Kept
from elvarn.api.attached import attached
from elvarn.api.depends import Curves, Files, Runs, Sessions, Snapshots, Units, resources
from elvarn.api.strict import StrictRoute
from elvarn.api.upload import Sent
from elvarn.core.dyno.correction import Standard
from elvarn.service.dyno import beside, cards, logs, pulls, sheet, uses, watched

router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["dyno"])
JUDGED: TypeAdapter[sheet.JudgedView | None] = TypeAdapter(sheet.JudgedView | None)


@router.post("/dyno/preview")
def preview(name: str, sent: Sent, sessions: Sessions, files: Files, run: Runs) -> pulls.PullPreview:
    """What a dropped file (its bytes are the body) seems to hold. The file is kept, nothing is made of it yet."""
    with sessions.begin() as session:
        return pulls.preview(session, files, run, name, sent)


@router.get("/dyno/watched")
def watched_folder(snapshots: Snapshots, request: Request) -> watched.WatchedView | None:
    """What is new in the folder that is watched; none where no folder is."""
    with snapshots.begin() as session:
        return watched.watched(session, resources(request).watched)


@router.post("/dyno/watched/{digest}/preview")
def watched_preview(digest: str, sessions: Sessions, files: Files, run: Runs, request: Request) -> pulls.PullPreview:
    """What a file of the watched folder seems to hold."""
    with sessions.begin() as session:
        return watched.look_at(session, resources(request).watched, files, run, digest)


@router.post("/dyno/watched/left")
def watched_left(left: watched.LeftOut, sessions: Sessions) -> None:
    """A file of the watched folder is left out; it stays where it is."""
    with sessions.begin() as session:
        watched.leave_out(session, left)


@router.put("/pulls/{pull_id}")
def add_pull(pull_id: UUID, new: pulls.NewPull, sessions: Sessions, curves: Curves, files: Files, run: Runs) -> Kept:
    with sessions.begin() as session:
        return Kept(pulls.add_pull(session, curves, files, run, pull_id, new).id)


@router.post("/pulls/{pull_id}/preview")
def look_again(pull_id: UUID, sessions: Sessions, files: Files, run: Runs) -> pulls.PullPreview:
    """A kept pull's file, to map its columns anew."""
    with sessions.begin() as session:
        return pulls.look_again(session, files, run, pull_id)


@router.put("/logs/{log_id}")
def add_log(log_id: UUID, new: logs.NewLog, sessions: Sessions, files: Files, run: Runs) -> Kept:
    """A log of the engine computer, without torque."""
    with sessions.begin() as session:
        return Kept(logs.add_log(session, files, run, log_id, new).id)


@router.get("/pulls/{pull_id}.csv", response_class=PlainTextResponse)
def pull_csv(pull_id: UUID, snapshots: Snapshots) -> PlainTextResponse:
    with snapshots.begin() as session:
        name, content = pulls.export_pull(session, pull_id)
    return PlainTextResponse(content, media_type="text/csv; charset=utf-8", headers=attached(name))


@router.post("/pulls/{pull_id}/card")
def edit_pull(pull_id: UUID, edit: cards.PullEdit, sessions: Sessions) -> Kept:
    """What is said of a pull, said anew: its build, day, dyno, air, correction and set-up. The rows stay."""
    with sessions.begin() as session:
        return Kept(cards.edit_pull(session, pull_id, edit).id)


@router.get("/jobs/{job_id}/designs.csv", response_class=PlainTextResponse)
def designs_csv(job_id: UUID, snapshots: Snapshots, curves: Curves) -> PlainTextResponse:
    """The mean curve of every design beside each other, as a file that is read again as so many runs."""
    with snapshots.begin() as session:
        content = sheet.designs_csv(session, curves, job_id)
    headers = attached("designs.csv")
    return PlainTextResponse(content, media_type="text/csv; charset=utf-8", headers=headers)


@router.post("/jobs/{job_id}/uses")
def keep_use(job_id: UUID, new: uses.NewUse, sessions: Sessions, files: Files, run: Runs) -> Kept:
    """A use of the engine by its band, gears or log, kept with the job; without any it is taken away."""
    with sessions.begin() as session:
        return Kept(uses.keep_use(session, files, run, job_id, new).id)


@router.get("/jobs/{job_id}/dyno", response_model=sheet.DynoSheet)
def dyno_sheet(
    job_id: UUID,
    asked: Asked,
    curves: Curves,
    units: Units = "trade",
    use: str = "",
    reference: UUID | None = None,
    standard: Standard | None = None,
) -> Response:
    """Pulls, designs and how they stand, against stock or another of them, by the job's standard or another."""
    wanted = sheet.Asked(use, None, reference, standard)
    return asked.of_job(job_id, lambda s: sheet.dyno_sheet(s, curves, job_id, units, wanted))


@router.get("/jobs/{job_id}/dyno/beside", response_model=beside.BesideView)
def beside_pulls(job_id: UUID, asked: Asked) -> Response:
    """What stands beside a job's pulls: recordings, what a live pull starts with, logs of the engine computer."""
    return asked.of_job(job_id, lambda s: beside.beside_pulls(s, job_id))


@router.get("/jobs/{job_id}/dyno/band", response_model=sheet.JudgedView | None)
def judged_band(
    job_id: UUID,
    low_rpm: float,
    high_rpm: float,
    request: Request,
    units: Units = "trade",
    reference: UUID | None = None,
    standard: Standard | None = None,
) -> Response:
    """What another band says. Asked for while a band is chosen, so it goes the shortest way: no transaction round its
    questions, and the answer is written straight to bytes."""
    found = resources(request)
    wanted = sheet.Asked("", (low_rpm, high_rpm), reference, standard)
    with found.reads() as session:
        answer = sheet.judged_band(session, found.curves, job_id, units, wanted)
    return Response(JUDGED.dump_json(answer), media_type="application/json")
