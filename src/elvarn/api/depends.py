"""What routers are handed: the database, the files, the fonts, the units asked for.

They are async so that handing over costs no change of thread.
"""

from dataclasses import dataclass
from pathlib import Path
from typing import Annotated

from fastapi import Depends, Query, Request
from sqlalchemy.orm import Session, sessionmaker

from elvarn import units
from elvarn.service.changes import Changes
from elvarn.service.curves import CurveShelf
from elvarn.service.files import FileStore
from elvarn.service.live import LiveBenches


@dataclass(frozen=True)
class Resources:
    """What one running application works on. `reads` are sessions without a transaction, for a single question."""

    sessions: sessionmaker[Session]
    reads: sessionmaker[Session]
    files: FileStore
    fonts: Path
    curves: CurveShelf
    changed: Changes
    live: LiveBenches


def resources(request: Request) -> Resources:
    found: Resources = request.app.state.resources
    return found


async def sessions(request: Request) -> sessionmaker[Session]:
    return resources(request).sessions


async def files(request: Request) -> FileStore:
    return resources(request).files


async def fonts(request: Request) -> Path:
    return resources(request).fonts


async def curves(request: Request) -> CurveShelf:
    return resources(request).curves


async def changed(request: Request) -> Changes:
    return resources(request).changed


Sessions = Annotated[sessionmaker[Session], Depends(sessions)]
Files = Annotated[FileStore, Depends(files)]
Curves = Annotated[CurveShelf, Depends(curves)]
Changed = Annotated[Changes, Depends(changed)]
Fonts = Annotated[Path, Depends(fonts)]
Units = Annotated[units.Preset, Query(alias="units", description="unit preset of the figures in the answer")]
