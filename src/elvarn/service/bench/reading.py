"""A figure as the row that keeps it."""

from datetime import datetime
from typing import Any, Protocol
from uuid import UUID

from elvarn.core.path.tree import ElementKind
from elvarn.service.bench.taken import TakenFigure
from elvarn.store.models import FlowReading


class Captured(Protocol):
    """What every figure says of itself."""

    @property
    def person_id(self) -> UUID: ...
    @property
    def job_id(self) -> UUID | None: ...
    @property
    def setup_id(self) -> UUID: ...
    @property
    def part_state_id(self) -> UUID: ...
    @property
    def cylinder(self) -> int | None: ...
    @property
    def taken_at(self) -> datetime: ...


def reading_of(identifier: UUID, digest: str, new: Captured, kind: ElementKind, figure: TakenFigure) -> FlowReading:
    """The row of a figure."""
    return FlowReading(**values_of(identifier, digest, new, kind, figure))


def values_of(identifier: UUID, digest: str, new: Captured, kind: ElementKind, figure: TakenFigure) -> dict[str, Any]:
    return {
        "id": identifier,
        "content_digest": digest,
        "person_id": new.person_id,
        "job_id": new.job_id,
        "taken_at": new.taken_at,
        "marks": list(figure.marks),
        "setup_id": new.setup_id,
        "part_state_id": new.part_state_id,
        "element_kind": kind.value,
        "cylinder": new.cylinder,
        "typed": figure.words,
        "figure": figure.figure,
        "unit": figure.unit,
        "flow_m3_s": figure.flow,
        "samples": list(figure.samples),
        "depression_pa": figure.depression,
        "range_percent": figure.range_percent,
    }
