"""What routers are handed: the database, the files, the fonts, the units asked for."""

from dataclasses import dataclass
from pathlib import Path
from typing import Annotated

from fastapi import Depends, Query, Request
from sqlalchemy.orm import Session, sessionmaker

from elvarn import units
from elvarn.service.files import FileStore


@dataclass(frozen=True)
class Resources:
    """What one running application works on."""

    sessions: sessionmaker[Session]
    files: FileStore
    fonts: Path


def resources(request: Request) -> Resources:
    found: Resources = request.app.state.resources
    return found


def sessions(request: Request) -> sessionmaker[Session]:
    return resources(request).sessions


def files(request: Request) -> FileStore:
    return resources(request).files


def fonts(request: Request) -> Path:
    return resources(request).fonts


Sessions = Annotated[sessionmaker[Session], Depends(sessions)]
Files = Annotated[FileStore, Depends(files)]
Fonts = Annotated[Path, Depends(fonts)]
Units = Annotated[units.Preset, Query(alias="units", description="unit preset of the figures in the answer")]
