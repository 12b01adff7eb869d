"""What is computed of pulls once and kept in memory: a pull is never changed, so neither is what follows from it."""

from collections.abc import Hashable, Sequence
from uuid import UUID

import numpy as np
from sqlalchemy.orm import Session

from elvarn.core.dyno.compare import Comparison
from elvarn.core.dyno.pull import Curve, clean_pull
from elvarn.service.kernel.memo import Memo
from elvarn.store import queries


class CurveShelf:
    """Clean curves by pull, and comparisons by what was compared."""

    def __init__(self) -> None:
        self._curves: Memo[UUID, Curve] = Memo(128)
        self.comparisons: Memo[Hashable, Comparison] = Memo(32)

    def curves(self, session: Session, pull_ids: Sequence[UUID]) -> list[Curve]:
        """The clean curve of each pull, in order."""
        return [self._curves.get(identifier, lambda i=identifier: _read(session, i)) for identifier in pull_ids]  # type: ignore[misc]


def _read(session: Session, pull_id: UUID) -> Curve:
    speed, torque = queries.rows_of_pull(session, pull_id)
    return clean_pull(np.array(speed), np.array(torque))
