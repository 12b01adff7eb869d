"""The designs that were pulled, each against stock, on paper."""

from collections.abc import Callable
from dataclasses import dataclass
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.service.dyno.designs import Designs, designs_of
from elvarn.service.dyno.judged import Standing, StandingRow, standings_of, table_of
from elvarn.service.dyno.plate import DesignsPlate, plate_of
from elvarn.service.kernel.errors import NotFound
from elvarn.service.record.curves import CurveShelf
from elvarn.store.models import Job


@dataclass(frozen=True)
class Plate:
    """What is drawn of the designs: their curves and differences, without those that are not comparable, and the band
    [rpm]."""

    view: DesignsPlate
    band: tuple[float, float]


Draw = Callable[[Plate], str]


@dataclass(frozen=True)
class DesignRow:
    """A design on paper: power over the band, what it gained on stock, and its peak."""

    name: str
    power: str
    gain: str
    half_width: str
    percent: str
    judgement: str
    peak: str


@dataclass(frozen=True)
class Pulled:
    """The designs of a job, and how they stand over its use."""

    designs: Designs
    standing: Standing

    @property
    def unlike(self) -> str:
        """Why a design has no figure, where one has none."""
        return next((one.unlike for one in self.designs.others if one.unlike), "")


def pulled_of(session: Session, shelf: CurveShelf, job_id: UUID, loaded: Job | None = None) -> Pulled | None:
    """A job's designs over its own use; None where fewer than two were pulled. A job that is `loaded` is not asked for
    again."""
    designs = designs_of(session, shelf, job_id, loaded=loaded)
    if designs is None or not designs.others:
        return None
    standing, _ = standings_of(designs, "", None)
    return Pulled(designs, standing) if standing else None


def plate_on_paper(pulled: Pulled, preset: units.Preset) -> Plate | None:
    """The curves of all that can be compared; None where nothing can."""
    best = pulled.standing.best
    if best is None:
        return None
    view = plate_of(pulled.designs, preset)
    shown = {one.build_id for one in view.differences}
    curves = [one for one in view.curves if one.is_reference or one.build_id in shown]
    return Plate(DesignsPlate(view.power_unit, view.torque_unit, curves, view.differences), (best[1].low, best[1].high))


def picture_of(session: Session, shelf: CurveShelf, job_id: UUID, preset: units.Preset) -> Plate:
    """The plate of a job's designs. Raises NotFound where there are no two that can be compared."""
    pulled = pulled_of(session, shelf, job_id)
    plate = plate_on_paper(pulled, preset) if pulled else None
    if plate is None:
        raise NotFound("There are no two designs here that can be compared. Pull another one alike.")
    return plate


def design_rows(pulled: Pulled, preset: units.Preset) -> list[DesignRow]:
    """Stock and every design, a row each."""
    table = table_of(pulled.designs, pulled.standing, [pulled.standing], preset)
    return [_row(row) for row in table.rows]


def _row(row: StandingRow) -> DesignRow:
    peak = f"{row.peak.value.text} at {units.to_fifty(row.peak.engine_speed_rpm)}" if row.peak else ""
    mean, cell = row.mean.text if row.mean else "", row.cells[0]
    if row.is_reference:
        return DesignRow(row.name, mean, "", "", "", "", peak)
    if cell is None:
        return DesignRow(row.name, "", "", "", "", row.unlike or "band not pulled", "")
    width = f"±{cell.half_width.text}"
    return DesignRow(row.name, mean, cell.figure.text, width, cell.percent, cell.word, peak)
