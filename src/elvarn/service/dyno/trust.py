"""How far a dyno's pulls can be trusted: what they repeat within, as stated, learned from its own pulls, or assumed."""

from collections.abc import Hashable, Sequence
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.core.dyno.correction import Standard
from elvarn.core.dyno.learned import DynoKnown, learned_dyno
from elvarn.core.dyno.pairing import Pull
from elvarn.core.likeness import signature_of
from elvarn.service.dyno.basis import Based, Place, core_pulls, places, signature_words
from elvarn.service.dyno.basis import based as on_basis
from elvarn.service.record.curves import CurveShelf
from elvarn.service.shop.settings import path_settings
from elvarn.store import queries
from elvarn.store.queries import PulledPull

MOST_PULLS = 60  # the latest that are looked at: a dyno's repeatability ages


def known_of(session: Session, shelf: CurveShelf, dyno_id: UUID) -> DynoKnown:
    """What is known of a dyno by its latest pulls in any job."""
    made = queries.pulled_on_dyno(session, dyno_id, MOST_PULLS)
    rows = [row for row in made if not row.struck]
    stated = next(((row.repeatability_percent, row.day_shift_percent) for row in made), (None, None))
    matters = path_settings(session).settings.matters_percent
    key = (tuple(map(_said, made)), stated, matters)
    return shelf.known.get(key, lambda: learned_dyno(_things(session, shelf, rows, places(made)), *stated, matters))


def _said(row: PulledPull) -> Hashable:
    """All that is said of a pull by which others are learned from."""
    air = (row.air_temperature_c, row.air_pressure_kpa, row.air_humidity_percent)
    declared = tuple(sorted(row.declared.items()))
    return row.id, row.struck, row.build_id, row.pulled_at, row.dyno_id, row.standard_in_file, air, declared


def _things(session: Session, shelf: CurveShelf, rows: Sequence[PulledPull], at: dict[UUID, Place]) -> list[list[Pull]]:
    """Pulls of one build that were made alike. Each is corrected as far as its air is known."""
    found = [on_basis(row, Standard.SAE_J1349, boosted=False) for row in rows]
    things: dict[Hashable, list[Based]] = {}
    for one in found:
        things.setdefault((one.row.build_id, signature_of(signature_words(one))), []).append(one)
    return [core_pulls(session, shelf, thing, at) for thing in things.values()]
