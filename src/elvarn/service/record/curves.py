"""What is computed of pulls once and kept in memory: a pull is never changed, so neither is what follows from it."""

from collections.abc import Hashable, Sequence
from hashlib import sha256
from typing import Any
from uuid import UUID

import numpy as np
from sqlalchemy.orm import Session

from elvarn.core.dyno.compare import Comparison
from elvarn.core.dyno.pull import Curve, clean_pull
from elvarn.service.kernel.memo import Memo
from elvarn.store import queries

_CLEANED: Memo[bytes, Curve] = Memo(128)


def cleaned(engine_speed_rpm: np.ndarray[Any, Any], torque: np.ndarray[Any, Any]) -> Curve:
    """The clean curve of a pull's rows, each of shape (n,). The same rows are cleaned once, in a file that was dropped,
    then as the pull that was made of it. Raises what clean_pull raises."""
    key = sha256(engine_speed_rpm.tobytes() + torque.tobytes()).digest()
    return _CLEANED.get(key, lambda: clean_pull(engine_speed_rpm, torque))


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
    return cleaned(np.array(speed), np.array(torque))
