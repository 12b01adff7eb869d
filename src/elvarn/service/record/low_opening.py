"""What a throttle passes hardly open: as it was read at openings, else by its plate and bore."""

from collections.abc import Sequence
from dataclasses import dataclass
from statistics import fmean
from uuid import UUID

import numpy as np
from sqlalchemy.orm import Session

from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.gas.discharge import volume_flow_of
from elvarn.core.likeness import Signature, signature_of
from elvarn.core.path.throttle import CLOSED_ANGLE_DEG, USUAL_SHAFT, part_open_fraction
from elvarn.core.path.tree import ElementKind
from elvarn.service.record.part import PartFacts
from elvarn.service.record.setup import declared
from elvarn.service.record.specs import BoreForm
from elvarn.service.record.stated import at_reference
from elvarn.store import queries
from elvarn.store.models import FlowReading

LOW_PERCENT = 25.0  # of the throttle's travel: where a driver feels it first; choice, no source


@dataclass(frozen=True)
class LowOpening:
    """Flow [m³/s] at a quarter of the travel and the reference depression: as it was `read` at openings, and `computed`
    for a thin plate in a plain bore; None where that can't be told."""

    read: float | None
    computed: float | None

    def over(self, other: "LowOpening") -> tuple[float, bool] | None:
        """The ratio to another throttle's flow [-], and whether it is of two that were read, else of two that are
        computed; never of unlike ones."""
        if self.read and other.read:
            return self.read / other.read, True
        return (self.computed / other.computed, False) if self.computed and other.computed else None


def low_openings(session: Session, facts: Sequence[PartFacts]) -> list[LowOpening | None]:
    """What each of these throttles passes at a quarter of its travel; None where nobody can tell, or it is no
    throttle."""
    throttles = [one for one in facts if one.part.kind == ElementKind.THROTTLE]
    read: dict[UUID, list[FlowReading]] = {}
    for reading in queries.part_open_flows(session, [one.state.id for one in throttles]):
        if not reading.setup.bench.shop and reading.setup.direction == "in":
            read.setdefault(reading.part_state_id, []).append(reading)
    return [_low_opening(one, read.get(one.state.id, [])) for one in facts]


def _low_opening(facts: PartFacts, readings: Sequence[FlowReading]) -> LowOpening | None:
    if facts.part.kind != ElementKind.THROTTLE:
        return None
    read, computed = _read(readings), _computed(facts)
    return LowOpening(read, computed) if read or computed else None


def _read(readings: Sequence[FlowReading]) -> float | None:
    curve = _curve(readings)
    if not curve or not curve[0][0] <= LOW_PERCENT <= curve[-1][0]:
        return None
    return float(np.interp(LOW_PERCENT, *np.array(curve).T))


def _computed(facts: PartFacts) -> float | None:
    passage, form = facts.passage(ElementKind.THROTTLE), facts.features.bore_form
    bore = passage.bore_in if passage else None
    if passage is None or not passage.area or not bore or form in (BoreForm.TAPERED, BoreForm.LOBED):
        return None
    wide = volume_flow_of(passage.area, REFERENCE_DEPRESSION)
    shaft = facts.dimension(ElementKind.THROTTLE, "shaft") or USUAL_SHAFT * bore
    return wide * part_open_fraction(bore, shaft, LOW_PERCENT / 100, CLOSED_ANGLE_DEG)


def _curve(readings: Sequence[FlowReading]) -> list[tuple[float, float]]:
    """Flow by opening, of what was set up alike as the last of it was, the opening apart."""
    if not readings:
        return []
    wanted = _but_opening(readings[-1])
    flows: dict[float, list[float]] = {}
    for reading in readings:
        if _but_opening(reading) == wanted and reading.setup.opening_percent is not None:
            flows.setdefault(reading.setup.opening_percent, []).append(at_reference(reading))
    return [(opening, fmean(flows[opening])) for opening in sorted(flows)]


def _but_opening(reading: FlowReading) -> Signature:
    return signature_of({item: words for item, words in declared(reading.setup).items() if item != "opening"})
