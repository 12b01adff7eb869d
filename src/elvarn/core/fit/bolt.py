"""A bolt in its hole: which length holds, how tight it may be, and what gives first."""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from math import pi, sqrt

from elvarn.core.errors import OutOfRange, require_positive
from elvarn.core.finding import Finding
from elvarn.core.fit.thread import Thread


class BoltClass(StrEnum):
    """What a bolt is made of: the class on its head."""

    C4_8 = "4.8"
    C8_8 = "8.8"
    C9_8 = "9.8"
    C10_9 = "10.9"
    C12_9 = "12.9"
    A2_70 = "A2-70"
    A4_80 = "A4-80"
    TITANIUM = "Ti-6Al-4V"


# Stress under proof load [Pa], up to 16 mm. Steel: ISO 898-1 (2013), from memory; stainless: 0.2 % proof stress, ISO
# 3506-1, from memory; titanium: least yield of annealed bar, AMS 4928, from memory.
PROOF_STRESS = {
    BoltClass.C4_8: 310e6, BoltClass.C8_8: 580e6, BoltClass.C9_8: 650e6, BoltClass.C10_9: 830e6, BoltClass.C12_9: 970e6,
    BoltClass.A2_70: 450e6, BoltClass.A4_80: 600e6, BoltClass.TITANIUM: 828e6,
}  # fmt: skip
# Proof loads [N] as ISO 898-1 prints them for coarse threads, from memory; they are rounded there.
PRINTED = {
    BoltClass.C8_8: {"M4": 5100, "M5": 8230, "M6": 11600, "M7": 16800, "M8": 21200, "M10": 33700, "M12": 48900},
    BoltClass.C10_9: {"M4": 7290, "M5": 11800, "M6": 16700, "M7": 24000, "M8": 30400, "M10": 48100, "M12": 70000},
}
SEIZE = (BoltClass.A2_70, BoltClass.A4_80, BoltClass.TITANIUM)  # in their thread without a paste; common practice


class Lubrication(StrEnum):
    """What is on the thread."""

    DRY = "dry"
    OILED = "oiled"
    MOLY = "moly paste"


# Nut factor: low, usual, high; Shigley, Bickford, from memory.
NUT_FACTOR = {
    Lubrication.DRY: (0.18, 0.20, 0.22),
    Lubrication.OILED: (0.15, 0.165, 0.18),
    Lubrication.MOLY: (0.12, 0.13, 0.14),
}
SCATTER = 0.30  # of the preload at a given torque; Shigley, Bickford
USUAL_LOAD = 0.75  # of proof, for a joint that is opened again; Shigley, Bickford
SAFETY = 1.5  # against stripping; common practice, no source
FEWEST_THREADS = 5  # engaged into metal; common practice, no source


class Into(StrEnum):
    """What the thread is cut into."""

    CAST_ALUMINIUM = "cast aluminium, heat-treated"
    SOFT_ALUMINIUM = "cast aluminium, as cast"
    WROUGHT_ALUMINIUM = "wrought aluminium"
    INSERT = "steel insert in aluminium"
    IRON = "cast iron"
    STEEL = "steel"
    PLASTIC_INSERT = "brass insert in plastic"


# Shear strength [Pa] and the engagement that is usual at least, in diameters; common practice, no source.
SHEAR = {
    Into.CAST_ALUMINIUM: (130e6, 1.5), Into.SOFT_ALUMINIUM: (95e6, 2.0), Into.WROUGHT_ALUMINIUM: (165e6, 1.5),
    Into.INSERT: (200e6, 1.0), Into.IRON: (180e6, 1.2), Into.STEEL: (250e6, 1.0), Into.PLASTIC_INSERT: (60e6, 1.0),
}  # fmt: skip

# Lengths that are made [m]: ISO 888.
LENGTHS = tuple(
    mm / 1000 for mm in (10, 12, 16, 20, 25, 30, 35, 40, 45, 50, 55, 60, 65, 70, 80, 90, 100, 110, 120, 130, 140, 150)
)


@dataclass(frozen=True)
class Joint:
    """What a bolt goes through and into, in m: the stack that it clamps, its washers together, the depth of the
    threaded hole, None where it goes through; the thread, and what that is cut into."""

    thread: Thread
    into: Into
    stack: float
    washers: float = 0.0
    depth: float | None = None

    def __post_init__(self) -> None:
        require_positive(stack=self.stack)
        if self.washers < 0 or (self.depth is not None and self.depth <= 0):
            raise OutOfRange("depth", "Washers and hole can't be below nothing.", "Check both.")

    def engaged(self, length: float) -> float:
        """Thread that a bolt of a length [m] has in its hole [m], no more than the hole is deep."""
        reach = max(length - self.stack - self.washers, 0.0)
        return reach if self.depth is None else min(reach, self.depth)

    def spare(self, length: float) -> float | None:
        """Room below a bolt [m], below zero where it bottoms; None for a hole that goes through."""
        return None if self.depth is None else self.depth - (length - self.stack - self.washers)

    @property
    def wanted(self) -> float:
        """Engagement that is wanted at least [m]."""
        return max(SHEAR[self.into][1] * self.thread.diameter, FEWEST_THREADS * self.thread.pitch)


