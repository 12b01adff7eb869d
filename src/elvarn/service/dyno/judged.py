"""What is judged of designs: the leader of a use, the table of all designs over all uses, the figure that answers."""

from dataclasses import dataclass
from uuid import UUID

import numpy as np

from elvarn import units
from elvarn.core.dyno.compare import BandComparison, BandFigures
from elvarn.core.dyno.profile import band_profile
from elvarn.service.dyno.designs import Against, Designs
from elvarn.service.dyno.uses import By, Use, chosen_of
from elvarn.service.kernel.sentences import judged, plainly

CHOSEN_BAND = "chosen band"
WHOLE = 0.98  # of a band: so much of it pulled is all of it; choice, no source


@dataclass(frozen=True)
class Standing:
    """How the designs stand over a band: those with figures, the best first, and those without."""

    use: Use
    figures: tuple[tuple[Against, BandComparison], ...]
    without: tuple[Against, ...]

    @property
    def best(self) -> tuple[Against, BandComparison] | None:
        return self.figures[0] if self.figures else None

    @property
    def leads(self) -> bool:
        """Whether the best is clearly ahead of the reference."""
        return self.best is not None and self.best[1].power.verdict.real and self.best[1].power.verdict.change > 0

    @property
    def reference_leads(self) -> bool:
        """Whether no design makes more than the reference."""
        return self.best is not None and self.best[1].power.verdict.change <= 0


@dataclass(frozen=True)
class PeakView:
    value: units.Shown
    engine_speed_rpm: float


@dataclass(frozen=True)
class ShareView:
    """Speeds between which a use spends its time, and how much, 1 where it is most."""

    low_rpm: float
    high_rpm: float
    share: float


@dataclass(frozen=True)
class UseView:
    """A use and its band; `own` is the job's, `kept` beside it, `chosen` the one that is judged first. `shares` tells
    where its time goes, where that is not even."""

    name: str
    low_rpm: float
    high_rpm: float
    own: bool
    kept: bool
    chosen: bool
    by: By
    shares: list[ShareView]


@dataclass(frozen=True)
class CellView:
    """A design over a use: what it makes more than the reference on average; `best` is framed, `partly` says that not
    all of the band was pulled."""

    figure: units.Shown
    half_width: units.Shown
    percent: str
    word: str
    real: bool
    best: bool
    partly: bool = False


@dataclass(frozen=True)
class StandingRow:
    """A design in the table; without figures `unlike` says why. `mean` and `peak` are of the chosen use."""

    build_id: UUID
    name: str
    is_reference: bool
    pulls: int
    unlike: str
    mean: units.Shown | None
    peak: PeakView | None
    cells: list[CellView | None]


@dataclass(frozen=True)
class Table:
    """The designs over all uses: power against the reference, on average over each use's band."""

    unit: str
    uses: list[UseView]
    rows: list[StandingRow]


@dataclass(frozen=True)
class Head:
    """The figure that answers, and its one sentence; without a figure, why there is none."""

    build_id: UUID | None
    figure: units.Shown | None
    words: str
    where: str
    real: bool
    unlike: str


def standing_over(designs: Designs, use: Use) -> Standing:
    """How the designs stand over a use's band."""
    found = [(one, one.over(use.profile)) for one in designs.others]
    with_figures = [(one, band) for one, band in found if band is not None]
    with_figures.sort(key=lambda pair: -pair[1].power.verdict.change)
    return Standing(use, tuple(with_figures), tuple(one for one, band in found if band is None))


def standings_of(
    designs: Designs, name: str, band: tuple[float, float] | None
) -> tuple[Standing | None, list[Standing]]:
    """The use that is judged first, and all of them in the order of their bands. A band chosen by hand is one more."""
    uses = [*designs.uses, Use(CHOSEN_BAND, band_profile(*band))] if band else designs.uses
    chosen = uses[-1] if band else chosen_of(uses, name)
    found = [standing_over(designs, use) for use in uses]
    return next((one for one in found if one.use is chosen), None), found


def table_of(designs: Designs, chosen: Standing | None, found: list[Standing], preset: units.Preset) -> Table:
    """Every design over every use."""
    unit = units.PRESETS[preset]["power"]
    uses = [_use_view(one.use, one is chosen) for one in found]
    rows = [_reference_row(designs, chosen, found, preset)]
    rows += [_row(one, chosen, found, preset) for one in designs.others]
    return Table(units.LABELS.get(unit, unit), uses, rows)


