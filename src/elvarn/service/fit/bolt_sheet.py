"""The sheet of bolt maps: what is next, at which torque, and what the bolts hold."""

from dataclasses import dataclass
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.finding import Grade
from elvarn.core.fit import bolt
from elvarn.core.fit.drive import Drive, drive_findings, tool_size
from elvarn.core.fit.thread import THREADS
from elvarn.service.fit.bolts import joint_of
from elvarn.service.fit.rounds import next_of, rounds_of
from elvarn.service.job.cautions import CAUTIONS
from elvarn.service.kernel.find import find
from elvarn.service.kernel.sentences import Sentence, first_up, from_finding, sentence
from elvarn.store import queries
from elvarn.store.models import BoltMap, Job

FLAGS = {"hold": "length flagged", "torque": "torque flagged"}


@dataclass(frozen=True)
class BoltView:
    """A bolt where it sits, its number in the order, what reaches it, its length where it is another."""

    x_mm: float
    y_mm: float
    number: int
    tool: str
    length_mm: float | None


@dataclass(frozen=True)
class BoltRoundView:
    """A round with its torque, empty by hand; its bolts in order, those that are tight."""

    name: str
    torque: units.Shown | None
    order: list[int]
    ticked: list[int]


@dataclass(frozen=True)
class BoltMapView:
    """The bolts of a flange: what they are in words, the rounds, and which bolt of which round is next; what was typed,
    to be typed anew."""

    id: UUID
    version: int
    name: str
    words: str
    bolts: list[BoltView]
    rounds: list[BoltRoundView]
    round: int | None
    bolt: int | None
    torque: units.Shown
    computed: bool
    typed: dict[str, str]
    forming: bool
    flags: list[str]
    margin: list[Sentence]


@dataclass(frozen=True)
class BoltSheet:
    """The bolt maps of a job, and what a form can choose from."""

    maps: list[BoltMapView]
    threads: list[str]
    classes: list[str]
    lubrications: list[str]
    materials: list[str]
    drives: list[str]
    cautions: list[str]


def bolt_sheet(session: Session, job_id: UUID, preset: units.Preset) -> BoltSheet:
    """The bolt maps of a job."""
    find(session, Job, job_id, "job")
    rows = queries.bolt_maps_of(session, job_id)
    return BoltSheet(
        [_view(row, preset) for row in rows],
        list(THREADS),
        list(bolt.BoltClass),
        list(bolt.Lubrication),
        list(bolt.Into),
        list(Drive),
        CAUTIONS["fit"],
    )


def _view(row: BoltMap, preset: units.Preset) -> BoltMapView:
    rounds = rounds_of(row)
    following = next_of(rounds)
    known = _tightness(row)
    torque = row.torque_nm or known.usual
    crosswise = rounds[0].order
    return BoltMapView(
        id=row.id,
        version=row.version,
        name=row.name,
        words=_words(row),
        bolts=[
            BoltView(one["x_mm"], one["y_mm"], crosswise.index(n) + 1, one["tool"], one["length_mm"])
            for n, one in enumerate(row.places)
        ],
        rounds=[
            BoltRoundView(
                one.name,
                _shown(row, one.part * torque, preset) if one.part else None,
                list(one.order),
                list(one.ticked),
            )
            for one in rounds
        ],
        round=following[0] if following else None,
        bolt=following[1] if following else None,
        torque=_shown(row, torque, preset),
        computed=row.torque_nm is None,
        typed=_typed(row),
        forming=row.forming,
        flags=[FLAGS.get(one, one) for one in row.doubts],
        margin=_margin(row, known, torque, preset),
    )


def _shown(row: BoltMap, torque: float, preset: units.Preset) -> units.Shown:
    """A torque in the unit in which it was given: that is the unit of the wrench."""
    if not row.torque_typed:
        return units.show(torque, "torque", preset)
    unit = units.parse(row.torque_typed, "torque", "N·m").unit
    return units.show_in(units.from_si(torque, unit, "torque"), unit)


def _tightness(row: BoltMap) -> bolt.Tightness:
    joint = joint_of(row)
    engaged = max(joint.engaged(row.length_m), joint.thread.pitch)
    return bolt.tightness(
        joint.thread, bolt.BoltClass(row.bolt_class), bolt.Lubrication(row.lubrication), engaged, joint.into
    )


