"""Bolt maps: which bolts hold a flange, where each sits, and which of them are tight in which round."""

from dataclasses import field
from typing import Any
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.errors import CoreError
from elvarn.core.fit.bolt import (
    LBF_IN,
    BoltClass,
    Into,
    Joint,
    Lubrication,
    hold_of,
    lengths_that_fit,
    torque_findings,
)
from elvarn.core.fit.drive import Drive, drive_findings
from elvarn.core.fit.thread import thread_of
from elvarn.core.fit.tightening import tightening_order
from elvarn.given import Moment, given
from elvarn.service.fit.rounds import next_of, rounds_of
from elvarn.service.kernel.errors import Invalid, Offer, Question
from elvarn.service.kernel.find import find
from elvarn.service.kernel.writes import edit, find_for_edit, write_once
from elvarn.store.models import BoltMap, Job
from elvarn.typed import Millimetres

HOLDS, TORQUE, OUT_OF_TURN = "hold", "torque", "out_of_turn"


@given
class BoltPlace:
    """Where a bolt sits on its flange, what reaches it, and its length where that is another than the others'."""

    x_mm: Millimetres
    y_mm: Millimetres
    tool: str = ""
    length_mm: Millimetres | None = None


@given
class BoltMapBody:
    """What may be said of the bolts of a flange; `forming`: they cut their thread themselves. `accepted` are doubts
    under which it is kept."""

    name: str
    thread: str
    stack_mm: Millimetres
    length_mm: Millimetres
    places: list[BoltPlace]
    bolt_class: str = BoltClass.C8_8
    lubrication: str = Lubrication.OILED
    drive: str = Drive.HEX
    forming: bool = False
    into: str = Into.CAST_ALUMINIUM
    washers_mm: Millimetres = 0.0
    depth_mm: Millimetres | None = None
    torque: str = ""
    torque_source: str = ""
    accepted: list[str] = field(default_factory=list)


@given
class NewBoltMap:
    person_id: UUID
    job_id: UUID
    bolts: BoltMapBody


@given
class BoltMapEdit:
    """Said anew, on the version that was seen."""

    version: int
    bolts: BoltMapBody


@given
class Tick:
    """A bolt that is tight in the round that is on, or with `back` the last tick taken back; bolts count from 0."""

    version: int
    person_id: UUID
    at: Moment
    bolt: int = 0
    back: bool = False
    accepted: list[str] = field(default_factory=list)


def add_bolt_map(session: Session, identifier: UUID, new: NewBoltMap) -> BoltMap:
    """Note the bolts of a flange. Raises Invalid for what can't be, Question for what does not hold."""
    find(session, Job, new.job_id, "job")
    said = _checked(new.bolts)

    def make(digest: str) -> BoltMap:
        return BoltMap(id=identifier, content_digest=digest, person_id=new.person_id, job_id=new.job_id, **said)

    return write_once(session, BoltMap, identifier, new, make)


def edit_bolt_map(session: Session, identifier: UUID, change: BoltMapEdit) -> BoltMap:
    """Say it anew; bolts that were tightened stay where they are. Raises as `add_bolt_map`, Stale where somebody else
    did so meanwhile."""
    row = find_for_edit(session, BoltMap, identifier, "bolt map")
    said = _checked(change.bolts)
    moved = [(p["x_mm"], p["y_mm"]) for p in said["places"]] != [(p["x_mm"], p["y_mm"]) for p in row.places]
    if row.ticks and moved:
        stand = "1 tick stands" if len(row.ticks) == 1 else f"{len(row.ticks)} ticks stand"
        text = f"{stand} on these bolts. Take them back first, or map the flange anew."
        raise Invalid(text, path="bolts.places")
    edit(row, change.version, said, "bolt map")
    session.flush()
    return row


def tick(session: Session, identifier: UUID, ticked: Tick) -> BoltMap:
    """Say that a bolt is tight in the round that is on, or take the last one back. Raises Question for a bolt that is
    not the next."""
    row = find_for_edit(session, BoltMap, identifier, "bolt map")
    if ticked.back:
        edit(row, ticked.version, {"ticks": row.ticks[:-1]}, "bolt map")
        session.flush()
        return row
    rounds = rounds_of(row)
    following = next_of(rounds)
    if following is None:
        raise Invalid("Every round is done.", path="bolt")
    number, bolt = following
    if not 0 <= ticked.bolt < len(row.places) or ticked.bolt in rounds[number].ticked:
        raise Invalid(f"Bolt {ticked.bolt + 1} is not open in this round.", path="bolt")
    if ticked.bolt != bolt and OUT_OF_TURN not in ticked.accepted:
        order = rounds[number].order
        offers = [
            Offer(f"Number {order.index(bolt) + 1} is tight", {"bolt": bolt}),
            Offer(f"Number {order.index(ticked.bolt) + 1} all the same", {"accepted": [*ticked.accepted, OUT_OF_TURN]}),
        ]
        text = f"Number {order.index(bolt) + 1} is next: out of turn the flange is pulled askew."
        raise Question(OUT_OF_TURN, text, offers, path="bolt")
    one = {"round": number, "bolt": ticked.bolt, "by": str(ticked.person_id), "at": ticked.at.isoformat()}
    edit(row, ticked.version, {"ticks": [*row.ticks, one]}, "bolt map")
    session.flush()
    return row


