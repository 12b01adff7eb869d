"""Dyno files: looked at, mapped once, kept as pulls."""

from collections.abc import Sequence
from dataclasses import asdict, dataclass, field, replace
from datetime import UTC, datetime
from math import isfinite
from uuid import UUID

import numpy as np
from numpy.typing import NDArray
from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.dyno.pull import clean_pull
from elvarn.core.finding import Finding
from elvarn.exchange.log_file import LogFound
from elvarn.exchange.pull_columns import POWER_UNITS, SPEED_UNITS, TORQUE_UNITS, ColumnGuess, ColumnMap
from elvarn.exchange.pull_file import Contradiction, PullRows, Run, Trace, Trust, UnitAsked
from elvarn.exchange.pull_head import Stated
from elvarn.exchange.pull_out import write_pull
from elvarn.exchange.table import TableError
from elvarn.given import given
from elvarn.service.dyno.cards import PullFacts, card_of
from elvarn.service.dyno.looked import doubts, figures, look, rows_of, runs_in, traces_in
from elvarn.service.dyno.mapping import mapping_of, remember, remembered
from elvarn.service.job.strikes import NewStrike, strike_out
from elvarn.service.kernel.apart import Run as Runner
from elvarn.service.kernel.errors import Invalid, Offer, Question
from elvarn.service.kernel.files import FileStore
from elvarn.service.kernel.find import find
from elvarn.service.kernel.writes import write_once
from elvarn.service.record.curves import CurveShelf
from elvarn.store import queries
from elvarn.store.models import Build, Dyno, Job, PullReading, StoredFile

FAR_FROM_STOCK = 0.2  # common practice, no source


@dataclass(frozen=True)
class PullPreview:
    """A dropped file as it was understood, before anything is kept of it. `remembered`: mapped so before."""

    digest: str
    name: str
    row_count: int
    columns: list[ColumnGuess]
    mapping: ColumnMap | None
    remembered: bool
    comments: list[str]
    written: str
    stated: Stated
    runs: list[Run]
    traces: list[Trace]
    findings: list[Finding]
    log: LogFound | None


@given
class NewPull:
    """A mapped file as a pull, with what is said of it. `trust` says which counts where torque and power disagree. One
    that `replaces` another is the same file mapped anew: the other is struck out with it."""

    person_id: UUID
    job_id: UUID
    file_digest: str
    mapping: ColumnMap
    facts: PullFacts
    first_row: int | None = None
    last_row: int | None = None
    trust: Trust = "check"
    accepted: list[str] = field(default_factory=list)
    replaces: UUID | None = None


def preview(session: Session, files: FileStore, run: Runner, name: str, content: bytes) -> PullPreview:
    """What a dropped file seems to hold. Raises Invalid for what is no table."""
    try:
        looked = run(look, content)
    except TableError as error:
        raise Invalid(f"{name}: {error}", path="file") from error
    known = remembered(session, looked.headings_digest)
    mapping = known or looked.mapping
    runs = run(runs_in, content, mapping) if mapping else []
    log = looked.log if mapping is None else None
    return PullPreview(
        digest=files.keep(session, name, content),
        name=name,
        row_count=looked.row_count,
        columns=looked.columns,
        mapping=mapping,
        remembered=known is not None,
        comments=looked.comments,
        written=looked.written,
        stated=looked.stated,
        runs=runs,
        traces=run(traces_in, content, runs, mapping) if mapping else _log_trace(run, content, log),
        findings=run(doubts, content, mapping, runs) if mapping else [] if log else [_unmapped(name)],
        log=log,
    )


def _log_trace(run: Runner, content: bytes, log: LogFound | None) -> list[Trace]:
    """The engine speed of a log, for drawing."""
    return run(traces_in, content, [], ColumnMap(log.speed_column, None, "", None, "")) if log else []


