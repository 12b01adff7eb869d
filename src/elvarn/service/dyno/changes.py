"""What changed from one pull to the next: two things at once tell nothing of either."""

from dataclasses import dataclass

from elvarn.core.likeness import item_differences
from elvarn.service.dyno.declared import STRAP, label
from elvarn.service.record.job import JobRecord
from elvarn.store.models import PullReading


@dataclass(frozen=True)
class Change:
    """What changed since the valid pull before, and whether that is more than one thing."""

    items: list[str]
    several: bool


NOTHING = Change([], False)


def changes_of(record: JobRecord) -> list[Change]:
    """What changed at each pull of a job, in the order in which they were made."""
    found = []
    before: PullReading | None = None
    for pull in record.pulls:
        found.append(_between(record, before, pull) if before is not None else NOTHING)
        if pull.strike is None:
            before = pull
    return found


def _between(record: JobRecord, before: PullReading, pull: PullReading) -> Change:
    old, new = before.card, pull.card
    items = [f"build: {record.build_name(new.build_id)}"] if old.build_id != new.build_id else []
    if old.dyno_id != new.dyno_id:
        items.append(f"dyno: {new.dyno.name}")
    for one in item_differences(old.declared, new.declared):
        if one.item != STRAP:
            items.append(f"{label(one.item)}: {one.first or 'not said'} → {one.second or 'not said'}")
    return Change(items, len(items) > 1)
