"""What logs of the engine computer say of a build's intake, by engine speed."""

from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

import numpy as np
from sqlalchemy.orm import Session

from elvarn.core.dyno.channels import Channel, channel_of
from elvarn.core.dyno.logged import drop_over
from elvarn.store import queries
from elvarn.store.models import LogReading


@dataclass(frozen=True)
class LoggedCurves:
    """A log with its channels over engine speed; `drop` from outside to the manifold [kPa], where it is known."""

    log: LogReading
    channels: dict[str, Channel]
    drop: Channel | None


def curves_of(session: Session, log: LogReading) -> LoggedCurves:
    """A log's channels over engine speed."""
    speeds, logged = queries.rows_of_log(session, log.id)
    made = {name: channel_of(np.array(speeds), np.array(values, float)) for name, values in logged.items()}
    channels = {name: one for name, one in made.items() if one is not None}
    beside = channels if log.outside_from == "logged" else {n: c for n, c in channels.items() if n != "outside_kpa"}
    return LoggedCurves(log, channels, drop_over(beside, log.outside_kpa))


def valid_logs(logs: Sequence[LogReading]) -> list[LogReading]:
    return [log for log in logs if log.strike is None]


def last_drop(session: Session, job_id: UUID, build_id: UUID) -> LoggedCurves | None:
    """The last log of a build that tells its drop."""
    logs = [log for log in valid_logs(queries.logs_of(session, job_id)) if log.build_id == build_id]
    found = (curves_of(session, log) for log in reversed(logs))
    return next((one for one in found if one.drop is not None), None)