def add_pull(
    session: Session, shelf: CurveShelf, files: FileStore, run: Runner, identifier: UUID, new: NewPull
) -> PullReading:
    """Keep a mapped file as a pull. Raises Invalid or Question where it can't be, or may not be, what it seems."""
    job = find(session, Job, new.job_id, "job")
    card = card_of(session, identifier, new.job_id, new.person_id, 1, _with_smoothing(new), job.engine_id)
    dyno = find(session, Dyno, new.facts.dyno_id, "dyno")

    def make(digest: str) -> PullReading:
        _ask_about_twin(session, new)
        rows, headings_digest = _rows(run, files.read(new.file_digest), new)
        _ask_about_wheels(session, dyno, new)
        _ask_about_stock(session, shelf, dyno, rows, new)
        remember(session, headings_digest, new.mapping)
        _strike_replaced(session, new)
        kept = figures(rows)
        marks = [f"trusted_{new.trust}"] if new.trust != "check" else []
        return PullReading(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            job_id=new.job_id,
            taken_at=new.facts.pulled_at,
            marks=[*marks, *new.accepted],
            file_digest=new.file_digest,
            mapping={**asdict(new.mapping), "rows": _trimmed(new), "rows_left_out": int((~kept).sum())},
            engine_speed_rpm=rows.engine_speed_rpm[kept].tolist(),
            torque_n_m=rows.torque[kept].tolist(),
            channels=_channels(rows, kept),
            cards=[card],
        )

    return write_once(session, PullReading, identifier, new, make)


def look_again(session: Session, files: FileStore, run: Runner, identifier: UUID) -> PullPreview:
    """A kept pull's file, as it was mapped. Raises Invalid for a pull that came from no file."""
    pull = find(session, PullReading, identifier, "pull")
    if pull.file_digest is None:
        raise Invalid("This pull has no file. Strike it out and drop one.", path="pull_id")
    stored = session.get(StoredFile, pull.file_digest)
    assert stored is not None
    seen = preview(session, files, run, stored.name, files.read(pull.file_digest))
    kept = {name: value for name, value in pull.mapping.items() if name in ColumnMap.__dataclass_fields__}
    mapping, rows = mapping_of(kept), pull.mapping.get("rows")
    runs = [replace(one, mapping=mapping) for one in seen.runs if rows and one.first_row == rows[0]]
    return replace(seen, mapping=mapping, runs=runs[:1], remembered=True)


def _strike_replaced(session: Session, new: NewPull) -> None:
    """Strike out the pull that this one replaces. Raises Invalid where it is of another job or file."""
    if new.replaces is None:
        return
    old = find(session, PullReading, new.replaces, "pull")
    if old.job_id != new.job_id or old.file_digest != new.file_digest:
        raise Invalid("A pull is mapped anew from its own file, in its own job.", path="replaces")
    strike_out(session, old.id, NewStrike(new.person_id, "mapped anew", datetime.now(UTC)))


def export_pull(session: Session, identifier: UUID) -> tuple[str, str]:
    """Name and content of a pull as CSV, every digit kept."""
    pull = find(session, PullReading, identifier, "pull")
    card = pull.card
    build = find(session, Build, card.build_id, "build")
    comments = [
        f"Elvarn pull: {build.name}{' · ' + card.label if card.label else ''}",
        f"taken {card.pulled_at.isoformat()}, at the {card.dyno.measures}, {card.standard_in_file}",
    ]
    name = f"{build.name} {card.pulled_at:%Y-%m-%d}.csv".replace(" ", "-").replace(",", "")
    return name, write_pull(pull.engine_speed_rpm, pull.torque_n_m, pull.channels, comments)


def _with_smoothing(new: NewPull) -> PullFacts:
    """Facts of a pull; that of a drum declares its smoothing, so that only pulls smoothed alike are compared."""
    if new.mapping.drum is None:
        return new.facts
    return replace(new.facts, declared={**new.facts.declared, "smoothing": f"{new.mapping.drum.smoothing_s:g} s"})


def _channels(rows: PullRows, kept: NDArray[np.bool_]) -> dict[str, list[float | None]]:
    """What was logged beside, for the rows that are kept; what is empty all along is none."""
    found = {name: values[kept] for name, values in rows.channels.items()}
    return {
        name: [float(f"{value:.7g}") if isfinite(value) else None for value in values]
        for name, values in found.items()
        if np.isfinite(values).any()
    }


def _unmapped(name: str) -> Finding:
    text = f"{name} has no column that looks like engine speed with torque or power. Map them by hand."
    return Finding("no_mapping", text, doubt=True)


def _rows(run: Runner, content: bytes, new: NewPull) -> tuple[PullRows, str]:
    try:
        return run(rows_of, content, new.mapping, new.trust, _trimmed(new))
    except UnitAsked as error:
        raise Question("unit_asked", str(error), _units(error, new), path=f"mapping.{error.quantity}_unit") from error
    except Contradiction as error:
        raise Question("contradiction", str(error), _ways_on(error, new), path="mapping") from error
    except TableError as error:
        raise Invalid(str(error), path="mapping") from error


