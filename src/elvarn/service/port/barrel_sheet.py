"""The sheet of throttles and adapters: the bore along its depth, what holds the air back, and how far a cut may go."""

from dataclasses import dataclass
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.finding import Grade
from elvarn.core.port.bore_map import Barrel, Change, Worth, out_of_round, seals_at, seat_of_barrel, wanted_bores
from elvarn.service.job.cautions import CAUTIONS
from elvarn.service.job.dimensions import DIMENSION_QUANTITIES
from elvarn.service.kernel.sentences import Sentence
from elvarn.service.port.barrel_words import barrel_margin, headline, limit_of, title_of
from elvarn.service.port.barrels import Bored, Depth, bored_parts, hours_of
from elvarn.service.port.grid import showable_of
from elvarn.service.record.job import load_job

OF_ALL = {
    "entry_radius": "Entry radius, 0.1 for a sharp edge",
    "land_in": "Land at the entry, bore to groove",
    "land_out": "Land at the outlet, bore to groove",
    "groove_width": "Groove's width",
    "groove_depth": "Groove's depth",
}
OF_A_PLATE = {
    "shaft": "Shaft",
    "plate": "Blade, thickness",
    "plate_at": "Shaft's depth, its middle from the entry face",
    "wide_open_angle": "Blade wide open, from square across",
    "closed_angle": "Blade closed, from square across",
}


@dataclass(frozen=True)
class BoredPart:
    """A throttle or adapter that can be chosen, at its latest state."""

    part_id: UUID
    name: str
    kind: str
    state_id: UUID
    state: str
    in_work: bool


@dataclass(frozen=True)
class GaugeView:
    """A diameter as it was gauged at an hour of the clock; `old` where it is of a state before this one."""

    id: UUID
    hour: float
    mm: units.Shown
    typed: str
    old: bool
    marks: list[str]


@dataclass(frozen=True)
class DepthView:
    """A depth of a barrel [mm from the entry face]: its mean bore at first and now, how far it is out of round, what it
    should have at least, and whether the blade seals there."""

    place_mm: float
    before: units.Shown
    bore: units.Shown
    bore_mm: float
    out_of_round: units.Shown | None
    wanted: units.Shown | None
    seals: bool
    gauges: list[GaugeView]


@dataclass(frozen=True)
class BarrelView:
    """A barrel with its depths; `narrowest` is the index of its narrowest, `seat_mm` from where to where its blade
    seals."""

    number: int
    depths: list[DepthView]
    narrowest: int
    seat_mm: list[float]


@dataclass(frozen=True)
class DetailView:
    """One size of the part as it counts: empty where nobody measured it."""

    quantity: str
    label: str
    unit: str
    text: str
    value: float | None
    typed: str
    id: UUID | None
    old: bool
    marks: list[str]


@dataclass(frozen=True)
class ChangeView:
    """What can be done, from which size to which, what it gains and what ends it."""

    change: str
    title: str
    was: str
    becomes: str
    percent: str
    gain: str
    half: str
    share: float
    ends: str


@dataclass(frozen=True)
class BarrelSheet:
    """Throttles and adapters of a job, and the one that is looked at; `part_id` is None where there is none."""

    parts: list[BoredPart]
    part_id: UUID | None
    has_plate: bool
    headline: str
    go: bool
    hours: list[float]
    leading: int
    barrels: list[BarrelView]
    details: list[DetailView]
    open_percent: int | None
    flow: units.Shown | None
    measured: bool
    changes: list[ChangeView]
    margin: list[Sentence]
    cautions: list[str]


def barrel_sheet(session: Session, job_id: UUID, part_id: UUID | None, preset: units.Preset) -> BarrelSheet:
    """The sheet of one of a job's throttles and adapters, the first where none is named."""
    found = bored_parts(load_job(session, job_id))
    parts = [_part(one) for one in found]
    bored = next((one for one in found if one.part.id == part_id), found[0] if found else None)
    if bored is None:
        return BarrelSheet([], None, False, "", False, [], 1, [], [], None, None, False, [], [], CAUTIONS["port"])
    barrel = bored.barrel(bored.leading)
    flow, grade = bored.flow
    showable = _showable(session, bored, flow)
    words, go = headline(bored, showable)
    every = [depth for n in range(1, bored.count + 1) for depth in bored.depths(n)]
    return BarrelSheet(
        parts=parts,
        part_id=bored.part.id,
        has_plate=bored.has_plate,
        headline=words,
        go=go,
        hours=hours_of(every),
        leading=bored.leading,
        barrels=[_barrel(bored, n, preset) for n in range(1, bored.count + 1)],
        details=_details(bored, preset),
        open_percent=round(100 * barrel.open_fraction) if barrel and barrel.shaft is not None else None,
        flow=units.show(flow, "flow", preset) if flow is not None else None,
        measured=grade is Grade.MEASURED,
        changes=[_change(worth, bored, flow, bored.worths[0].gain, preset) for worth in bored.worths],
        margin=barrel_margin(bored, showable, preset),
        cautions=CAUTIONS["port"],
    )


