"""What a bench's reference plates tell of it: calibration, and how one session differs from another."""

from collections.abc import Sequence
from datetime import datetime, timedelta
from statistics import fmean

from sqlalchemy.orm import object_session

from elvarn.core.gas.air import Weather
from elvarn.service.kernel.once import once
from elvarn.service.record.checks import PLATES, PlateReading
from elvarn.service.record.checks import plates_of as asked_plates_of
from elvarn.store.models import Bench

ONE_SESSION = timedelta(hours=12)


def plates_of(bench: Bench) -> Sequence[PlateReading]:
    """Every reading of a bench's plates as it was taken, struck ones too; asked of the database once."""
    return once(bench, PLATES, lambda: _asked(bench))


def _asked(bench: Bench) -> Sequence[PlateReading]:
    session = object_session(bench)
    if session is None:
        raise RuntimeError(f"The plates of bench {bench.name} are asked for while its session is open.")
    return asked_plates_of(session, bench)


def valid_plates(bench: Bench) -> list[PlateReading]:
    """Readings of a bench's plates that count."""
    return once(bench, "valid plates", lambda: [plate for plate in plates_of(bench) if plate.check.valid])


def plates_for(bench: Bench, at: datetime) -> list[PlateReading]:
    """The reference plate's readings that tell what a bench reads at a time: those of the same session, else the last
    one before whose own flow is known."""
    plates = valid_plates(bench)
    near = [plate for plate in plates if beside(plate, at)]
    if near:
        nearest = min(near, key=lambda plate: abs(plate.taken_at - at))
        return [plate for plate in near if plate.name == nearest.name]
    known = [plate for plate in plates if plate.known is not None and plate.taken_at <= at]
    return [max(known, key=lambda plate: plate.taken_at)] if known else []


def beside(plate: PlateReading, at: datetime) -> bool:
    """Whether a plate was read in the session of a time."""
    return abs(plate.taken_at - at) <= ONE_SESSION


def air_beside(bench: Bench, at: datetime) -> Weather | None:
    """The air that was noted with a plate of the session of a time."""
    return next((plate.weather for plate in valid_plates(bench) if plate.weather and beside(plate, at)), None)


def correction_at(bench: Bench, at: datetime, air: Weather | None) -> float:
    """What a bench's figures of a time are multiplied by, in standard air: the plate's known flow over what it showed.
    Where nobody knows its flow, its first session stands for it: then sessions agree with each other, and the scale
    stays the bench's. `air`: of that time; a plate of the session without its own was read in it."""
    plates = plates_for(bench, at)
    if not plates:
        return 1.0
    shown = _mean(plates, at, air)
    known = next((plate.known for plate in plates if plate.known is not None), None)
    if known is not None:
        return known / shown
    same = [plate for plate in valid_plates(bench) if plate.name == plates[0].name]
    first = min(plate.taken_at for plate in same)
    return _mean([plate for plate in same if plate.taken_at - first <= ONE_SESSION], at, air) / shown


def _mean(plates: Sequence[PlateReading], at: datetime, air: Weather | None) -> float:
    return fmean(plate.flow(air if beside(plate, at) else None) for plate in plates)