def _trimmed(new: NewPull) -> tuple[int, int] | None:
    if new.first_row is None or new.last_row is None:
        return None
    return new.first_row, new.last_row


def _units(error: UnitAsked, new: NewPull) -> list[Offer]:
    """The units of a quantity to choose from, those first in which torque and power agree."""
    known = {"speed": SPEED_UNITS, "torque": TORQUE_UNITS, "power": POWER_UNITS}[error.quantity]
    ordered = [*error.fitting, *(unit for unit in known if unit not in error.fitting)]
    field_name = f"{error.quantity}_unit"
    return [
        Offer(
            units.LABELS.get(unit, unit) + (", in which torque and power agree" if unit in error.fitting else ""),
            {"mapping": {**asdict(new.mapping), field_name: unit}},
        )
        for unit in ordered
    ]


def _ways_on(error: Contradiction, new: NewPull) -> list[Offer]:
    offers = []
    if error.fitting is not None:
        torque_unit, power_unit = error.fitting
        fitted = replace(new.mapping, torque_unit=torque_unit, power_unit=power_unit)
        offers.append(Offer(f"The units are {torque_unit} and {power_unit}", {"mapping": asdict(fitted)}))
    offers.append(Offer("Torque counts, marked", {"trust": "torque"}))
    offers.append(Offer("Power counts, marked", {"trust": "power"}))
    return offers


def _ask_about_twin(session: Session, new: NewPull) -> None:
    """Ask about a file whose content was kept as a pull before."""
    if "seen_before" in new.accepted:
        return
    twins = queries.pulls_of_file(session, new.file_digest)
    twins = [pull for pull in twins if pull.id != new.replaces]
    twin = next((pull for pull in twins if _overlap(pull.mapping.get("rows"), _trimmed(new))), None)
    if twin is None:
        return
    where = "this job" if twin.job_id == new.job_id else "another job"
    message = f"This file was kept before, as a pull of {twin.card.pulled_at:%-d %b %Y} in {where}."
    offers = [Offer("Keep it again", {"accepted": [*new.accepted, "seen_before"]})]
    raise Question("seen_before", message, offers, path="file_digest")


def _overlap(kept: Sequence[int] | None, rows: tuple[int, int] | None) -> bool:
    """Whether two stretches of a file share rows; without one it is the whole file."""
    return kept is None or rows is None or (kept[0] <= rows[1] and rows[0] <= kept[1])


def _ask_about_stock(session: Session, shelf: CurveShelf, dyno: Dyno, rows: PullRows, new: NewPull) -> None:
    """Ask about a pull that lies far off those of stock: most likely a unit or a column is another."""
    if "far_from_stock" in new.accepted:
        return
    made = queries.pulled_in_job(session, new.job_id)
    others = [row for row in made if not row.struck and row.id != new.replaces]
    stock = [row for row in others if row.is_stock and row.measures == dyno.measures]
    if not stock:
        return
    mine, other = clean_pull(rows.engine_speed_rpm, rows.torque), shelf.curves(session, [stock[-1].id])[0]
    low, high = max(mine.lowest, other.lowest), min(mine.highest, other.highest)
    if low >= high:
        return
    share = mine.mean_torque(low, high) / other.mean_torque(low, high) - 1
    if abs(share) <= FAR_FROM_STOCK:
        return
    message = f"This pull lies {units.percent_text(share, 0)} off stock's. Check its units and columns."
    offers = [Offer("Keep it, it is really so", {"accepted": [*new.accepted, "far_from_stock"]})]
    raise Question("far_from_stock", message, offers, path="mapping")


def _ask_about_wheels(session: Session, dyno: Dyno, new: NewPull) -> None:
    if "wheel_and_engine" in new.accepted:
        return
    others = {row.measures for row in queries.pulled_in_job(session, new.job_id) if not row.struck}
    if not others or others == {dyno.measures}:
        return
    other = "engine" if dyno.measures == "wheel" else "wheels"
    here = "wheels" if dyno.measures == "wheel" else "engine"
    fitting = [d for d in queries.dynos(session) if d.measures in others]
    offers = [Offer(f"It was run on {d.name}", {"facts": {"dyno_id": str(d.id)}}) for d in fitting]
    offers.append(Offer("Keep it, marked", {"accepted": [*new.accepted, "wheel_and_engine"]}))
    message = f"This pull is at the {here}, the others at the {other}: their difference is no gain."
    raise Question("wheel_and_engine", message, offers, path="dyno_id")
