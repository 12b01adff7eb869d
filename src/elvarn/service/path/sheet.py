"""The air path of a build solved: what it loses and where, and what if something were changed."""

from collections.abc import Hashable
from dataclasses import dataclass
from math import inf, isfinite
from typing import Any
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.engine import demand
from elvarn.core.engine.strokes import drawing_factor, steady_equivalent
from elvarn.core.finding import Grade
from elvarn.core.gas.discharge import volume_flow_of
from elvarn.core.path.engine_losses import RowLoss
from elvarn.core.path.ledger import Row, rows_of
from elvarn.core.path.tree import ElementKind
from elvarn.service.kernel.errors import Invalid, NotFound
from elvarn.service.kernel.find import find
from elvarn.service.kernel.memo import Memo
from elvarn.service.kernel.sentences import Sentence
from elvarn.service.path.figures import PathFigure, figures_of
from elvarn.service.path.words import solution_margin
from elvarn.service.record.curves import CurveShelf
from elvarn.service.record.job import JobRecord, load_kept
from elvarn.service.record.solved import (
    LEAST_RPM,
    Ask,
    SolvedPath,
    absolute_at_plenum,
    air_gained,
    drops_over_speed,
    highest_speed,
    losses_air,
    solved_path,
)
from elvarn.store.models import Build
from elvarn.store.revision import build_revision

CURVE_POINTS = 13


@dataclass(frozen=True)
class LedgerRow:
    """A line of the loss ledger. `flow` is at the reference depression, of one where there are several; `whole_engine`
    what that amounts to beside elements that carry all cylinders' air; `bore_of_runner` whose bore stands for the
    others'. `drop` is averaged over the engine's air, `met` by the air that passes it, where that is not all.
    Shares are of the drop up to the ports."""

    label: str
    kind: str
    node_ids: list[UUID]
    grade: Grade | None
    basis: str
    bore: units.Shown | None
    bore_of_runner: int | None
    flow: units.Shown | None
    whole_engine: units.Shown | None
    drop: units.Shown | None
    met: units.Shown | None
    share_percent: float | None
    gain_per_mm_percent: float | None
    wanted_flow: units.Shown | None
    changed: bool


@dataclass(frozen=True)
class CurvePoint:
    """Drop [kPa] up to the plenum at a speed, as the path is and as changed; None where it can't pass the air."""

    rpm: int
    as_is_kpa: float | None
    changed_kpa: float | None


@dataclass(frozen=True)
class PortView:
    """What one port draws through the whole path on a bench."""

    cylinder: int
    series: units.Shown
    low: units.Shown | None
    high: units.Shown
    carried: units.Shown
    weakest: units.Shown
    weakest_label: str


@dataclass(frozen=True)
class Solution:
    """A build's air path at an engine speed; `engine` tells whether there is one to compute with, `at_least` that not
    all of the path is known, so that drops are at least what stands there. `to_plenum` is averaged over the engine's
    air and told up to `ends_at`, `peak_to_plenum` at the most that flows in the cycle."""

    build_id: UUID
    engine: bool
    bench: bool
    rpm: int
    rpm_low: int
    rpm_high: int
    rows: list[LedgerRow]
    air: units.Shown | None
    filling_words: str
    at_least: bool
    ends_at: str
    to_plenum: units.Shown | None
    peak_to_plenum: units.Shown | None
    air_percent: float | None
    power_percent: float | None
    limit: units.Shown
    limit_passed_rpm: int | None
    total: units.Shown | None
    total_low: units.Shown | None
    total_high: units.Shown | None
    gained_low_percent: float | None
    gained_high_percent: float | None
    curve: list[CurvePoint]
    port: PortView | None
    figures: list[PathFigure]
    margin: list[Sentence]


