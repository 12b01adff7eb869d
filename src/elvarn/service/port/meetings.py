"""Where traced openings meet: the latest outline of each, laid on what follows it."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot

import numpy as np

from elvarn.core.errors import CoreError
from elvarn.core.port.meeting import MEETINGS, Of
from elvarn.core.port.outline import Outline
from elvarn.core.port.overlay import Overlay, laid_on, overlay
from elvarn.service.port.drawn import outline_in
from elvarn.store.models import OutlineReading


@dataclass(frozen=True)
class Meeting:
    """Two outlines that meet, of one runner or of the whole; the one behind as it lies on the one in front. `apart` is
    how well their bolt holes met [m], None where they lie centre on centre; `within` how far the lip may be off [m]."""

    front: OutlineReading
    behind: OutlineReading
    runner: int | None
    laid: Outline
    apart: float | None
    found: Overlay
    within: float

    @property
    def lip_told(self) -> bool:
        """Whether the lip is more than what the outlines may be off."""
        return self.found.lip is not None and self.found.lip.depth > self.within


@dataclass(frozen=True)
class NoMeeting:
    """Two outlines that should meet and can't be laid on each other, and why."""

    front: OutlineReading
    behind: OutlineReading
    runner: int | None
    why: CoreError


def meetings_of(rows: Sequence[OutlineReading], runners: int, exit_from: float) -> list[Meeting | NoMeeting]:
    """Every meeting of which both outlines are there, in the order in which the air passes.

    `rows` are in the order in which they were traced; a runner's exit is what was traced of it beyond `exit_from` [m].
    """
    found: list[Meeting | NoMeeting] = []
    for front, behind in MEETINGS:
        whole = front is Of.THROTTLE
        for runner in [None] if whole else range(1, runners + 1):
            first, second = (_latest(rows, of, runner, exit_from) for of in (front, behind))
            if behind is Of.HEAD and front is Of.RUNNER and _latest(rows, Of.GASKET, runner, exit_from):
                continue  # the gasket lies between
            if first and second:
                found.append(_meeting(first, second, runner))
    return found


def _meeting(front: OutlineReading, behind: OutlineReading, runner: int | None) -> Meeting | NoMeeting:
    first, second = outline_in(front), outline_in(behind)
    try:
        laid = laid_on(second, np.array(behind.marks_m), first, np.array(front.marks_m))
        found = overlay(first, laid.outline)
    except CoreError as error:
        return NoMeeting(front, behind, runner, error)
    within = hypot(front.edge_m or 0.0, behind.edge_m or 0.0, laid.apart or 0.0)
    return Meeting(front, behind, runner, laid.outline, laid.apart, found, within)


def _latest(rows: Sequence[OutlineReading], of: Of, runner: int | None, exit_from: float) -> OutlineReading | None:
    """The last outline of a kind: of this runner, else of one that is the same for all."""
    own = [row for row in rows if row.of == of and (of is not Of.RUNNER or row.place_m >= exit_from)]
    mine = [row for row in own if row.cylinder == runner] or [row for row in own if row.cylinder is None]
    if of is Of.RUNNER and mine:
        furthest = max(row.place_m for row in mine)
        mine = [row for row in mine if row.place_m > furthest - 0.0005]
    return mine[-1] if mine else None
