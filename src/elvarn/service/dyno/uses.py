"""What an engine is used for: bands of speeds, or shares of its time by gears or a log, over which designs are
ranked."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any, Literal
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.core.dyno.profile import Profile, Share, band_profile, gear_profile, shifts_of
from elvarn.core.errors import CoreError
from elvarn.given import given
from elvarn.service.dyno.rpm_log import profile_in_log
from elvarn.service.kernel.apart import Run
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.files import FileStore
from elvarn.service.kernel.find import find
from elvarn.store.models import Job
from elvarn.store.queries import PulledJob
from elvarn.typed import Rpm

# Shares of the rev limit between which an engine is held; common practice, no source
USUAL = (("road", 0.35, 0.68), ("circuit", 0.74, 1.0))
OFFERED = (("slalom", 0.45, 0.85), ("drag", 0.66, 1.0), ("boat", 0.72, 0.92), ("tow", 0.3, 0.58))
STEP = 50.0  # rpm
MOST_KEPT = 3  # beside the usual ones and the job's own
LEAST_RPM, MOST_RPM = 300, 25_000
MOST_GEARS = 12

By = Literal["band", "gears", "log"]


@given
class NewUse:
    """A use of an engine: a band; or the ratios of the gears that are used, the speed of the shifts and at which it
    pulls away; or a log of engine speed, kept as a file before. Without any of them it is taken away."""

    name: str
    low_rpm: Rpm | None = None
    high_rpm: Rpm | None = None
    gears: list[float] = field(default_factory=list)
    shift_rpm: Rpm | None = None
    away_rpm: Rpm | None = None
    log_digest: str | None = None


@dataclass(frozen=True)
class Use:
    """A use and where its time goes; whether it is the job's own, or kept beside it. `after_shifts`: where the engine
    stands after each shift up [rpm]."""

    name: str
    profile: Profile
    own: bool = False
    kept: bool = False
    by: By = "band"
    after_shifts: tuple[float, ...] = ()

    @property
    def band(self) -> tuple[float, float]:
        return self.profile.low, self.profile.high


def uses_of(job: PulledJob, highest_rpm: float) -> list[Use]:
    """The job's use and the usual ones beside it, by the rev limit, or else by the highest speed that was pulled."""
    limit = job.limit_rpm or highest_rpm
    found = {name: Use(name, band_profile(*_band(low, high, limit))) for name, low, high in USUAL if limit > 0}
    for kept in job.uses:
        use = _kept(kept)
        found[use.name.casefold()] = use
    if job.band_low_rpm and job.band_high_rpm:
        own = Use(job.use or "band", band_profile(float(job.band_low_rpm), float(job.band_high_rpm)), own=True)
        found[own.name.casefold()] = own
    return sorted(found.values(), key=lambda use: sum(use.band))


def offered_of(job: PulledJob, highest_rpm: float) -> list[tuple[str, float, float]]:
    """Bands of usual uses that are not shown by themselves, to begin with."""
    limit = job.limit_rpm or highest_rpm
    return [(name, *_band(low, high, limit)) for name, low, high in OFFERED]


def keep_use(session: Session, files: FileStore, run: Run, job_id: UUID, new: NewUse) -> Job:
    """Keep a use with the job, or another of that name; without any speeds it is taken away. Raises Invalid for no
    name, speeds that can't be, or more uses than a table holds."""
    job = find(session, Job, job_id, "job")
    name = " ".join(new.name.split())
    if not name:
        raise Invalid("Name the use.", path="name")
    if name.casefold() == (job.use or "").casefold() and job.band_low_rpm:
        raise Invalid(f"{name} is the job's own use. Change its band at check-in.", path="name")
    others = [kept for kept in job.uses if kept["name"].casefold() != name.casefold()]
    if not (new.low_rpm or new.high_rpm or new.gears or new.log_digest):
        job.uses = others
        return job
    made = {"name": name, **_made(files, run, new)}
    if len(others) >= MOST_KEPT:
        raise Invalid(f"{MOST_KEPT} uses are kept already. Take one away first.", path="name")
    job.uses = [*others, made]
    return job


def chosen_of(uses: Sequence[Use], name: str) -> Use | None:
    """The use that was asked for, else the job's own, else the last."""
    named = next((use for use in uses if use.name == name), None)
    return named or next((use for use in uses if use.own), None) or (uses[-1] if uses else None)


def _made(files: FileStore, run: Run, new: NewUse) -> dict[str, Any]:
    """A use as it is kept. Raises Invalid."""
    if new.log_digest:
        shares = profile_in_log(files, run, new.log_digest).shares
        return {"by": "log", "shares": [[one.low, one.high, one.share] for one in shares]}
    if new.gears:
        _by_gears(new.gears, new.shift_rpm, new.away_rpm)
        return {"by": "gears", "gears": new.gears, "shift_rpm": new.shift_rpm, "away_rpm": new.away_rpm}
    _check_band(new)
    return {"by": "band", "low_rpm": new.low_rpm, "high_rpm": new.high_rpm}


def _kept(kept: dict[str, Any]) -> Use:
    """A use as it was kept; before there were others it was a band."""
    by = kept.get("by", "band")
    if by == "log":
        return Use(kept["name"], Profile(tuple(Share(*one) for one in kept["shares"])), kept=True, by="log")
    if by == "gears":
        gears, shift = kept["gears"], float(kept["shift_rpm"])
        after = tuple(one.engine_speed_rpm for one in shifts_of(gears, shift))
        profile = gear_profile(gears, shift, float(kept["away_rpm"]))
        return Use(kept["name"], profile, kept=True, by="gears", after_shifts=after)
    return Use(kept["name"], band_profile(float(kept["low_rpm"]), float(kept["high_rpm"])), kept=True)


def _by_gears(gears: list[float], shift_rpm: int | None, away_rpm: int | None) -> None:
    """Refuse gears that can't be. Raises Invalid."""
    if len(gears) > MOST_GEARS:
        raise Invalid(f"{len(gears)} gears; {MOST_GEARS} can be. Enter those that are used.", path="gears")
    if shift_rpm is None or not LEAST_RPM <= shift_rpm <= MOST_RPM:
        raise Invalid("Enter the engine speed at which it shifts up.", path="shift_rpm")
    if away_rpm is None:
        raise Invalid("Enter the engine speed at which it pulls away.", path="away_rpm")
    try:
        gear_profile(gears, shift_rpm, away_rpm)
    except CoreError as error:
        raise Invalid(str(error), path=error.quantity) from error


def _check_band(new: NewUse) -> None:
    """Refuse a band that can't be. Raises Invalid."""
    low, high = new.low_rpm, new.high_rpm
    if low is None or high is None or not MOST_RPM >= high > low >= LEAST_RPM:
        text = f"{low or 'nothing'} to {high or 'nothing'} rpm is no band. Enter two speeds, the lower first."
        raise Invalid(text, path="low_rpm")


def _band(low: float, high: float, limit: float) -> tuple[float, float]:
    return round(low * limit / STEP) * STEP, round(high * limit / STEP) * STEP
