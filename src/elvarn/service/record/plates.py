"""What a bench's reference plates tell of it: calibration, and how one session differs from another."""

from collections.abc import Sequence
from datetime import datetime, timedelta
from statistics import fmean

from sqlalchemy.orm import object_session

from elvarn.core.bench.reference import flow_at_depression
from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.service.kernel.once import once
from elvarn.service.record.checks import PLATES
from elvarn.store import queries
from elvarn.store.models import Bench, CheckReading

ONE_SESSION = timedelta(hours=12)


def plates_of(bench: Bench) -> Sequence[CheckReading]:
    """Every reading of a bench's plates as it was taken, struck ones too; asked of the database once."""
    return once(bench, PLATES, lambda: _asked(bench))


def _asked(bench: Bench) -> Sequence[CheckReading]:
    session = object_session(bench)
    if session is None:
        raise RuntimeError(f"The plates of bench {bench.name} are asked for while its session is open.")
    return queries.plates_of_bench(session, bench.id)


def valid_plates(bench: Bench) -> list[CheckReading]:
    """Readings of a bench's plates that count."""
    return once(bench, "valid plates", lambda: [plate for plate in plates_of(bench) if plate.valid])


def plates_for(bench: Bench, at: datetime) -> list[CheckReading]:
    """The reference plate's readings that tell what a bench reads at a time: those of the same session, else the last
    one before whose own flow is known."""
    plates = valid_plates(bench)
    near = [plate for plate in plates if abs(plate.taken_at - at) <= ONE_SESSION]
    if near:
        nearest = min(near, key=lambda plate: abs(plate.taken_at - at))
        return [plate for plate in near if plate.plate == nearest.plate]
    known = [plate for plate in plates if plate.plate_flow_m3_s is not None and plate.taken_at <= at]
    return [max(known, key=lambda plate: plate.taken_at)] if known else []


def correction_of(bench: Bench, plates: Sequence[CheckReading]) -> float:
    """What a bench's figures are multiplied by: the plate's flow over the mean of what it showed. Where nobody knows
    its flow, its first session stands for it: then sessions agree with each other, and the scale stays the bench's."""
    shown = fmean(shown_at_reference(plate) for plate in plates)
    known = next((plate.plate_flow_m3_s for plate in plates if plate.plate_flow_m3_s is not None), None)
    if known is not None:
        return known / shown
    same = [plate for plate in valid_plates(bench) if plate.plate == plates[0].plate]
    first = min(plate.taken_at for plate in same)
    return fmean(shown_at_reference(p) for p in same if p.taken_at - first <= ONE_SESSION) / shown


def shown_at_reference(check: CheckReading) -> float:
    """What a check showed, in m³/s at the reference depression."""
    return flow_at_depression(check.flow_m3_s, check.depression_pa, REFERENCE_DEPRESSION)
