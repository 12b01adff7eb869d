"""What a test says, kind by kind."""

from collections.abc import Collection, Hashable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from statistics import fmean

from elvarn import units
from elvarn.core.bench.plan import A_B_B_A, Measured, PlanKind, Stop, axis_of
from elvarn.core.bench.probe import velocity_map
from elvarn.core.bench.sweep import (
    PlaceDifference,
    copy_differences,
    copy_over_curve,
    cost_of_runner,
    differences_by_place,
    figure_differences,
    lift_coefficient,
    mean_over,
    sweep_over_curve,
)
from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.difference import Known
from elvarn.core.errors import NotEnoughData
from elvarn.core.finding import Grade
from elvarn.core.likeness import ItemDifference, item_differences
from elvarn.core.path.tree import ElementKind
from elvarn.core.verdict import Verdict
from elvarn.service.bench.plans import point_words
from elvarn.service.kernel.sentences import Sentence, first_up, judged, listed, sentence
from elvarn.service.record.setup import changed, item_words, items_of
from elvarn.store.models import Plan

LEAST_OF_MAP = 3  # clock positions


@dataclass(frozen=True)
class ReadPlan:
    """A test with the figures of its points: flow [m³/s at the reference depression], velocity [m/s] or swirl
    coefficient; which were read; and in which session each was."""

    plan: Plan
    values: dict[int, float]
    read: Collection[int]
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

    @cached_property
    def stops(self) -> list[Stop]:
        return self.plan.stops

    @property
    def axis_unit(self) -> str:
        axis = axis_of(self.kind, ElementKind(self.plan.element_kind))
        return axis.unit if axis else ""

    def curve(
        self, number: int, measured: Measured = Measured.FLOW, clock: float | None = None
    ) -> dict[float | None, float]:
        """Mean figure of a series by opening or lift; None stands for what was read as it stands."""
        wanted = (s for s in enumerate(self.stops) if s[1].series == number and s[1].measured is measured)
        return self._means((stop.place, index) for index, stop in wanted if stop.clock == clock)

    def flows(self, number: int) -> dict[float, float]:
        """Mean flow of a series by opening or lift."""
        return {place: flow for place, flow in self.curve(number).items() if place is not None}

    def around(self, number: int, place: float | None, mount: int | None = None) -> dict[float, float]:
        """Mean velocity of a series round the opening by clock position, of one mounting or of all."""
        wanted = (
            (stop.clock, index)
            for index, stop in enumerate(self.stops)
            if (stop.series, stop.place) == (number, place) and mount in (None, stop.mount)
        )
        found = self._means(wanted)
        return {clock: value for clock, value in found.items() if clock is not None}

    def mounts(self) -> list[dict[float, float]]:
        """Flow by opening of a copy's four mountings, in their order; as it stands is opening 0."""
        found: list[dict[float, float]] = [{} for _ in A_B_B_A]
        for index, stop in enumerate(self.stops):
            if index in self.values and stop.measured is Measured.FLOW:
                found[A_B_B_A.index((stop.series, stop.mount))][stop.place or 0.0] = self.values[index]
        return found

    def mounted(self) -> list[Hashable]:
        """In which session each of a copy's four mountings was read."""
        at = {(s.series, s.mount): self.sessions[i] for i, s in enumerate(self.stops) if i in self.sessions}
        return [at.get(one, 0) for one in A_B_B_A]

    def _means(self, places: Iterable[tuple[float | None, int]]) -> dict[float | None, float]:
        found: dict[float | None, list[float]] = {}
        for place, index in places:
            if index in self.values:
                found.setdefault(place, []).append(self.values[index])
        return {place: fmean(found[place]) for place in sorted(found, key=lambda one: one or 0.0)}

    def items_between(self, number: int) -> list[ItemDifference]:
        """In what a series' set-up differs from that of the first."""
        base = items_of(self.plan.setup)
        words = [item_words(changed(base, self.plan.series[one]["changes"])) for one in (0, number)]
        return item_differences(words[0], words[1])

    def differences(self) -> list[PlaceDifference]:
        """The second series against the first, where flow is compared over places."""
        if len(self.plan.series) < 2:
            return []
        if self.kind is PlanKind.COPY:
            return copy_differences(self.mounts(), self.known, self.mounted())
        if self.kind not in (PlanKind.OPENING, PlanKind.LIFT):
            return []
        try:
            return differences_by_place(self.flows(0), self.flows(1), self.known, self.apart)
        except NotEnoughData:
            return []

    def over_curve(self) -> Verdict | None:
        """The second series against the first over all places together, where there are several."""
        try:
            if self.kind is PlanKind.COPY:
                return copy_over_curve(self.mounts(), self.known, self.mounted())
            return sweep_over_curve(self.flows(0), self.flows(1), self.known, self.apart)
        except NotEnoughData:
            return None


