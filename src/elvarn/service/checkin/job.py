"""Edits of what was said of a job."""

from dataclasses import field
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.dyno.correction import Standard
from elvarn.given import Day, given
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.writes import edit, find_for_edit
from elvarn.service.record.features import SurroundingsSpec, kept
from elvarn.service.shop.settings import check_currency
from elvarn.store.models import Job
from elvarn.typed import Money, Rpm, typed_texts


@given
class JobEdit:
    """Everything that can be said of a job, on the version that was seen."""

    version: int
    title: str
    customer: str | None
    use: str | None
    band_low_rpm: Rpm | None
    band_high_rpm: Rpm | None
    due_on: Day | None
    standard: str
    note: str
    power_wanted: str | None = None
    budget: Money | None = None
    surroundings: SurroundingsSpec = field(default_factory=SurroundingsSpec)


def edit_job(session: Session, identifier: UUID, change: JobEdit) -> Job:
    """Change what was said of a job. Raises Stale where somebody else changed it meanwhile."""
    job = find_for_edit(session, Job, identifier, "job")
    if not change.title.strip():
        raise Invalid("Name the job.", path="title")
    check_currency(session, change.budget, "budget")
    check_band(change.band_low_rpm, change.band_high_rpm)
    if change.standard not in list(Standard):
        raise Invalid(f"'{change.standard}' is no correction.", path="standard")
    names = ("customer", "use", "band_low_rpm", "band_high_rpm", "due_on", "standard", "note")
    changes = {"title": change.title.strip(), **{name: getattr(change, name) for name in names}}
    changes |= {"power_wanted_kw": power_of(change.power_wanted), "budget": budget_of(change.budget)}
    changes["typed"] = job_texts(change, change.power_wanted)
    edit(job, change.version, {**changes, "surroundings": kept(change.surroundings)}, "job")
    session.flush()
    return job


def job_texts(command: object, power_wanted: str | None) -> dict[str, str]:
    """What was typed of a job, as it was typed."""
    power = (power_wanted or "").strip()
    return typed_texts(command) | ({"power_wanted": power} if power else {})


def power_of(typed: str | None) -> float | None:
    """Power as typed ("290", "290 hp", "215 kW"), in kW."""
    if not typed or not typed.strip():
        return None
    power = units.parse(typed, "power", units.PRESETS["trade"]["power"]).si
    if not 1e3 <= power <= 2e6:
        raise Invalid("Enter 1 to 2000 kW engine power.", path="power_wanted")
    return power / 1000


def budget_of(budget: float | None) -> float | None:
    if budget is not None and budget < 0:
        raise Invalid("Enter a budget of 0 or more.", path="budget")
    return budget


def check_band(low: int | None, high: int | None) -> None:
    if (low is None) != (high is None):
        raise Invalid("Enter both ends of the rpm band, or neither.", path="band_high_rpm")
    if low is not None and high is not None and not 0 < low < high:
        raise Invalid("Enter the lower rpm first.", path="band_low_rpm")
