"""The designs that were pulled, each against stock, on paper."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import inf

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.service.dyno.comparison import ComparisonView, compare_builds
from elvarn.service.dyno.sheet import DynoSheet
from elvarn.service.record.curves import CurveShelf
from elvarn.service.record.job import JobRecord
from elvarn.store.models import Build


@dataclass(frozen=True)
class Pulled:
    """A design's comparison with stock, where both were measured; why there is none, where they are not alike."""

    comparison: ComparisonView
    measures: str
    unlike: str

    @property
    def gained(self) -> float:
        band = self.comparison.band
        return band.power.mean_difference.value if band is not None else -inf


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


def pulled_designs(
    session: Session, shelf: CurveShelf, record: JobRecord, dyno: DynoSheet | None, preset: units.Preset
) -> list[Pulled]:
    """Every design that was pulled, in the order of the builds, against stock or else the first build. What the dyno's
    sheet compared already is not compared again."""
    stock = record.stock_build or (record.builds[0] if record.builds else None)
    if dyno is None or dyno.other is None or stock is None or not record.valid_pulls(stock):
        return []
    known = {dyno.other.build_id: dyno.comparison}
    others = [build for build in record.builds if build.id != stock.id and record.valid_pulls(build)]
    compared = [(b, known.get(b.id) or compare_builds(session, shelf, stock.id, b.id, preset)) for b in others]
    return [_pulled(record, (stock, build), comparison) for build, comparison in compared]


def design_rows(pulled: Sequence[Pulled]) -> list[DesignRow]:
    """Stock and every design, a row each."""
    bands = [one.comparison.band for one in pulled if one.comparison.band]
    if not bands:
        return []
    stock = bands[0].power
    peak = f"{stock.stock_peak.value.text} at {stock.stock_peak.engine_speed_rpm:.0f}"
    return [DesignRow(pulled[0].comparison.stock, stock.stock_mean.text, "", "", "", "", peak), *map(_row, pulled)]


def _row(one: Pulled) -> DesignRow:
    band = one.comparison.band
    if band is None or one.unlike:
        return DesignRow(one.comparison.other, "", "", "", "", one.unlike or "no common speeds", "")
    power = band.power
    return DesignRow(
        one.comparison.other,
        power.other_mean.text,
        power.mean_difference.text,
        f"±{power.half_width.text}",
        power.mean_percent,
        "clear" if power.real else "too close to call",
        f"{power.other_peak.value.text} at {power.other_peak.engine_speed_rpm:.0f}",
    )


def _pulled(record: JobRecord, sides: tuple[Build, Build], comparison: ComparisonView) -> Pulled:
    measures = sorted({pull.measures for build in sides for pull in record.valid_pulls(build)})
    unlike = "not comparable: wheel against engine" if len(measures) > 1 else ""
    return Pulled(comparison, ", ".join(measures), unlike)
