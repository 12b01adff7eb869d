"""What a test says, kind by kind."""

from collections.abc import Hashable, Iterator, Mapping
from dataclasses import dataclass, field
from statistics import fmean

from elvarn import units
from elvarn.core.bench.likeness import ItemDifference, item_differences
from elvarn.core.bench.plan import AXES, PlanKind
from elvarn.core.bench.probe import velocity_map
from elvarn.core.bench.sweep import (
    PlaceDifference,
    copy_difference,
    cost_of_runner,
    differences_by_place,
    figure_differences,
    lift_coefficient,
    mean_over,
)
from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.difference import Known
from elvarn.core.errors import NotEnoughData
from elvarn.core.finding import Grade
from elvarn.core.verdict import Verdict
from elvarn.service.bench.plans import point_words
from elvarn.service.kernel.sentences import Sentence, judged, listed, sentence
from elvarn.service.record.setup import changed, item_words, items_of
from elvarn.store.models import Plan


@dataclass(frozen=True)
class ReadPlan:
    """A test with the figures of its points: flow [m³/s at the reference depression], velocity [m/s] or swirl
    coefficient; and in which session each was read."""

    plan: Plan
    values: dict[int, float]
    preset: units.Preset
    known: Known
    sessions: Mapping[int, Hashable] = field(default_factory=dict)

    @property
    def apart(self) -> bool:
        """Whether it rested over a day or longer: then a session's shift may lie between any two of its points."""
        return len(set(self.sessions.values())) > 1

    @property
    def kind(self) -> PlanKind:
        return PlanKind(self.plan.kind)

    def label(self, number: int) -> str:
        return str(self.plan.series[number]["label"])

    def beginning(self, number: int) -> str:
        """A series' name, as a sentence begins with it."""
        return self.label(number)[:1].upper() + self.label(number)[1:]

    def curve(self, number: int) -> dict[float, float]:
        """Mean figure of a series by place."""
        found: dict[float, list[float]] = {}
        for index, value in self.values.items():
            series, place = self.plan.points[index]
            if series == number:
                found.setdefault(self.plan.places[place], []).append(value)
        return {place: fmean(figures) for place, figures in sorted(found.items())}

    def items_between(self, number: int) -> list[ItemDifference]:
        """In what a series' set-up differs from that of the first."""
        base = items_of(self.plan.setup)
        words = [item_words(changed(base, self.plan.series[one]["changes"])) for one in (0, number)]
        return item_differences(words[0], words[1])

    def differences(self) -> list[PlaceDifference]:
        """The second series against the first, where flow is compared over places."""
        if self.kind not in (PlanKind.OPENING, PlanKind.LIFT) or len(self.plan.series) < 2:
            return []
        try:
            return differences_by_place(self.curve(0), self.curve(1), self.known, self.apart)
        except NotEnoughData:
            return []


def plan_margin(test: ReadPlan, left: list[int]) -> Iterator[Sentence]:
    """The sentences, what to do next last."""
    if test.values:
        yield from SAYS[test.kind](test)
    if test.apart and test.kind not in (PlanKind.PITOT, PlanKind.SWIRL):
        shift = test.known.session.value
        answer = "Read in more than one session."
        yield sentence(answer, Grade.ESTIMATED, "doubt", reason=f"The ± allows {shift:.2g} % session shift.")
    count = len(test.plan.points)
    if left:
        done = f"{count - len(left)} of {count} points read. " if test.values else ""
        rest = " You can stop and go on later." if test.values else ""
        yield sentence(f"{done}Next: {point_words(test.plan, left[0])}.{rest}", Grade.RULE, "next")
    else:
        yield sentence("Test complete.", Grade.RULE, "next")


def _configurations(test: ReadPlan) -> Iterator[Sentence]:
    first = test.curve(0)
    if not first:
        return
    others = [(number, flow) for number in range(1, len(test.plan.series)) for flow in test.curve(number).values()]
    flows = [flow for _, flow in others]
    verdicts = figure_differences(next(iter(first.values())), flows, test.known, test.apart)
    for (number, _), verdict in zip(others, verdicts, strict=True):
        text = f"{_names(test, number)}: {_change(verdict)}."
        unlike = [one.item for one in test.items_between(number)]
        if len(unlike) > 1:
            text += f" Combined effect of {listed(unlike)}; change one at a time to separate them."
        yield sentence(text, Grade.COMPUTED, "plain" if len(unlike) < 2 else "doubt")


