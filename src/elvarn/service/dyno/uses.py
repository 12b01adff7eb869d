"""What an engine is used for: bands of speeds, over which designs are ranked."""

from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.given import given
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.find import find
from elvarn.store.models import Job
from elvarn.store.queries import PulledJob
from elvarn.typed import Rpm

# Shares of the rev limit between which an engine is held; common practice, no source
USUAL = (("road", 0.35, 0.68), ("circuit", 0.74, 1.0))
STEP = 50.0  # rpm
MOST_KEPT = 3  # beside the usual ones and the job's own
LEAST_RPM, MOST_RPM = 300, 25_000


@given
class NewUse:
    """A use with its band; without a band it is taken away."""

    name: str
    low_rpm: Rpm | None = None
    high_rpm: Rpm | None = None


@dataclass(frozen=True)
class Use:
    """A use and its band [rpm]; whether it is the job's own, or kept beside it."""

    name: str
    low_rpm: float
    high_rpm: float
    own: bool = False
    kept: bool = False

    @property
    def band(self) -> tuple[float, float]:
        return self.low_rpm, self.high_rpm


def uses_of(job: PulledJob, highest_rpm: float) -> list[Use]:
    """The job's use and the usual ones beside it, by the rev limit, or else by the highest speed that was pulled."""
    limit = job.limit_rpm or highest_rpm
    found = {name: Use(name, _to_step(low * limit), _to_step(high * limit)) for name, low, high in USUAL}
    for kept in job.uses:
        use = Use(kept["name"], float(kept["low_rpm"]), float(kept["high_rpm"]), kept=True)
        found[use.name.casefold()] = use
    if job.band_low_rpm and job.band_high_rpm:
        own = Use(job.use or "band", float(job.band_low_rpm), float(job.band_high_rpm), own=True)
        found[own.name.casefold()] = own
    return sorted(found.values(), key=lambda use: use.low_rpm + use.high_rpm)


def keep_use(session: Session, job_id: UUID, new: NewUse) -> Job:
    """Keep a use with the job, or another band of one of that name; without a band it is taken away. Raises Invalid for
    no name, no band that can be, or more uses than a table holds."""
    job = find(session, Job, job_id, "job")
    name = " ".join(new.name.split())
    if not name:
        raise Invalid("Name the use.", path="name")
    if name.casefold() == (job.use or "").casefold() and job.band_low_rpm:
        raise Invalid(f"{name} is the job's own use. Change its band at check-in.", path="name")
    others = [kept for kept in job.uses if kept["name"].casefold() != name.casefold()]
    if new.low_rpm is None and new.high_rpm is None:
        job.uses = others
        return job
    _check_band(new)
    if len(others) >= MOST_KEPT:
        raise Invalid(f"{MOST_KEPT} uses are kept already. Take one away first.", path="name")
    job.uses = [*others, {"name": name, "low_rpm": new.low_rpm, "high_rpm": new.high_rpm}]
    return job


def _check_band(new: NewUse) -> None:
    """Refuse a band that can't be. Raises Invalid."""
    low, high = new.low_rpm, new.high_rpm
    if low is None or high is None or not MOST_RPM >= high > low >= LEAST_RPM:
        text = f"{low or 'nothing'} to {high or 'nothing'} rpm is no band. Enter two speeds, the lower first."
        raise Invalid(text, path="low_rpm")


def chosen_of(uses: Sequence[Use], name: str) -> Use | None:
    """The use that was asked for, else the job's own, else the last."""
    named = next((use for use in uses if use.name == name), None)
    return named or next((use for use in uses if use.own), None) or (uses[-1] if uses else None)


def _to_step(rpm: float) -> float:
    return round(rpm / STEP) * STEP