def head_of(designs: Designs, chosen: Standing | None, preset: units.Preset) -> Head:
    """The best design of the chosen use against the reference."""
    if chosen is None or chosen.best is None:
        unlike = next((one.unlike for one in designs.others if one.unlike), "")
        words = "Not comparable" if unlike else "This band was not pulled"
        words = words if designs.others else "Only one design pulled"
        return Head(None, None, words, designs.basis, False, unlike)
    best, band = chosen.best
    verdict = band.power.verdict
    shown = units.show_difference(verdict.change, "power", preset)
    width = units.show(verdict.half_width, "power", preset)
    better = verdict.change > 0
    word = plainly(verdict)
    keep = f"keep {designs.reference.name} for {chosen.use.name}{'' if verdict.real else f': {word}'}"
    answer = f"{best.design.name}: {word} for {chosen.use.name}" if better else keep
    who = "" if better else f"{best.design.name}, best of the others, "
    return Head(
        best.design.build_id,
        shown,
        answer,
        f"{who}{best.design.pulls[0].row.measures} {shown.unit}, average {over_of(chosen.use, band)} "
        f"({units.percent_text(band.power.fraction)}) · ±{width.text} {width.unit} · {designs.basis}",
        verdict.real and better,
        "",
    )


def speeds(band: BandComparison) -> str:
    """A band as it was compared."""
    return f"{units.to_fifty(band.low)} to {units.to_fifty(band.high)}"


def over_of(use: Use, band: BandComparison) -> str:
    """Over what an average is."""
    over = {"band": "over", "gears": "by time in its gears,", "log": "by time in its log,"}
    return f"{over[use.by]} {speeds(band)} rpm"


def peak_view(figures: BandFigures, other: bool, preset: units.Preset) -> PeakView:
    """The peak of one side within the band."""
    top = figures.other_peak if other else figures.stock_peak
    return PeakView(units.show(top.value, "power", preset), top.engine_speed_rpm)


def _use_view(use: Use, chosen: bool) -> UseView:
    low, high = use.band
    return UseView(use.name, low, high, use.own, use.kept, chosen, use.by, _drawn(use) if use.by != "band" else [])


def _drawn(use: Use) -> list[ShareView]:
    """Where a use's time goes, as it is drawn."""
    ends = np.unique([end for one in use.profile.shares for end in (one.low, one.high)])
    density = use.profile.density(ends[:-1])
    most = float(density.max())
    found = zip(ends[:-1].tolist(), ends[1:].tolist(), (density / most).tolist(), strict=True)
    return [ShareView(low, high, round(share, 3)) for low, high, share in found if share > 0]


def _reference_row(
    designs: Designs, chosen: Standing | None, found: list[Standing], preset: units.Preset
) -> StandingRow:
    best = chosen.best if chosen else None
    power = best[1].power if best else None
    nought = units.show(0.0, "power", preset)
    return StandingRow(
        designs.reference.build_id,
        designs.reference.name,
        True,
        len(designs.reference.pulls),
        "",
        units.show(power.stock_mean, "power", preset) if power else None,
        peak_view(power, False, preset) if power else None,
        [CellView(nought, nought, "", "", False, one.reference_leads) if one.best else None for one in found],
    )


def _row(one: Against, chosen: Standing | None, found: list[Standing], preset: units.Preset) -> StandingRow:
    power = next((band.power for other, band in (chosen.figures if chosen else ()) if other is one), None)
    return StandingRow(
        one.design.build_id,
        one.design.name,
        False,
        len(one.design.pulls),
        one.unlike,
        units.show(power.other_mean, "power", preset) if power else None,
        peak_view(power, True, preset) if power else None,
        [_cell(one, standing, preset) for standing in found],
    )


def _cell(one: Against, standing: Standing, preset: units.Preset) -> CellView | None:
    found = next((band for other, band in standing.figures if other is one), None)
    if found is None:
        return None
    power, verdict = found.power, found.power.verdict
    partly = found.reached < WHOLE
    over = f", over {speeds(found)} rpm only" if partly else ""
    return CellView(
        units.show_difference(verdict.change, "power", preset),
        units.show(verdict.half_width, "power", preset),
        units.percent_text(power.fraction),
        judged(verdict, "pull") + over,
        verdict.real,
        standing.leads and standing.best is not None and standing.best[0] is one,
        partly,
    )