def _words(row: BoltMap) -> str:
    lengths = sorted({one["length_mm"] or 1000 * row.length_m for one in row.places})
    long = " and ".join(f"{mm:g}" for mm in lengths)
    washers = f", washers {1000 * row.washers_m:g} mm" if row.washers_m else ""
    size = tool_size(row.thread, Drive(row.drive))
    drive = f", {row.drive} {1000 * size:g} mm" if size else f", {row.drive}"
    forming = ", thread-forming" if row.forming else ""
    kind = f"class {row.bolt_class}{forming}, {row.lubrication}{washers}{drive}"
    return f"{len(row.places)} {row.thread} × {long} mm, {kind}"


def _typed(row: BoltMap) -> dict[str, str]:
    depth = "" if row.depth_m is None else f"{1000 * row.depth_m:g}"
    return {
        "name": row.name, "thread": row.thread, "bolt_class": row.bolt_class, "lubrication": row.lubrication,
        "drive": row.drive,
        "into": row.into, "stack_mm": f"{1000 * row.stack_m:g}", "washers_mm": f"{1000 * row.washers_m:g}",
        "depth_mm": depth, "length_mm": f"{1000 * row.length_m:g}", "torque": row.torque_typed,
        "torque_source": row.torque_source,
    }  # fmt: skip


def _margin(row: BoltMap, known: bolt.Tightness, torque: float, preset: units.Preset) -> list[Sentence]:
    joint = joint_of(row)
    held = bolt.hold_of(joint, row.length_m)
    low, high = (_shown(row, one, preset) for one in (known.low, known.high))
    span = f"{low.text} to {high.text} {low.unit}"
    kind = f"{row.thread} {row.bolt_class} {row.lubrication}"
    shown = _shown(row, torque, preset)
    found = [sentence(one.text, Grade.COMPUTED, "harm") for one in held.findings]
    if row.torque_nm is None:
        text = f"No maker's torque is noted: [{shown.text} {shown.unit}](torque) is computed, {span} for {kind}."
        found.append(sentence(text, Grade.ESTIMATED, "doubt", "", "A maker's figure goes before it."))
    else:
        who = f"is {row.torque_source}'s" if row.torque_source else "was given, by whom is not noted"
        text = f"[{shown.text} {shown.unit}](torque) {who}; computed for {kind}: {span}."
        found.append(sentence(text, Grade.RULE if row.torque_source else Grade.ESTIMATED))
    factor = bolt.NUT_FACTOR[bolt.Lubrication(row.lubrication)][1]
    proof = bolt.proof_load(joint.thread, bolt.BoltClass(row.bolt_class))
    part = bolt.preload_at(torque, joint.thread, factor) / proof
    found.append(sentence(f"That pulls to about {100 * part:.0f} % of proof, ±30 %.", Grade.ESTIMATED))
    strips = _shown(row, known.strips_at, preset)
    times = held.engaged / joint.thread.diameter
    text = f"{1000 * held.engaged:.0f} mm of thread in {joint.into}, {times:.1f} times the bolt:"
    tone = known.strips_at / torque
    reason = f"it strips at about {strips.text} {strips.unit}, {tone:.1f} times that torque."
    if tone < bolt.SAFETY:
        found.append(sentence(text, Grade.ESTIMATED, "doubt", reason, "Stay below, or put an insert in."))
    else:
        found.append(sentence(text, Grade.ESTIMATED, "plain", reason))
    if row.forming:
        text = "Thread-forming: it cuts its thread once. Start it by hand, back until it drops into the old one."
        found.append(sentence(text, Grade.RULE, "doubt"))
    tools = [one["tool"] for one in row.places]
    found += [from_finding(one) for one in drive_findings(torque, row.thread, Drive(row.drive), tools)]
    if row.bolt_class in bolt.SEIZE and row.lubrication != bolt.Lubrication.MOLY:
        found.append(sentence(f"{first_up(row.bolt_class)} seizes in its thread: paste on it.", Grade.RULE, "doubt"))
    return found
