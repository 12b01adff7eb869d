"""Calculations on what is fitted: bolts, threads, rings, the order of a flange, clearance that is short."""

from pydantic import Field

from elvarn.core.errors import Inconsistent, NotEnoughData
from elvarn.core.fit import bolt, relief, seal, tightening
from elvarn.core.fit.thread import thread_of, thread_percent
from elvarn.service.calc.fields import Fields, texts


class BoltLengthIn(Fields):
    thread: str = Field(default="M8", description="M6, M8x1, 1/4-20")
    into: bolt.Into = bolt.Into.CAST_ALUMINIUM
    stack_mm: float = Field(description="all that it clamps, without washers")
    washers_mm: float = 0.0
    depth_mm: float | None = Field(default=None, description="of the threaded hole; none where it goes through")
    length_mm: float | None = Field(default=None, description="of one at hand, under its head")


class BoltLengthOut(Fields):
    lengths_mm: list[float] = Field(description="standard ones that hold, the shortest first")
    engaged_mm: list[float] = Field(description="thread that each has in its hole")
    wanted_mm: float = Field(description="engagement at least")
    findings: list[str] = Field(description="what speaks against the one at hand")


def bolt_length(given: BoltLengthIn) -> BoltLengthOut:
    joint = bolt.Joint(
        thread_of(given.thread), given.into, given.stack_mm / 1000, given.washers_mm / 1000,
        given.depth_mm / 1000 if given.depth_mm is not None else None,
    )  # fmt: skip
    fits = bolt.lengths_that_fit(joint)
    at_hand = bolt.hold_of(joint, given.length_mm / 1000).findings if given.length_mm is not None else ()
    return BoltLengthOut(
        lengths_mm=[1000 * one.length for one in fits],
        engaged_mm=[1000 * one.engaged for one in fits],
        wanted_mm=1000 * joint.wanted,
        findings=texts(at_hand),
    )


class BoltTorqueIn(Fields):
    thread: str = Field(default="M8", description="M6, M8x1, 1/4-20")
    bolt_class: bolt.BoltClass = bolt.BoltClass.C8_8
    lubrication: bolt.Lubrication = bolt.Lubrication.OILED
    into: bolt.Into = bolt.Into.CAST_ALUMINIUM
    engaged_mm: float = Field(description="thread in its hole")
    torque_n_m: float | None = Field(default=None, description="one that is given, to be held against it")


class BoltTorqueOut(Fields):
    low_n_m: float = Field(description="computed, over the nut factor's range: a maker's figure goes before it")
    torque_n_m: float
    high_n_m: float
    preload_kn: float = Field(description="±30 %")
    of_proof_percent: float
    strips_at_n_m: float
    thread_limits: bool = Field(description="whether the thread in the part is what limits it")
    findings: list[str]


def bolt_torque(given: BoltTorqueIn) -> BoltTorqueOut:
    at = thread_of(given.thread), given.bolt_class, given.lubrication, given.engaged_mm / 1000, given.into
    found = bolt.tightness(*at)
    said = bolt.torque_findings(given.torque_n_m, *at) if given.torque_n_m is not None else []
    pasted = given.bolt_class in bolt.SEIZE and given.lubrication is not bolt.Lubrication.MOLY
    seizes = [f"{given.bolt_class} seizes in its thread: paste on it."] if pasted else []
    return BoltTorqueOut(
        low_n_m=found.low,
        torque_n_m=found.usual,
        high_n_m=found.high,
        preload_kn=found.preload / 1000,
        of_proof_percent=100 * found.of_proof,
        strips_at_n_m=found.strips_at,
        thread_limits=found.stripped,
        findings=[*texts(said), *seizes],
    )


class TapDrillIn(Fields):
    thread: str = Field(default="M6", description="M6, M8x1, 1/4-20")
    drill_mm: float | None = Field(default=None, description="one at hand")


class TapDrillOut(Fields):
    drill_mm: float
    stress_area_mm2: float
    thread_percent: float = Field(description="of full thread, with the drill at hand or the usual one")


def tap_drill(given: TapDrillIn) -> TapDrillOut:
    thread = thread_of(given.thread)
    drill = given.drill_mm / 1000 if given.drill_mm is not None else thread.tap_drill
    return TapDrillOut(
        drill_mm=1000 * thread.tap_drill,
        stress_area_mm2=1e6 * thread.stress_area,
        thread_percent=100 * thread_percent(thread, drill),
    )


class ORingIn(Fields):
    section_mm: float
    depth_mm: float = Field(description="of the gland, closed")
    width_mm: float = Field(description="of the gland")
    inside_mm: float | None = Field(default=None, description="of the ring")
    gland_mm: float | None = Field(default=None, description="what it sits on")
    face: bool = Field(default=True, description="it seals on a face; else round a bore")


class ORingOut(Fields):
    squeeze_percent: float
    fill_percent: float
    stretch_percent: float | None
    findings: list[str]


def o_ring(given: ORingIn) -> ORingOut:
    section, depth = given.section_mm / 1000, given.depth_mm / 1000
    squeezed, filled = seal.squeeze(section, depth), seal.fill(section, depth, given.width_mm / 1000)
    sits = given.inside_mm is not None and given.gland_mm is not None
    stretched = seal.stretch(given.inside_mm or 0.0, given.gland_mm or 0.0) if sits else None
    return ORingOut(
        squeeze_percent=100 * squeezed,
        fill_percent=100 * filled,
        stretch_percent=100 * stretched if stretched is not None else None,
        findings=texts(seal.seal_findings(squeezed, filled, stretched, face=given.face)),
    )


class TighteningIn(Fields):
    x_mm: list[float] = Field(description="of each bolt")
    y_mm: list[float]
    torque_n_m: float


class TighteningOut(Fields):
    order: list[int] = Field(description="bolts, counted from 1 as they were given")
    steps_n_m: list[float] = Field(description="torque of each round; 0 is by hand")
    neighbours_in_a_row: int = Field(description="times that could not be avoided")


def tightening_order(given: TighteningIn) -> TighteningOut:
    if len(given.x_mm) != len(given.y_mm):
        text = f"{len(given.x_mm)} x and {len(given.y_mm)} y."
        raise Inconsistent("y_mm", text, "Give each bolt both.")
    places = [(x / 1000, y / 1000) for x, y in zip(given.x_mm, given.y_mm, strict=True)]
    found = tightening.tightening_order(places)
    return TighteningOut(
        order=[n + 1 for n in found.bolts],
        steps_n_m=[part * given.torque_n_m for part in tightening.STEPS],
        neighbours_in_a_row=found.in_a_row,
    )


class ReliefIn(Fields):
    short_mm: float = Field(description="what the clearance lacks")
    walls_mm: list[float] = Field(description="of each part that meets there")
    least_mm: list[float] = Field(description="what has to stay of each")


class ReliefOut(Fields):
    depths_mm: list[float] = Field(description="what comes off each")


def shared_relief(given: ReliefIn) -> ReliefOut:
    if not given.walls_mm or len(given.walls_mm) != len(given.least_mm):
        raise NotEnoughData("least_mm", "Each wall takes what has to stay of it.", "Give as many of both.")
    sides = [
        relief.Side(f"part {n}", wall / 1000, least / 1000)
        for n, (wall, least) in enumerate(zip(given.walls_mm, given.least_mm, strict=True), start=1)
    ]
    return ReliefOut(depths_mm=[1000 * depth for depth in relief.shared_relief(given.short_mm / 1000, sides)])