def plan_margin(test: ReadPlan, left: list[int]) -> Iterator[Sentence]:
    """The sentences, what to do next last."""
    if test.values:
        yield from SAYS[test.kind](test)
    yield from _about_probes(test)
    if test.apart and test.kind not in (PlanKind.PITOT, PlanKind.SWIRL):
        shift = test.known.session.value
        answer = "Read in more than one session."
        yield sentence(answer, Grade.ESTIMATED, "doubt", reason=f"The ± allows {shift:.2g} % session shift.")
    count = len(test.plan.points)
    if left:
        done = f"{count - len(left)} of {count} points read. " if test.read else ""
        rest = " You can stop and go on later." if test.read else ""
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
    unit = test.axis_unit
    found = test.differences()
    if found:
        best = max(found, key=lambda one: abs(one.verdict.change))
        yield sentence(f"{_names(test, 1)}: biggest change at {_at(best, unit)}.", Grade.COMPUTED)
        if found[-1] is not best:
            yield sentence(f"At {_at(found[-1], unit)}.", Grade.COMPUTED)
    together = test.over_curve() if found else None
    if together is not None:
        over = f"{found[0].place:g} to {found[-1].place:g} {unit}"
        yield sentence(f"On average over {over}: {_change(together)}.", Grade.COMPUTED)
    shared = set.intersection(*(set(test.flows(number)) for number in range(len(test.plan.series))))
    for number in range(len(test.plan.series)):
        curve = {place: flow for place, flow in test.flows(number).items() if place in shared}
        if len(curve) > 1:
            mean = units.show(mean_over(curve), "flow", test.preset)
            over = f"{min(curve):g} to {max(curve):g} {unit}"
            yield sentence(f"{test.beginning(number)}: average {mean.text} {mean.unit} over {over}.", Grade.COMPUTED)


def _lift(test: ReadPlan) -> Iterator[Sentence]:
    yield from _curves(test)
    if len(test.plan.series) > 1:
        costs = cost_of_runner(test.flows(0), test.flows(1))
        lift, cost = max(costs.items(), key=lambda one: one[1], default=(0.0, 0.0))
        if cost > 0:
            names = f"{test.beginning(1)} loses up to {cost * 100:.1f} % of {test.label(0)}"
            yield sentence(f"{names}, at {lift:g} mm.", Grade.COMPUTED)
    if test.plan.bore_m and test.flows(0):
        lift, flow = max(test.flows(0).items())
        found = lift_coefficient(flow, lift / 1000, test.plan.bore_m, REFERENCE_DEPRESSION)
        text = f"{test.beginning(0)} at {lift:g} mm: flow coefficient {found:.2f} (curtain area)."
        yield sentence(text, Grade.COMPUTED)


def _copy(test: ReadPlan) -> Iterator[Sentence]:
    """One sentence for the whole part: at every opening, with its velocity map and swirl."""
    found = test.differences()
    if found:
        beside = " ".join([*_maps_beside(test), *_swirl_beside(test)])
        reason = f"{beside} Order A-B-B-A cancels steady drift.".strip()
        mean = test.over_curve()
        words = f": {_change(found[0].verdict)}" if mean is None else _copy_words(found, mean, test.axis_unit)
        yield sentence(f"{_names(test, 1)}{words}.", Grade.COMPUTED, reason=reason)


def _copy_words(found: Sequence[PlaceDifference], mean: Verdict, unit: str) -> str:
    """What a copy does over all its openings, and at which of them."""
    over = f" over {found[0].place:g} to {found[-1].place:g} {unit}: {_change(mean)}"
    most = max(found, key=lambda one: abs(one.verdict.change) + one.verdict.half_width)
    clear = [one for one in found if one.verdict.real]
    unsure = [one for one in found if not one.verdict.real and not one.verdict.no_larger]
    if clear:
        largest = max(clear, key=lambda one: abs(one.verdict.change))
        most_at = f", most at {largest.place:g} {unit}" if len(clear) > 1 else ""
        return f"{over}. Clear at {_places(clear, unit)}{most_at}: {_figures(largest.verdict)}"
    where = f"most at {most.place:g} {unit}: {_figures(most.verdict)}"
    if not unsure:
        return f"{over}. At each of {len(found)} places no difference larger than {most.verdict.matters:g} %, {where}"
    alone = "Each place for itself" if len(unsure) == len(found) else f"At {_places(unsure, unit)}"
    return f"{over}. {alone} too close to call, {where}"


def _places(found: Sequence[PlaceDifference], unit: str) -> str:
    return f"{listed([f'{one.place:g}' for one in found])} {unit}"


