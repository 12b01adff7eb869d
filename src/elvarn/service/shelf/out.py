"""The shelf as a table or JSON, going out."""

from sqlalchemy.orm import Session

from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE, INCH_OF_WATER
from elvarn.exchange.shelf_file import ShelfRecord, write_shelf_json, write_shelf_table
from elvarn.service.record.part import PartFacts, load_facts, main_dimension, main_element
from elvarn.store import queries
from elvarn.store.models import Part

UNITS = {"bore_mm": "mm", "bore_out_mm": "mm", "length_mm": "mm", "volume_l": "L"}


def shelf_csv(session: Session) -> str:
    """Every part on the shelf as a table."""
    return write_shelf_table(_records(session))


def shelf_json(session: Session) -> str:
    """Every part on the shelf as JSON, with features and claims."""
    return write_shelf_json(_records(session))


def record_of(part: Part, facts: PartFacts) -> ShelfRecord:
    """A part as it is written: what was measured beside what its maker states, flow as it was read last."""
    measured = {}
    for name in UNITS:
        value = main_dimension(facts, name.rsplit("_", 1)[0])
        if value is not None:
            measured[name] = round(value * 1000, 6)
    last = next((r for r in reversed(facts.flows) if r.element_kind == main_element(part.kind)), None)
    return ShelfRecord(
        part.kind, part.name, part.maker or "", part.number or "", part.material or "", part.note, part.mass_kg,
        part.price, part.lead_days, float(part.on_hand), dict(part.advertised), measured,
        round(last.flow_m3_s / CUBIC_FOOT_PER_MINUTE, 4) if last else None,
        round(last.pulled_pa / INCH_OF_WATER, 4) if last else None,
        dict(part.features), list(part.claims),
    )  # fmt: skip


def _records(session: Session) -> list[ShelfRecord]:
    parts = queries.shelf_parts(session)
    facts = load_facts(session, [part.states[-1].id for part in parts])
    return [record_of(part, facts[part.states[-1].id]) for part in parts]
