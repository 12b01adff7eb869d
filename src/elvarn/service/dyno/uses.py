"""What an engine is used for: bands of speeds, over which designs are ranked."""

from collections.abc import Sequence
from dataclasses import dataclass

from elvarn.store.queries import PulledJob

# Shares of the rev limit between which an engine is held; common practice, no source
USUAL = (("road", 0.35, 0.68), ("circuit", 0.74, 1.0))
STEP = 50.0  # rpm
MOST_USES = 6


@dataclass(frozen=True)
class Use:
    """A use and its band [rpm]; whether it is the job's own."""

    name: str
    low_rpm: float
    high_rpm: float
    own: bool = False

    @property
    def band(self) -> tuple[float, float]:
        return self.low_rpm, self.high_rpm


def uses_of(job: PulledJob, highest_rpm: float) -> list[Use]:
    """The job's use and the usual ones beside it, by the rev limit, or else by the highest speed that was pulled."""
    limit = job.limit_rpm or highest_rpm
    found = [Use(name, _to_step(low * limit), _to_step(high * limit)) for name, low, high in USUAL]
    if job.band_low_rpm and job.band_high_rpm:
        own = Use(job.use or "band", float(job.band_low_rpm), float(job.band_high_rpm), own=True)
        found = [*(use for use in found if use.name.casefold() != own.name.casefold()), own]
    return sorted(found, key=lambda use: use.low_rpm + use.high_rpm)


def chosen_of(uses: Sequence[Use], name: str) -> Use | None:
    """The use that was asked for, else the job's own, else the last."""
    named = next((use for use in uses if use.name == name), None)
    return named or next((use for use in uses if use.own), None) or (uses[-1] if uses else None)


def _to_step(rpm: float) -> float:
    return round(rpm / STEP) * STEP