def solve(
    session: Session, curves: CurveShelf, kept: Memo[Hashable, Any], build_id: UUID, ask: Ask, preset: units.Preset
) -> Solution:
    """The solution of a build's path, with what would change. Raises Invalid for a bore that can't be."""
    revision = build_revision(session, build_id)
    record: JobRecord = kept.get(
        ("record", build_id, revision), lambda: load_kept(session, find(session, Build, build_id, "build").job_id)
    )
    build = next(one for one in record.builds if one.id == build_id)
    _check(ask, build)
    as_is: SolvedPath = kept.get(
        ("as it is", build_id, revision, ask.rpm, ask.cylinder),
        lambda: solved_path(session, curves, record, build, ask, changed=False),
    )
    held = as_is.losses.ratio if as_is.losses and as_is.engine and as_is.engine.boost else None
    thought = solved_path(session, curves, record, build, ask, changed=True, ratio=held) if ask.changes else as_is
    losses, gained = thought.losses, air_gained(as_is, thought)
    to_plenum = losses.to_plenum if losses and losses.to_plenum else None
    air_share = None if to_plenum is None else demand.drop_share(to_plenum, absolute_at_plenum(thought))
    air = losses_air(thought)
    return Solution(
        build_id=build.id,
        engine=losses is not None,
        bench=ask.bench or losses is None,
        rpm=thought.rpm,
        rpm_low=LEAST_RPM,
        rpm_high=highest_speed(thought.engine, record),
        rows=[_row(thought, row, preset) for row in _rows(thought, ask.bench)],
        air=units.show(air, "flow", preset, 0) if air else None,
        filling_words=thought.filling.words if thought.filling else "",
        at_least=losses is not None and bool(losses.unknown),
        ends_at=thought.ends_at,
        to_plenum=_kpa(to_plenum),
        peak_to_plenum=_kpa(losses.peak_to_plenum) if losses and to_plenum else None,
        air_percent=_percent(air_share),
        power_percent=_percent(None if air_share is None else demand.power_share(air_share)),
        limit=units.show(thought.settings.plenum_drop_kpa * 1000, "pressure", preset),
        limit_passed_rpm=_passed(thought),
        total=_kpa(losses.total if losses else None),
        total_low=_kpa(losses.low if losses else None),
        total_high=_kpa(losses.high if losses else None),
        gained_low_percent=_percent(gained[0]) if gained else None,
        gained_high_percent=_percent(gained[1]) if gained else None,
        curve=_curve(as_is, thought),
        port=_port_view(thought, preset),
        figures=figures_of(thought),
        margin=solution_margin(as_is, thought, preset),
    )


def _check(ask: Ask, build: Build) -> None:
    known = {node.id for node in build.nodes if node.element_kind}
    for index, change in enumerate(ask.changes):
        if change.node_id not in known:
            raise NotFound("That element is not in this build. Reload the air path.")
        if change.bore_mm is not None and not 5 <= change.bore_mm <= 400:
            text = f"A bore of {change.bore_mm:g} mm can't be. Enter 5 to 400 mm."
            raise Invalid(text, path=f"changes.{index}.bore_mm")


def _rows(path: SolvedPath, bench: bool) -> list[RowLoss]:
    """Lines of the ledger at the engine's speed, or at the reference depression with one port drawn."""
    if path.losses is not None and not bench:
        return list(path.losses.rows)
    shares = path.port.shares if path.port else {}
    found = []
    for row in rows_of(path.routes, path.passages):
        places = [place for place in row.places if place in shares]
        share = sum(shares[place] for place in places) if row.area is not None and places else None
        found.append(RowLoss(row, None, None, share, None, None))
    return found


def _row(path: SolvedPath, found: RowLoss, preset: units.Preset) -> LedgerRow:
    row = found.row
    known = row.area is not None and isfinite(row.area)
    flow = volume_flow_of(row.area, REFERENCE_DEPRESSION) if known and row.area else None
    return LedgerRow(
        label=row.label,
        kind=row.kind,
        node_ids=[path.nodes[place].id for place in row.places],
        grade=_grade(path, row),
        basis=_basis(path, row, preset),
        bore_of_runner=_copied(path, row),
        bore=units.show(row.bore, "length", preset) if row.bore else None,
        flow=units.show(flow, "flow", preset) if flow else None,
        whole_engine=_whole_engine(path, row, flow, preset),
        drop=_kpa(found.drop) if row.area != inf else None,
        met=_kpa(found.met) if row.area != inf and found.met and found.met != found.drop else None,
        share_percent=None if found.share is None or row.area == inf else 100 * found.share,
        gain_per_mm_percent=_percent(found.per_millimetre),
        wanted_flow=(
            units.show(volume_flow_of(found.wanted_area, REFERENCE_DEPRESSION), "flow", preset, 0)
            if found.wanted_area
            else None
        ),
        changed=any(place in path.changed for place in row.places),
    )


