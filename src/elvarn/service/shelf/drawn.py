"""A part as it is drawn: its dimensions by place, runner by runner where it is a manifold, its flanges face-on, and
what nobody stated."""

from dataclasses import dataclass, replace
from statistics import fmean

from elvarn import units
from elvarn.core.path import features as core
from elvarn.core.path.unchecked import unchecked
from elvarn.service.record.part import PartFacts, counting_runners
from elvarn.service.record.places import features_of
from elvarn.service.record.specs import JointSpec
from elvarn.service.record.stated import at_reference

LOW = 0.02  # under the others by more: it is pointed out; choice, no source
# Everything that an engine and a vehicle may ask: what a part says nothing of is not checked.
DEMANDING = core.Surroundings(
    bonnet_height=1.0, boost=1.0, accessories=("any",), plugs=(core.Plug("any"),), homes=(core.Home("any"),),
    ports=("brake servo",), fuel="any", front_length=1.0, heat=400.0, cylinders=1, head_flange="any", port_pitch=1.0,
)  # fmt: skip
BOLTED = core.Features(inlet=core.Joint(bolt_count=4), outlet=core.Joint(bolt_count=4))
BETWEEN = core.Neighbours(BOLTED, BOLTED, "what is in front", "what is behind")
QUANTITIES = ("bore", "bore_out", "length", "entry_radius")
OF_PLENUM = ("opening", "volume")


@dataclass(frozen=True)
class Callout:
    """A dimension at its place on the drawing: what was measured, what its maker states, both in mm (or litres)."""

    quantity: str
    label: str
    unit: str
    measured: float | None
    advertised: float | None


@dataclass(frozen=True)
class DrawnRunner:
    """A runner: its dimensions in mm, its flow at the reference depression; `low` where it passes clearly less than the
    others do on average, of those that were set up alike."""

    cylinder: int
    bore_mm: float | None
    bore_out_mm: float | None
    length_mm: float | None
    flow: units.Shown | None
    low: bool


@dataclass(frozen=True)
class DrawnFlange:
    """A face of the part: its opening, bolts with their spacing, or the spigot of a clamp; `ports` of the face that
    meets the head, with their pitch."""

    end: str
    opening_mm: float | None
    bolt_count: int | None
    across_mm: float | None
    along_mm: float | None
    outside_mm: float | None
    ports: int = 0
    pitch_mm: float | None = None


@dataclass(frozen=True)
class DrawnPart:
    """All that is drawn of a part."""

    callouts: list[Callout]
    runners: list[DrawnRunner]
    flanges: list[DrawnFlange]
    not_checked: list[str]


def drawn(facts: PartFacts, preset: units.Preset) -> DrawnPart:
    """A part as it is drawn at its last state."""
    at = replace(BETWEEN, behind=None) if facts.part.kind == "manifold" else BETWEEN  # its face is the head's
    asked = unchecked(features_of(facts), at, DEMANDING)
    runners = _runners(facts, preset) if facts.part.kind == "manifold" else []
    return DrawnPart(_callouts(facts), runners, _flanges(facts), [one.what for one in asked])


def _callouts(facts: PartFacts) -> list[Callout]:
    kind, stated = facts.part.kind, facts.advertised
    advertised = {
        "bore": stated.bore_mm, "bore_out": stated.bore_out_mm, "length": stated.length_mm, "volume": stated.volume_l,
    }  # fmt: skip
    if kind == "manifold":
        return [_callout(facts, "plenum", name, advertised) for name in OF_PLENUM]
    wanted = ("bore", "shaft", "entry_radius", "length") if kind == "throttle" else QUANTITIES
    return [_callout(facts, kind, name, advertised) for name in wanted]


LABELS = {
    "bore": "Bore", "bore_out": "Bore at the outlet", "length": "Length", "entry_radius": "Entry radius",
    "shaft": "Shaft", "opening": "Opening", "volume": "Plenum",
}  # fmt: skip


def _callout(facts: PartFacts, kind: str, name: str, advertised: dict[str, float | None]) -> Callout:
    value = facts.dimension(kind, name)
    unit = "L" if name == "volume" else "mm"
    return Callout(name, LABELS[name], unit, None if value is None else round(value * 1000, 3), advertised.get(name))


def _runners(facts: PartFacts, preset: units.Preset) -> list[DrawnRunner]:
    """As many as are stated, and those that were measured or read."""
    seen = {d.cylinder for d in facts.dimensions} | {r.cylinder for r in facts.flows}
    numbers = sorted({*range(1, (facts.features.runners or 0) + 1), *(n for n in seen if n is not None)})
    flows = {n: fmean(map(at_reference, kept)) for n in numbers if (kept := facts.readings("runner", n))}
    alike = {readings[0].cylinder for readings in counting_runners(facts)}
    found = []
    for number in numbers:
        others = [flow for n, flow in flows.items() if n != number and n in alike]
        flow = flows.get(number)
        low = flow is not None and number in alike and bool(others) and flow < (1 - LOW) * fmean(others)
        bore, out, length = (_mm(facts.dimension("runner", name, number)) for name in ("bore", "bore_out", "length"))
        shown = units.show(flow, "flow", preset) if flow is not None else None
        found.append(DrawnRunner(number, bore, out, length, shown, low))
    return found


def _flanges(facts: PartFacts) -> list[DrawnFlange]:
    stated = facts.features
    ends: list[tuple[str, JointSpec | None]] = [("inlet", stated.inlet), ("outlet", stated.outlet)]
    if facts.part.kind == "manifold":
        ends = ends[:1]
    found = [
        DrawnFlange(end, spec.opening_mm, spec.bolt_count, spec.bolt_across_mm, spec.bolt_along_mm, spec.outside_mm)
        for end, spec in ends
        if spec is not None
    ]
    if facts.part.kind == "manifold" and stated.runners:
        out = _mm(facts.dimension("runner", "bore_out", 1) or facts.dimension("runner", "bore", 1))
        found.append(DrawnFlange("head", out, None, None, None, None, stated.runners, stated.port_pitch_mm))
    return found


def _mm(metres: float | None) -> float | None:
    return None if metres is None else round(metres * 1000, 3)