def joint_of(row: BoltMap) -> Joint:
    """What the bolts of a map go through and into."""
    return Joint(thread_of(row.thread), Into(row.into), row.stack_m, row.washers_m, row.depth_m)


def _checked(said: BoltMapBody) -> dict[str, Any]:
    """The columns of a bolt map. Raises Invalid naming the field, Question for what does not hold."""
    if not said.name.strip():
        raise Invalid("Give the flange its name.", path="bolts.name")
    for value, known, name in (
        (said.bolt_class, BoltClass, "bolt_class"),
        (said.lubrication, Lubrication, "lubrication"),
        (said.into, Into, "into"),
        (said.drive, Drive, "drive"),
    ):  # fmt: skip
        if value not in list(known):
            raise Invalid(f"'{value}' is not known: {', '.join(known)}.", path=f"bolts.{name}")
    try:
        thread = thread_of(said.thread)
        depth = said.depth_mm / 1000 if said.depth_mm is not None else None
        joint = Joint(thread, Into(said.into), said.stack_mm / 1000, said.washers_mm / 1000, depth)
        tightening_order([(p.x_mm / 1000, p.y_mm / 1000) for p in said.places])
        held = hold_of(joint, said.length_mm / 1000)
    except CoreError as error:
        sizes = ("stack", "depth", "length")
        place = f"{error.quantity}_mm" if error.quantity in sizes else error.quantity
        raise Invalid(str(error), path=f"bolts.{place}") from error
    doubts = _doubt_length(said, joint)
    torque = units.parse(said.torque, "torque", "N·m").si if said.torque.strip() else None
    if torque is not None:
        doubts += _doubt_torque(said, joint, held.engaged, torque)
    return {
        "name": said.name.strip(),
        "thread": thread.name,
        "bolt_class": said.bolt_class,
        "lubrication": said.lubrication,
        "drive": said.drive,
        "forming": said.forming,
        "into": said.into,
        "stack_m": said.stack_mm / 1000,
        "washers_m": said.washers_mm / 1000,
        "depth_m": depth,
        "length_m": said.length_mm / 1000,
        "torque_nm": torque,
        "torque_typed": said.torque.strip(),
        "torque_source": said.torque_source.strip(),
        "places": [
            {"x_mm": float(p.x_mm), "y_mm": float(p.y_mm), "tool": p.tool.strip(),
             "length_mm": float(p.length_mm) if p.length_mm is not None else None}
            for p in said.places
        ],
        "doubts": doubts,
    }  # fmt: skip


def _doubt_length(said: BoltMapBody, joint: Joint) -> list[str]:
    """Bolts that bottom or hold by too little are asked about, each length of them."""
    lengths = {float(p.length_mm) for p in said.places if p.length_mm is not None} | {float(said.length_mm)}
    wrong = [one for mm in sorted(lengths) if not (one := hold_of(joint, mm / 1000)).fits]
    if not wrong:
        return []
    if HOLDS not in said.accepted:
        fits = [f"{1000 * one.length:g} mm" for one in lengths_that_fit(joint)]
        offers = [Offer(f"Use {mm}", {"length_mm": mm}) for mm in fits[:3]]
        keep = Offer("Save it anyway, flagged", {"accepted": [*said.accepted, HOLDS]})
        raise Question(HOLDS, wrong[0].findings[0].text, [*offers, keep], path="bolts.length_mm")
    return [HOLDS]


def _doubt_torque(said: BoltMapBody, joint: Joint, engaged: float, torque: float) -> list[str]:
    at = joint.thread, BoltClass(said.bolt_class), Lubrication(said.lubrication), engaged, joint.into
    if torque <= 0:
        raise Invalid(f"A torque of {said.torque} can't be: it must be above 0.", path="bolts.torque")
    if engaged <= 0:
        return []
    found = torque_findings(torque, *at)
    tools = [place.tool for place in said.places]
    found += [one for one in drive_findings(torque, joint.thread.name, Drive(said.drive), tools) if one.doubt]
    if not found:
        return []
    if TORQUE not in said.accepted:
        keep = Offer("Save it anyway, flagged", {"accepted": [*said.accepted, TORQUE]})
        figure = units.split(said.torque, "N·m")[0]
        inches = not torque_findings(figure * LBF_IN, *at)
        offers = [Offer(f"Use {figure:g} lbf·in", {"torque": f"{figure:g} lbf·in"})] if inches else []
        raise Question(TORQUE, found[0].text, [*offers, keep], path="bolts.torque")
    return [TORQUE]