def _curves(test: ReadPlan) -> Iterator[Sentence]:
    unit = AXES[test.kind].unit
    found = test.differences()
    if found:
        best = max(found, key=lambda one: abs(one.verdict.change))
        yield sentence(f"{_names(test, 1)}: biggest change at {_at(best, unit)}.", Grade.COMPUTED)
        if found[-1] is not best:
            yield sentence(f"At {_at(found[-1], unit)}.", Grade.COMPUTED)
    shared = set.intersection(*(set(test.curve(number)) for number in range(len(test.plan.series))))
    for number in range(len(test.plan.series)):
        curve = {place: flow for place, flow in test.curve(number).items() if place in shared}
        if len(curve) > 1:
            mean = units.show(mean_over(curve), "flow", test.preset)
            over = f"{min(curve):g} to {max(curve):g} {unit}"
            yield sentence(f"{test.beginning(number)}: average {mean.text} {mean.unit} over {over}.", Grade.COMPUTED)


def _lift(test: ReadPlan) -> Iterator[Sentence]:
    yield from _curves(test)
    if len(test.plan.series) > 1:
        costs = cost_of_runner(test.curve(0), test.curve(1))
        lift, cost = max(costs.items(), key=lambda one: one[1], default=(0.0, 0.0))
        if cost > 0:
            names = f"{test.beginning(1)} loses up to {cost * 100:.1f} % of {test.label(0)}"
            yield sentence(f"{names}, at {lift:g} mm.", Grade.COMPUTED)
    if test.plan.bore_m and test.curve(0):
        lift, flow = max(test.curve(0).items())
        found = lift_coefficient(flow, lift / 1000, test.plan.bore_m, REFERENCE_DEPRESSION)
        text = f"{test.beginning(0)} at {lift:g} mm: flow coefficient {found:.2f} (curtain area)."
        yield sentence(text, Grade.COMPUTED)


def _copy(test: ReadPlan) -> Iterator[Sentence]:
    if len(test.values) < 4:
        return
    sessions = [test.sessions.get(index, 0) for index in range(4)]
    verdict = copy_difference([test.values[index] for index in range(4)], test.known, sessions)
    text = f"{_names(test, 1)}: {_change(verdict)}."
    yield sentence(f"{text} Order A-B-B-A cancels steady drift.", Grade.COMPUTED)


def _pitot(test: ReadPlan) -> Iterator[Sentence]:
    for number in range(len(test.plan.series)):
        try:
            found = velocity_map(test.curve(number))
        except NotEnoughData:
            continue
        where = f"fastest at {found.fastest:g} o'clock, slowest at {found.slowest:g}"
        text = f"{test.beginning(number)}: average {found.mean:.0f} m/s, "
        text += f"{found.distortion * 100:.0f} % uneven (10 % is fine): {where}."
        yield sentence(text, Grade.COMPUTED, "plain" if found.even else "doubt")


def _swirl(test: ReadPlan) -> Iterator[Sentence]:
    for number in range(len(test.plan.series)):
        curve = test.curve(number)
        if curve:
            lift, most = max(curve.items(), key=lambda one: one[1])
            yield sentence(f"{test.beginning(number)}: coefficient up to {most:.2f}, at {lift:g} mm.", Grade.COMPUTED)
    yield sentence("Swirl = paddle rim speed / jet speed. Compare on one wheel only.", Grade.RULE)


def _names(test: ReadPlan, number: int) -> str:
    return f"{test.beginning(number)} vs {test.label(0)}"


def _at(one: PlaceDifference, unit: str) -> str:
    return f"{one.place:g} {unit}: {_change(one.verdict)}"


def _change(verdict: Verdict) -> str:
    return f"{units.percent_text(verdict.change)} ±{verdict.half_width * 100:.1f} %, {judged(verdict)}"


SAYS = {
    PlanKind.CONFIGURATION: _configurations,
    PlanKind.OPENING: _curves,
    PlanKind.LIFT: _lift,
    PlanKind.COPY: _copy,
    PlanKind.PITOT: _pitot,
    PlanKind.SWIRL: _swirl,
}
