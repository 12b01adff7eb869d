"""What routers are handed: the database, the files, the fonts, the units asked for.

They are async so that handing over costs no change of thread.
"""

from collections.abc import Hashable
from dataclasses import dataclass
from pathlib import Path
from typing import Annotated, Any

from fastapi import Depends, Query, Request
from sqlalchemy.orm import Session, sessionmaker

from elvarn import units
from elvarn.api.told import Told
from elvarn.instruments.shared import SharedLines
from elvarn.service.dyno.watched import WatchedFolder
from elvarn.service.kernel.apart import Apart
from elvarn.service.kernel.files import FileStore
from elvarn.service.kernel.memo import Memo
from elvarn.service.record.curves import CurveShelf
from elvarn.work.recorder import Recorder


@dataclass(frozen=True)
class Resources:
    """What one running application works on. `sessions` write; `snapshots` read what belongs together; `reads` are
    sessions without a transaction, for a single question."""

    sessions: sessionmaker[Session]
    snapshots: sessionmaker[Session]
    reads: sessionmaker[Session]
    files: FileStore
    fonts: Path
    curves: CurveShelf
    answers: Memo[Hashable, bytes]
    solutions: Memo[Hashable, Any]
    lines: SharedLines
    apart: Apart
    told: Told
    recorder: Recorder
    watched: WatchedFolder | None


def resources(request: Request) -> Resources:
    found: Resources = request.app.state.resources
    return found


async def sessions(request: Request) -> sessionmaker[Session]:
    return resources(request).sessions


async def files(request: Request) -> FileStore:
    return resources(request).files


async def fonts(request: Request) -> Path:
    return resources(request).fonts


async def apart(request: Request) -> Apart:
    return resources(request).apart


async def curves(request: Request) -> CurveShelf:
    return resources(request).curves


async def snapshots(request: Request) -> sessionmaker[Session]:
    return resources(request).snapshots


async def solutions(request: Request) -> Memo[Hashable, Any]:
    return resources(request).solutions


Sessions = Annotated[sessionmaker[Session], Depends(sessions)]
Files = Annotated[FileStore, Depends(files)]
Runs = Annotated[Apart, Depends(apart)]
Curves = Annotated[CurveShelf, Depends(curves)]
Snapshots = Annotated[sessionmaker[Session], Depends(snapshots)]
Solutions = Annotated[Memo[Hashable, Any], Depends(solutions)]
Fonts = Annotated[Path, Depends(fonts)]
Units = Annotated[units.Preset, Query(alias="units", description="unit preset of the figures in the answer")]
