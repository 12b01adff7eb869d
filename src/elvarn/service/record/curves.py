"""What is computed of pulls once and kept in memory: a pull is never changed, so neither is what follows from it."""

from collections.abc import Hashable, Sequence
from uuid import UUID

import numpy as np
from sqlalchemy.orm import Session

from elvarn.core.dyno.channels import Channel, channel_of
from elvarn.core.dyno.compare import BandComparison, Compared
from elvarn.core.dyno.learned import DynoKnown
from elvarn.core.dyno.pull import Curve, clean_pull
from elvarn.service.kernel.memo import Memo
from elvarn.store import queries
from elvarn.store.models import Build
from elvarn.store.queries import PulledJob, PulledPull


class CurveShelf:
    """Clean curves by pull, comparisons by what was compared, what is known of dynos by what it was learned from;
    and what of a job is compared, by the job and its revision."""

    def __init__(self) -> None:
        self._curves: Memo[UUID, Curve] = Memo(256)
        self._scaled: Memo[tuple[UUID, float], Curve] = Memo(256)
        self._channels: Memo[UUID, dict[str, Channel]] = Memo(256)
        self.comparisons: Memo[Hashable, Compared] = Memo(64)
        self.bands: Memo[tuple[Compared, Hashable], BandComparison | None] = Memo(256)
        self.pulled: Memo[Hashable, tuple[PulledJob | None, list[PulledPull], Sequence[Build]]] = Memo(8)
        self.known: Memo[Hashable, DynoKnown] = Memo(16)

    def curves(self, session: Session, pull_ids: Sequence[UUID]) -> list[Curve]:
        """The clean curve of each pull, in order."""
        return [self._curves.get(identifier, lambda i=identifier: _read(session, i)) for identifier in pull_ids]  # type: ignore[misc]

    def channels(self, session: Session, pull_id: UUID) -> dict[str, Channel]:
        """What was logged beside a pull, by name, over its engine speeds as they stood in the file."""
        return self._channels.get(pull_id, lambda: _read_channels(session, pull_id))

    def times(self, session: Session, factors: Sequence[tuple[UUID, float]]) -> list[Curve]:
        """The clean curve of each pull, multiplied by its factor, in order."""
        clean = self.curves(session, [identifier for identifier, _ in factors])
        return [
            self._scaled.get(key, lambda c=curve, f=key[1]: c.times(f))  # type: ignore[misc]
            for key, curve in zip(factors, clean, strict=True)
        ]


def _read(session: Session, pull_id: UUID) -> Curve:
    speed, torque = queries.rows_of_pull(session, pull_id)
    return clean_pull(np.array(speed), np.array(torque))


def _read_channels(session: Session, pull_id: UUID) -> dict[str, Channel]:
    speed, logged = queries.channels_of_pull(session, pull_id)
    found = {name: channel_of(np.array(speed), np.array(values, float)) for name, values in logged.items()}
    return {name: channel for name, channel in found.items() if channel is not None}