def _whole_engine(path: SolvedPath, row: Row, flow: float | None, preset: units.Preset) -> units.Shown | None:
    """A figure of one runner beside those of the whole engine."""
    if path.engine is None or flow is None or len(row.places) < 2 or path.nodes[row.places[0]].cylinder is None:
        return None
    factor = drawing_factor(path.engine.strokes, (path.nodes[row.places[0]].cylinder or 1,))
    return units.show(steady_equivalent(flow, len(row.places), factor), "flow", preset, 0)


def _grade(path: SolvedPath, row: Row) -> Grade | None:
    grades = [passage.grade for place in row.places if (passage := path.passages[place])]
    if len(grades) < len(row.places):
        return None
    return max(grades, key=list(Grade).index)


def _basis(path: SolvedPath, row: Row, preset: units.Preset) -> str:
    if row.kind == ElementKind.PLENUM and row.area == inf:
        return "no loss counted"
    if row.kind == ElementKind.COMPRESSOR:
        return "its losses are in its efficiency"
    grade = _grade(path, row)
    if grade is None or row.area is None:
        known = any(path.passages[place] for place in row.places)
        return "at most, from bore" if known else "not measured"
    if any(place in path.changed for place in row.places):
        return "what-if"
    return {
        Grade.MEASURED: "measured on the bench",
        Grade.ESTIMATED: f"estimated from its bore{_within(path, row, preset)}",
        Grade.RULE: "from advertised sizes",
    }.get(grade, "computed")


def _copied(path: SolvedPath, row: Row) -> int | None:
    """Of which runner the bore is that stands for others."""
    return min((path.copied[place] for place in row.places if place in path.copied), default=None)


def _within(path: SolvedPath, row: Row, preset: units.Preset) -> str:
    """Between which flows an estimate lies, where the loss model says."""
    passage = path.passages[row.places[0]]
    if passage is None or not passage.low or not passage.high or not isfinite(passage.high):
        return ""
    low, high = (units.show(volume_flow_of(area, REFERENCE_DEPRESSION), "flow", preset, 0)
                 for area in (passage.low, passage.high))  # fmt: skip
    return f", {low.text} to {high.text} {high.unit}"


def _curve(as_is: SolvedPath, thought: SolvedPath) -> list[CurvePoint]:
    """The drop over speed, thinned out for drawing."""
    if as_is.losses is None or not as_is.losses.to_plenum:
        return []
    speeds, was = drops_over_speed(as_is)
    now = was if thought is as_is else drops_over_speed(thought)[1]
    every = max(1, len(speeds) // CURVE_POINTS)
    kept = sorted({*range(0, len(speeds), every), len(speeds) - 1})
    return [CurvePoint(speeds[n], _in_kpa(was[n]), _in_kpa(now[n])) for n in kept]


def _passed(path: SolvedPath) -> int | None:
    """The first speed, to the nearest 100, at which the drop to the plenum passes the shop's limit."""
    if path.losses is None:
        return None
    limit = path.settings.plenum_drop_kpa * 1000
    passed = (speed for speed, drop in zip(*drops_over_speed(path), strict=True) if drop is None or drop > limit)
    first = next(passed, None)
    return None if first is None else round(first, -2)


def _port_view(path: SolvedPath, preset: units.Preset) -> PortView | None:
    port = path.port
    if port is None:
        return None
    return PortView(
        port.cylinder,
        units.show(port.series, "flow", preset),
        units.show(port.low, "flow", preset) if port.low is not None else None,
        units.show(port.high, "flow", preset),
        units.show(port.carried, "flow", preset),
        units.show(port.weakest, "flow", preset),
        path.routes.elements[port.weakest_place].label,
    )


def _kpa(pascal: float | None) -> units.Shown | None:
    return units.show(pascal, "pressure", "trade") if pascal is not None and isfinite(pascal) else None


def _in_kpa(pascal: float | None) -> float | None:
    return None if pascal is None else pascal / 1000


def _percent(fraction: float | None) -> float | None:
    return None if fraction is None or not isfinite(fraction) else 100 * fraction