@dataclass(frozen=True)
class Hold:
    """What a bolt of a length holds: thread engaged [m], turns of it [-], room below it [m] or None, and what speaks
    against it."""

    length: float
    engaged: float
    turns: float
    spare: float | None
    findings: tuple[Finding, ...]

    @property
    def fits(self) -> bool:
        return not self.findings


def hold_of(joint: Joint, length: float) -> Hold:
    """What a bolt of a length holds in a joint.

    Arguments: joint; length [m]: under its head.
    Returns: hold; it fits where it neither bottoms nor engages too little.
    Raises: OutOfRange for a length not above zero.
    Source: geometry; least engagement: common practice, no source.
    """
    require_positive(length=length)
    engaged, spare = joint.engaged(length), joint.spare(length)
    turns, pitch = engaged / joint.thread.pitch, joint.thread.pitch
    found = []
    if spare is not None and spare < pitch:
        how = f"bottoms by {-1000 * spare:.1f} mm" if spare < 0 else f"has {1000 * spare:.1f} mm below it"
        found.append(Finding("bottoms", f"At {1000 * length:g} mm it {how}: one pitch is the least.", doubt=True))
    if turns < FEWEST_THREADS:
        found.append(
            Finding("few_threads", f"At {1000 * length:g} mm it holds by {turns:.1f} threads, too few.", doubt=True)
        )
    elif engaged < joint.wanted - 1e-9:
        text = f"At {1000 * length:g} mm it engages {1000 * engaged:.1f} mm; {joint.into} wants "
        found.append(Finding("short", f"{text}{1000 * joint.wanted:.1f} mm.", doubt=True))
    return Hold(length, engaged, turns, spare, tuple(found))


def lengths_that_fit(joint: Joint) -> list[Hold]:
    """Standard lengths that hold in a joint, the shortest first.

    Arguments: joint.
    Returns: holds, shape (lengths,); none where the hole is too shallow for what its material wants. Through a hole
    that is open no more than two diameters stand out.
    Raises: nothing.
    Source: ISO 888 for the lengths; common practice, no source.
    """
    most = joint.stack + joint.washers + joint.wanted + 2 * joint.thread.diameter
    holds = [hold_of(joint, length) for length in LENGTHS]
    return [one for one in holds if one.fits and (joint.depth is not None or one.length <= most)]


def proof_load(thread: Thread, bolt_class: BoltClass) -> float:
    """Load that a bolt takes without staying longer.

    Arguments: thread; bolt_class.
    Returns: load [N].
    Raises: nothing.
    Source: ISO 898-1 as printed; else ISO 898-1, ISO 3506-1, AMS 4928, from memory: stress under proof load times the
    stress area.
    """
    printed = PRINTED.get(bolt_class, {}).get(thread.name)
    return float(printed) if printed else PROOF_STRESS[bolt_class] * thread.stress_area


def strip_load(thread: Thread, engaged: float, into: Into) -> float:
    """Load at which the thread in the part shears.

    Arguments: thread; engaged [m], scalar; into.
    Returns: load [N]; a real thread holds about 10 % less.
    Raises: OutOfRange for an engagement not above zero.
    Source: derivation: 0.875 π d L times the shear strength; common practice, no source, for the strengths.
    """
    require_positive(engaged=engaged)
    return SHEAR[into][0] * 0.875 * pi * thread.diameter * engaged


def torque_for(load: float, thread: Thread, nut_factor: float) -> float:
    """Torque that gives a preload.

    Arguments: load [N], thread, nut_factor [-]; scalars.
    Returns: torque [N·m].
    Raises: OutOfRange for values not above zero.
    Source: definition, T = K d F (Shigley, Bickford).
    """
    require_positive(load=load, nut_factor=nut_factor)
    return nut_factor * thread.diameter * load


def preload_at(torque: float, thread: Thread, nut_factor: float) -> float:
    """Preload that a torque gives, ±30 %.

    Arguments: torque [N·m], thread, nut_factor [-]; scalars.
    Returns: load [N].
    Raises: OutOfRange for values not above zero.
    Source: as `torque_for`.
    """
    require_positive(torque=torque, nut_factor=nut_factor)
    return torque / (nut_factor * thread.diameter)