def _maps_beside(test: ReadPlan) -> Iterator[str]:
    """Velocity maps of copy and original. They have no word: their repeats stand beside them."""
    place = next((stop.place for stop in test.stops if stop.clock is not None), None)
    maps = [[test.around(number, place, mount) for mount in (0, 1)] for number in (0, 1)]
    if any(len(one) < LEAST_OF_MAP for series in maps for one in series):
        return
    found = [[velocity_map(one) for one in series] for series in maps]
    means, uneven = ([[getattr(one, of) for one in series] for series in found] for of in ("mean", "distortion"))
    each = [
        f"{test.label(number)} {fmean(means[number]):.0f} m/s, {fmean(uneven[number]) * 100:.0f} % uneven"
        for number in (1, 0)
    ]
    repeats = f"{_apart(means):.1f} m/s and {_apart(uneven) * 100:.0f} %"
    yield f"Velocity map: {'; '.join(each)} (mountings repeat within {repeats})."


def _swirl_beside(test: ReadPlan) -> Iterator[str]:
    turned: list[list[float]] = [
        [test.values[i] for i, s in enumerate(test.stops) if s.measured is Measured.SWIRL and s.series == number
         and i in test.values] for number in (0, 1)
    ]  # fmt: skip
    if all(len(one) == 2 for one in turned):
        each = [f"{test.label(number)} {fmean(turned[number]):.2f}" for number in (1, 0)]
        yield f"Swirl: {', '.join(each)} (mountings repeat within {_apart(turned):.2f})."


def _apart(repeats: Sequence[Sequence[float]]) -> float:
    return max(abs(first - second) for first, second in repeats)


def _pitot(test: ReadPlan) -> Iterator[Sentence]:
    stations = dict.fromkeys(stop.place for stop in test.stops if stop.clock is not None)
    for number in range(len(test.plan.series)):
        for place in stations:
            try:
                found = velocity_map(test.around(number, place))
            except NotEnoughData:
                continue
            at = f" at {place:g} {test.axis_unit}" if place is not None else ""
            where = f"fastest at {found.fastest:g} o'clock, slowest at {found.slowest:g}"
            text = f"{test.beginning(number)}{at}: average {found.mean:.0f} m/s, "
            text += f"{found.distortion * 100:.0f} % uneven (10 % is fine): {where}."
            yield sentence(text, Grade.COMPUTED, "plain" if found.even else "doubt")


def _swirl(test: ReadPlan) -> Iterator[Sentence]:
    for number in range(len(test.plan.series)):
        curve = test.curve(number, Measured.SWIRL)
        if curve:
            place, most = max(curve.items(), key=lambda one: one[1])
            at = f", at {place:g} {test.axis_unit}" if place is not None else ""
            yield sentence(f"{test.beginning(number)}: coefficient up to {most:.2f}{at}.", Grade.COMPUTED)
    yield sentence("Swirl = paddle speed x bore / jet speed. Compare on one wheel only.", Grade.RULE)


def _about_probes(test: ReadPlan) -> Iterator[Sentence]:
    """A probe that was not read at rest, or that shows no more than at rest."""
    zeroed = {(s.series, s.mount, s.measured) for i, s in enumerate(test.stops) if s.zero and i in test.read}
    probed = [(i, s) for i, s in enumerate(test.stops) if i in test.read and not s.zero]
    of = [(s.series, s.mount, s.measured) for _, s in probed if s.measured is not Measured.FLOW]
    missing = dict.fromkeys((series, measured) for series, mount, measured in of
                            if (series, mount, measured) not in zeroed)  # fmt: skip
    for series, measured in missing:
        thing = "Pitot" if measured is Measured.PITOT else "Wheel"
        answer = f"{thing} not read at rest for {test.label(series)}."
        yield sentence(answer, Grade.MEASURED, "doubt", action="Switch the air off and read it.")
    for index, stop in probed:
        if stop.measured is Measured.PITOT and index not in test.values:
            answer = f"{point_words(test.plan, index)}: shows no more than at rest, left out."
            yield sentence(first_up(answer), Grade.MEASURED, "doubt", action="Check the line, read it again.")


def _names(test: ReadPlan, number: int) -> str:
    return f"{test.beginning(number)} vs {test.label(0)}"


def _at(one: PlaceDifference, unit: str) -> str:
    return f"{one.place:g} {unit}: {_change(one.verdict)}"


def _change(verdict: Verdict) -> str:
    return f"{_figures(verdict)}, {judged(verdict)}"


def _figures(verdict: Verdict) -> str:
    return f"{units.percent_text(verdict.change)} ±{verdict.half_width * 100:.1f} %"


SAYS = {
    PlanKind.CONFIGURATION: _configurations,
    PlanKind.OPENING: _curves,
    PlanKind.LIFT: _lift,
    PlanKind.COPY: _copy,
    PlanKind.PITOT: _pitot,
    PlanKind.SWIRL: _swirl,
}
