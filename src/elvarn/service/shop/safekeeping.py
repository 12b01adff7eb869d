"""The daily copy of all that the shop keeps: whether and where it is made, and how the last one went."""

import os
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path

from pydantic import TypeAdapter, ValidationError
from sqlalchemy.orm import Session

from elvarn.given import given
from elvarn.service.kernel.errors import Invalid
from elvarn.service.shop.known import known
from elvarn.service.shop.stored import store
from elvarn.store.models import Setting

NAME, LAST = "safekeeping", "last_copy"
KEPT_DAYS = 7


@given
class Safekeeping:
    """Whether a copy is made every day, and into which folder: an empty one is Elvarn's own, on the same disk."""

    daily: bool = True
    folder: str = ""


@dataclass(frozen=True)
class LastCopy:
    """How the daily copy went: when one was made last, how large it was, and what was in the way of a later one."""

    made_at: datetime | None
    size_bytes: int
    problem: str


NONE_YET = LastCopy(None, 0, "")


@dataclass(frozen=True)
class SafekeepingView:
    version: int
    settings: Safekeeping
    last: LastCopy


@given
class SafekeepingEdit:
    version: int
    settings: Safekeeping


_SETTINGS, _COPY = TypeAdapter(Safekeeping), TypeAdapter(LastCopy)


def safekeeping(session: Session) -> SafekeepingView:
    """What the shop decided of its daily copy, and how the last one went."""
    return known(session, NAME, lambda: _stored(session))


def edit_safekeeping(session: Session, change: SafekeepingEdit) -> SafekeepingView:
    """Change it, on the version that was seen. Raises Stale, or Invalid for a folder that can't be written."""
    folder = change.settings.folder.strip()
    if folder:
        _check(Path(folder))
    value = {"daily": change.settings.daily, "folder": folder}
    store(session, NAME, "daily copy", change.version, value)
    return safekeeping(session)


def note_copy(session: Session, last: LastCopy) -> None:
    """Note how the daily copy went."""
    session.merge(Setting(name=LAST, value=_COPY.dump_python(last, mode="json"), version=1))


def _stored(session: Session) -> SafekeepingView:
    row, last = session.get(Setting, NAME), session.get(Setting, LAST)
    settings = Safekeeping()
    if row is not None:
        try:
            settings = _SETTINGS.validate_python(row.value)
        except ValidationError:  # what can't be read stands at its usual value: a copy is made
            settings = Safekeeping()
    return SafekeepingView(row.version if row else 0, settings, _COPY.validate_python(last.value) if last else NONE_YET)


def _check(folder: Path) -> None:
    where = "settings.folder"
    if not folder.is_absolute():
        raise Invalid(f"'{folder}' is no whole path. Write it from the root on, like /mnt/copies.", path=where)
    try:
        if not folder.is_dir():
            raise Invalid(f"There is no folder {folder} on the machine that Elvarn runs on. Make it first.", path=where)
        if not os.access(folder, os.W_OK | os.X_OK):
            raise Invalid(f"Elvarn may not write in {folder}. Let its user do so, or choose another.", path=where)
    except OSError as error:
        raise Invalid(f"{folder} can't be looked at: {error.strerror}. Choose another.", path=where) from error