def _showable(session: Session, bored: Bored, flow: float | None) -> float | None:
    return showable_of(session, bored.facts.readings(bored.kind, None), flow)


def _part(bored: Bored) -> BoredPart:
    state = bored.state
    return BoredPart(bored.part.id, bored.part.name, bored.kind, state.id, state.label, state.in_work)


def _barrel(bored: Bored, number: int, preset: units.Preset) -> BarrelView:
    depths, barrel = bored.depths(number), bored.barrel(number)
    if barrel is None or not depths:
        return BarrelView(number, [], -1, [])
    wanted = wanted_bores(barrel)
    views = [_depth(bored, barrel, one, want, preset) for one, want in zip(depths, wanted, strict=True)]
    seat = [round(1000 * end, 2) for end in seat_of_barrel(barrel) or ()] if bored.has_plate else []
    return BarrelView(number, views, min(range(len(depths)), key=lambda n: depths[n].mean), seat)


def _depth(bored: Bored, barrel: Barrel, depth: Depth, wanted: float, preset: units.Preset) -> DepthView:
    return DepthView(
        round(1000 * depth.place, 2),
        _bore(depth.before, preset),
        _bore(depth.mean, preset),
        round(1000 * depth.mean, 3),
        _bore(out_of_round(depth.diameters), preset) if len(depth.rows) > 1 else None,
        _bore(wanted, preset) if wanted > depth.mean + 5e-5 else None,
        bored.has_plate and seals_at(barrel, depth.place),
        [
            GaugeView(row.id, row.hour or 12.0, _bore(row.value_si, preset), _typed(row.figure, row.unit),
                      row.part_state_id != bored.state.id, row.marks)
            for row in depth.rows
        ],
    )  # fmt: skip


def _details(bored: Bored, preset: units.Preset) -> list[DetailView]:
    wanted = {**(OF_A_PLATE if bored.has_plate else {}), **OF_ALL}
    return [_detail(bored, quantity, label, preset) for quantity, label in wanted.items()]


def _detail(bored: Bored, quantity: str, label: str, preset: units.Preset) -> DetailView:
    kind, row = DIMENSION_QUANTITIES[quantity], bored.facts.measured(bored.kind, quantity)
    unit = units.PRESETS[preset][kind]
    if row is None:
        return DetailView(quantity, label, unit, "", None, "", None, False, [])
    shown = units.show(row.value_si, kind, preset, 2 if kind == "length" and row.value_si < 0.01 else None)
    old = row.part_state_id != bored.state.id
    return DetailView(
        quantity, label, shown.unit, shown.text, shown.value, _typed(row.figure, row.unit), row.id, old, row.marks
    )


def _change(worth: Worth, bored: Bored, flow: float | None, best: float, preset: units.Preset) -> ChangeView:
    gain = units.show_difference(worth.gain * flow, "flow", preset) if flow is not None else None
    half = units.show(worth.half * flow, "flow", preset) if flow is not None else None
    return ChangeView(
        worth.change,
        title_of(worth, bored),
        _size(worth.change, worth.was),
        _size(worth.change, worth.becomes),
        f"{units.percent_text(worth.gain)} ±{100 * worth.half:.1f} %",
        f"{gain.text} {gain.unit}" if gain else "",
        f"±{half.text}" if half else "",
        worth.gain / best if best else 0.0,
        limit_of(worth, bored),
    )


def _size(change: Change, value: float) -> str:
    return f"{value:g}°" if change is Change.STOP else f"{1000 * value:.1f} mm"


def _bore(value: float, preset: units.Preset) -> units.Shown:
    return units.show(value, "length", preset, 2)


def _typed(figure: float, unit: str) -> str:
    return f"{figure:.6g} {units.LABELS.get(unit, unit)}"