def torque_by_friction(load: float, thread: Thread, friction: float, head: float) -> float:
    """Torque that gives a preload, by friction in thread and under the head apart.

    Arguments: load [N], thread, friction [-] of both, head [m]: mean diameter of what its head rubs on; scalars.
    Returns: torque [N·m].
    Raises: OutOfRange for values not above zero.
    Source: VDI 2230, from memory: F (0.159 P + 0.577 d2 µ + D µ/2).
    """
    require_positive(load=load, friction=friction, head=head)
    in_thread = 0.159 * thread.pitch + 0.577 * thread.pitch_diameter * friction
    return load * (in_thread + head * friction / 2)


def assembly_preload(thread: Thread, yield_stress: float, friction: float, used: float = 0.9) -> float:
    """Preload at which pull and twist together use so much of a bolt's yield.

    Arguments: thread; yield_stress [Pa]; friction [-] in the thread; used [-]; scalars.
    Returns: load [N].
    Raises: OutOfRange for values not above zero.
    Source: VDI 2230, from memory.
    """
    require_positive(yield_stress=yield_stress, friction=friction, used=used)
    carries = (thread.pitch_diameter + thread.root_diameter) / 2
    lead = thread.pitch / (pi * thread.pitch_diameter) + 1.155 * friction
    twist = 1.5 * thread.pitch_diameter / carries * lead
    return used * yield_stress / sqrt(1 + 3 * twist**2) * thread.stress_area


@dataclass(frozen=True)
class Tightness:
    """How tight a bolt may be: torque low, usual and high [N·m] over the nut factor's range, its preload [N], what part
    of proof that is [-], and at which torque the thread strips [N·m]; `stripped` where that is what limits it."""

    low: float
    usual: float
    high: float
    preload: float
    of_proof: float
    strips_at: float
    stripped: bool


def tightness(thread: Thread, bolt_class: BoltClass, lubrication: Lubrication, engaged: float, into: Into) -> Tightness:
    """How tight a bolt may be where no maker says: three quarters of proof, or what its thread holds with 1.5 in hand.

    Arguments: thread; bolt_class; lubrication; engaged [m], scalar; into.
    Returns: tightness, computed: a maker's figure goes before it.
    Raises: OutOfRange for an engagement not above zero.
    Source: `proof_load`, `strip_load`, `torque_for`; three quarters of proof: Shigley, Bickford.
    """
    proof, strips = proof_load(thread, bolt_class), strip_load(thread, engaged, into)
    load = min(USUAL_LOAD * proof, strips / SAFETY)
    low, usual, high = (torque_for(load, thread, factor) for factor in NUT_FACTOR[lubrication])
    return Tightness(
        low, usual, high, load, load / proof, torque_for(strips, thread, NUT_FACTOR[lubrication][1]),
        strips / SAFETY < USUAL_LOAD * proof,
    )  # fmt: skip


def torque_findings(
    torque: float, thread: Thread, bolt_class: BoltClass, lubrication: Lubrication, engaged: float, into: Into
) -> list[Finding]:
    """What speaks against a torque.

    Arguments: torque [N·m], engaged [m]; scalars; thread; bolt_class; lubrication; into.
    Returns: findings: above what strips the thread (lbf·in read as N·m first), above proof, or hardly tight.
    Raises: OutOfRange for values not above zero.
    Source: `tightness`.
    """
    require_positive(torque=torque)
    known = tightness(thread, bolt_class, lubrication, engaged, into)
    factor = NUT_FACTOR[lubrication][1]
    proof = proof_load(thread, bolt_class)
    load = preload_at(torque, thread, factor)
    if torque > known.strips_at:
        text = f"{torque:.3g} N·m strips the thread: it shears at about {known.strips_at:.0f} N·m."
        meant = torque * LBF_IN
        if known.low / 2 <= meant <= known.strips_at / SAFETY:
            text += f" {torque:.3g} lbf·in would be {meant:.1f} N·m."
        return [Finding("strips", text, doubt=True)]
    if load > proof:
        text = f"{torque:.3g} N·m stretches a {bolt_class} {thread.name} for good."
        return [Finding("above_proof", text, doubt=True)]
    if load < 0.3 * known.preload:
        return [Finding("loose", f"{torque:.3g} N·m gives only {100 * load / proof:.0f} % of proof.", doubt=True)]
    return []


LBF_IN = 0.1129848290276167  # N·m in one lbf·in, exact


def clamped(loads: Sequence[float], area: float) -> float:
    """Mean pressure on a gasket.

    Arguments: loads [N] of its bolts, shape (bolts,); area [m²] of the gasket, scalar.
    Returns: pressure [Pa].
    Raises: OutOfRange for an area not above zero.
    Source: definition.
    """
    require_positive(area=area)
    return sum(loads) / area
