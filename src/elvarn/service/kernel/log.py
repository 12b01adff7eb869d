"""What Elvarn says of itself, a line of JSON each. Nobody's name and no figure goes in: what failed is told by its kind
and by where it happened, under the id of the request."""

import traceback
from pathlib import Path
from typing import Any, TextIO

import structlog
from structlog.contextvars import bind_contextvars, merge_contextvars

LONGEST_LOG = 5_000_000  # bytes; a longer one is begun anew at a start
_LOG = structlog.get_logger()


def open_log(file: Path) -> TextIO:
    """Write the log to this file from now on. Returns the file, to be closed when nothing is written any more."""
    if file.exists() and file.stat().st_size > LONGEST_LOG:
        file.replace(file.with_suffix(".log.before"))
    opened = file.open("a", buffering=1)  # a line goes out whole
    structlog.configure(
        processors=[
            merge_contextvars,
            structlog.processors.add_log_level,
            structlog.processors.TimeStamper(fmt="iso", utc=True),
            structlog.processors.JSONRenderer(),
        ],
        logger_factory=structlog.WriteLoggerFactory(opened),
    )
    return opened


def for_request(identifier: str) -> None:
    """Put a request's id into every line that is written while it is answered."""
    bind_contextvars(request=identifier)


def fault(what: str, error: BaseException, **facts: Any) -> None:
    """Something that should not have happened: the kind of the error and where, not what it said."""
    _LOG.error(what, error=type(error).__name__, at=where(error), **facts)


def warn(what: str, **facts: Any) -> None:
    """Something that was passed over."""
    _LOG.warning(what, **facts)


def where(error: BaseException) -> list[str]:
    """The way through the program to an error, the innermost call last."""
    frames = traceback.extract_tb(error.__traceback__)
    return [f"{Path(frame.filename).name}:{frame.lineno} {frame.name}" for frame in frames]
