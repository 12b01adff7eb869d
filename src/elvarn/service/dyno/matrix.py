"""Manifolds by throttles: what each change gives alone and together, and which cell is still to be pulled."""

from dataclasses import dataclass
from uuid import UUID

from elvarn import units
from elvarn.core.dyno.matrix import Effects, effects, half_width_of
from elvarn.core.errors import CoreError
from elvarn.core.finding import Grade
from elvarn.core.verdict import Verdict
from elvarn.service.dyno.designs import Design, Designs
from elvarn.service.dyno.judged import CellView, Standing
from elvarn.service.kernel.sentences import Sentence, first_up, judged, plainly, sentence

PLANNED = 2  # pulls of a cell that are planned


@dataclass(frozen=True)
class Style:
    """Which manifold and which throttle a build has, as numbers, with their names."""

    build_id: UUID
    name: str
    hue: int
    dash: int
    throttle: str


@dataclass(frozen=True)
class MatrixCell:
    """A manifold with a throttle: its design and what it makes more than the reference; `empty` where there is none."""

    build_id: UUID | None
    figure: CellView | None
    empty: str


@dataclass(frozen=True)
class MatrixRow:
    """A manifold: its cells by throttle, and what each further throttle adds on it."""

    name: str
    cells: list[MatrixCell]
    adds: list[CellView | None]


@dataclass(frozen=True)
class MatrixView:
    """All manifolds by all throttles that were built."""

    throttles: list[str]
    rows: list[MatrixRow]
    said: list[Sentence]


def matrix_of(
    designs: Designs, standing: Standing | None, styles: list[Style], preset: units.Preset
) -> MatrixView | None:
    """The matrix over the chosen use; None where only one thing was changed."""
    pulled = {design.build_id: design for design in designs.every}
    mine = [style for style in styles if style.build_id in pulled]
    hues, dashes = (sorted({getattr(style, name) for style in mine}) for name in ("hue", "dash"))
    if standing is None or len(hues) < 2 or len(dashes) < 2:
        return None
    grid = _Grid(designs, standing, styles, pulled, preset)
    rows = [
        MatrixRow(
            grid.row_name(hue),
            [grid.cell(hue, dash) for dash in dashes],
            [grid.adds(hue, dashes[0], dash) for dash in dashes[1:]],
        )
        for hue in hues
    ]
    return MatrixView([grid.column_name(dash) for dash in dashes], rows, list(grid.said(hues, dashes)))


@dataclass(frozen=True)
class _Grid:
    designs: Designs
    standing: Standing
    styles: list[Style]
    pulled: dict[UUID, Design]
    preset: units.Preset

    def at(self, hue: int, dash: int) -> Design | None:
        """The design that was pulled of a manifold with a throttle: of several the first."""
        found = (s for s in self.styles if (s.hue, s.dash) == (hue, dash) and s.build_id in self.pulled)
        style = next(found, None)
        return self.pulled[style.build_id] if style else None

    def row_name(self, hue: int) -> str:
        mine = [style for style in self.styles if style.hue == hue]
        return min(mine, key=lambda style: style.dash).name

    def column_name(self, dash: int) -> str:
        return next(style.throttle for style in self.styles if style.dash == dash) or "throttle"

    def cell(self, hue: int, dash: int) -> MatrixCell:
        design = self.at(hue, dash)
        if design is None:
            return MatrixCell(None, None, "control, not pulled" if 0 in (hue, dash) else "not pulled")
        return MatrixCell(design.build_id, self._against_reference(design), "")

    def adds(self, hue: int, before: int, after: int) -> CellView | None:
        """What another throttle adds on a manifold."""
        one, two = self.at(hue, before), self.at(hue, after)
        band = self.designs.between(one, two).over(self.standing.use.profile) if one and two else None
        return self._view(band.power.verdict, band.power.fraction) if band else None

    def said(self, hues: list[int], dashes: list[int]) -> list[Sentence]:
        """Each change alone and together, or the cell that would tell."""
        found = []
        for hue in hues[1:]:
            for dash in dashes[1:]:
                corners = ((hues[0], dashes[0]), (hue, dashes[0]), (hues[0], dash), (hue, dash))
                cells = [self.at(h, d) for h, d in corners]
                names = self.row_name(hue), self.column_name(dash)
                if all(cells):
                    found.append(self._effect(names, [cell for cell in cells if cell]))
        empty = next(((h, d) for h in hues for d in dashes if self.at(h, d) is None), None)
        if empty:
            found.append(self._missing(*empty))
        return [one for one in found if one]

    def _effect(self, names: tuple[str, str], cells: list[Design]) -> Sentence | None:
        band = self.standing.best[1] if self.standing.best else None
        if band is None:
            return None
        pulls = [cell.curves for cell in cells]
        try:
            known = effects(pulls[0], pulls[1], pulls[2], pulls[3], self.designs.known_for(*cells), band.profile)
        except CoreError:
            return None
        return sentence(self._in_words(names, known), Grade.COMPUTED, paper=True)

    def _in_words(self, names: tuple[str, str], known: Effects) -> str:
        alone = f"{first_up(names[0])} alone {self._figure(known.first)}, {names[1]} alone {self._figure(known.second)}"
        more = self._figure(known.interaction)
        helps = f"beyond their sum {more} ({plainly(known.interaction)})"
        return f"{alone}, both {self._figure(known.both)}: {helps}."

    def _missing(self, hue: int, dash: int) -> Sentence:
        width = half_width_of(self.designs.known_for(self.designs.reference), PLANNED, PLANNED)
        base = self.standing.best[1].power.stock_mean if self.standing.best else 0.0
        shown = units.show(width / 100 * base, "power", self.preset)
        name, throttle = self.row_name(hue), self.column_name(dash)
        answer = f"{first_up(name)} with {throttle} was not pulled: what the throttle gives alone is not known."
        action = f"Pull it {PLANNED} times on one day with {name}: the ± would be about {shown.text} {shown.unit}."
        return sentence(answer, Grade.RULE, "doubt", action=action)

    def _against_reference(self, design: Design) -> CellView | None:
        if design is self.designs.reference:
            nought = units.show(0.0, "power", self.preset)
            return CellView(nought, nought, "", "", False, False)
        found = next((band for one, band in self.standing.figures if one.design is design), None)
        return self._view(found.power.verdict, found.power.fraction) if found else None

    def _view(self, verdict: Verdict, fraction: float) -> CellView:
        return CellView(
            units.show_difference(verdict.change, "power", self.preset),
            units.show(verdict.half_width, "power", self.preset),
            units.percent_text(fraction),
            judged(verdict, "pull"),
            verdict.real,
            False,
        )

    def _figure(self, verdict: Verdict) -> str:
        shown = units.show_difference(verdict.change, "power", self.preset)
        width = units.show(verdict.half_width, "power", self.preset)
        return f"{shown.text} ±{width.text} {shown.unit}"
