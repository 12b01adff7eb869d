"""What was logged beside torque, in shop words: the drop to the manifold, boost, mixture, duty, knock, fuel."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, replace
from math import isfinite
from statistics import fmean

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.dyno.channels import Channel
from elvarn.core.dyno.logged import Boost, boost_of, boost_over, consumption_over, drop_over, power_at_boost
from elvarn.core.finding import Grade
from elvarn.service.dyno.basis import Based
from elvarn.service.dyno.designs import Design, Designs
from elvarn.service.dyno.drop_words import what_a_drop_means
from elvarn.service.dyno.judged import Head, Standing
from elvarn.service.kernel.sentences import Sentence, first_up, sentence

# From where on two sides differ, or one is near its end; common practice, no source
BOOST_DIFFERS, MIXTURE_DIFFERS = 3.0, 0.03  # kPa, lambda
STANDARD_KPA = 101.325
FULL_DUTY, KNOCK_DEG = 85.0, 1.0
PLAUSIBLE_FUEL = (220.0, 450.0)  # g/kWh of petrol


@dataclass(frozen=True)
class Logged:
    """A design with the channels of each pull that has any."""

    design: Design
    pulls: tuple[tuple[Based, Mapping[str, Channel]], ...]

    @property
    def line(self) -> str:
        return f"[{first_up(self.design.name)}](line-{self.design.build_id})"

    def channel(self, name: str) -> list[Channel]:
        return [channels[name] for _, channels in self.pulls if name in channels]

    def of_each(self, make: Callable[[Mapping[str, Channel], float | None], Channel | None]) -> list[Channel]:
        """What is made of each pull's channels and its outside pressure [kPa]."""
        made = [make(channels, one.row.air_pressure_kpa) for one, channels in self.pulls]
        return [channel for channel in made if channel is not None]


def about_logged(session: Session, designs: Designs, chosen: Standing | None, preset: units.Preset) -> list[Sentence]:
    """What the channels say of the design that answers against the reference, and of all that are near an end."""
    if chosen is None:
        return []
    low, high = chosen.use.band
    every = [_logged(session, designs, design) for design in designs.every]
    best = chosen.best[0].design if chosen.best else None
    reference, other = every[0], next((one for one in every if one.design is best), None)
    said = list(_near_an_end(every, low, high))
    if other is not None:
        equal = _left_at_equal_boost(session, designs, (reference, other), (low, high), preset)
        said = [*_unlike(reference, other, equal, low, high), *_drop(reference, other, high), *said]
        said += _fuel(session, designs, [reference, other], low, high)
    return said


def with_unlike_boost(session: Session, designs: Designs, chosen: Standing | None, head: Head) -> Head:
    """The answer, with the word beside it that boost itself differs, where it was logged on both sides: then it is not
    the manifold's alone."""
    if chosen is None or chosen.best is None or head.figure is None:
        return head
    sides = (designs.reference, chosen.best[0].design)
    stock, made = (_boost(_logged(session, designs, side)) for side in sides)
    if not stock or not made or abs(made.highest - stock.highest) <= BOOST_DIFFERS:
        return head
    more = units.signed(made.highest - stock.highest, units.number_text(made.highest - stock.highest, 0))
    return replace(head, words=f"Boost differs by {more} kPa, not the manifold alone: {head.words}", real=False)


def _logged(session: Session, designs: Designs, design: Design) -> Logged:
    found = [(one, designs.shelf.channels(session, one.row.id)) for one in design.pulls]
    return Logged(design, tuple((one, channels) for one, channels in found if channels))


def _mean_at(channels: list[Channel], speed: float) -> float | None:
    values = [value for value in (one.at(speed) for one in channels) if value is not None]
    return fmean(values) if values else None


def _mean_over(channels: list[Channel], low: float, high: float) -> float | None:
    values = [value for value in (one.mean(low, high) for one in channels) if isfinite(value)]
    return fmean(values) if values else None


def _unlike(reference: Logged, other: Logged, equal: str, low: float, high: float) -> Iterator[Sentence]:
    """Boost and mixture that differ: part of the difference is theirs."""
    boosts = [_boost(side) for side in (reference, other)]
    if boosts[0] and boosts[1]:
        yield _boosts(reference, other, boosts[0], boosts[1], equal)
    mixtures = [_mean_over(side.channel("mixture_lambda"), low, high) for side in (reference, other)]
    if mixtures[0] is not None and mixtures[1] is not None and abs(mixtures[1] - mixtures[0]) > MIXTURE_DIFFERS:
        answer = f"Mixture differs: {reference.line} lambda {mixtures[0]:.2f}, {other.line} {mixtures[1]:.2f}."
        reason = "Part of the difference in power may be the mixture's."
        yield sentence(answer, Grade.MEASURED, "doubt", reason, "Set both alike, then pull again.", paper=True)


def _boost(side: Logged) -> Boost | None:
    found = [boost for boost in (boost_of(one) for one in side.of_each(boost_over)) if boost]
    if not found:
        return None
    return Boost(
        fmean(one.highest for one in found),
        fmean(one.reached_rpm for one in found),
        fmean(one.held_rpm for one in found),
        all(one.to_the_end for one in found),
    )


def _boosts(reference: Logged, other: Logged, stock: Boost, made: Boost, equal: str) -> Sentence:
    told = "; ".join(f"{side.line} {_held(boost)}" for side, boost in ((reference, stock), (other, made)))
    answer = f"Boost: {told}."
    if abs(made.highest - stock.highest) <= BOOST_DIFFERS:
        return sentence(answer, Grade.MEASURED, paper=True)
    share = 100 * (made.highest - stock.highest) / (100 + stock.highest)
    reason = f"The boost itself differs: by the air alone that is about {share:+.0f} % of the power.".replace("-", "−")
    reason += equal
    return sentence(answer, Grade.MEASURED, "doubt", reason, "Set both to the same boost, then pull again.", paper=True)


def _left_at_equal_boost(
    session: Session, designs: Designs, sides: tuple[Logged, Logged], band: tuple[float, float], preset: units.Preset
) -> str:
    """What is left of the difference with the reference brought to the other's boost; nothing where not known."""
    wanted = sides[1].of_each(boost_over)
    powers = [_powers_at(session, designs, side, wanted[0], band) for side in sides] if wanted else []
    if not powers or not all(powers):
        return ""
    left = units.show_difference(fmean(powers[1]) - fmean(powers[0]), "power", preset)
    return f" At the same boost about {left.text} {left.unit} would be left on average (estimate)."


def _powers_at(
    session: Session, designs: Designs, side: Logged, wanted: Channel, band: tuple[float, float]
) -> list[float]:
    """Each pull's mean power [W] over a band, brought to a boost."""
    curves = designs.shelf.times(session, [(one.row.id, one.factor) for one, _ in side.pulls])
    found = []
    for (one, channels), curve in zip(side.pulls, curves, strict=True):
        boost = boost_over(channels, one.row.air_pressure_kpa)
        outside = one.row.air_pressure_kpa or STANDARD_KPA
        power = power_at_boost(curve, boost, wanted, outside, *band) if boost else None
        found += [power] if power is not None else []
    return found


def _held(boost: Boost) -> str:
    held = "held to the end" if boost.to_the_end else f"held to {units.to_fifty(boost.held_rpm)} rpm, then lost"
    return f"{boost.highest:.0f} kPa, reached at {units.to_fifty(boost.reached_rpm)} rpm, {held}"


def _drop(reference: Logged, other: Logged, high: float) -> Iterator[Sentence]:
    """The drop to the manifold at the top, without boost."""
    sides = [side.of_each(drop_over) for side in (reference, other)]
    if not all(sides) or any(_boost(side) for side in (reference, other)):
        return
    speed = min(high, *(one.engine_speed_rpm[-1] for side in sides for one in side))
    stock, made = (_mean_at(side, speed) for side in sides)
    if stock is None or made is None:
        return
    told = f"{reference.line} {stock:.1f} kPa, {other.line} {made:.1f} kPa"
    answer = f"Drop from outside to the manifold at {units.to_fifty(speed)} rpm: {told}."
    means = what_a_drop_means(stock, made, _manifold(reference, speed) + stock)
    yield sentence(answer, Grade.MEASURED, reason=means, paper=True)


def _manifold(side: Logged, speed: float) -> float:
    """The manifold's own pressure at a speed [kPa]: with the drop it is the pressure outside."""
    return _mean_at(side.channel("manifold_kpa"), speed) or STANDARD_KPA


def _near_an_end(every: list[Logged], low: float, high: float) -> Iterator[Sentence]:
    for side in every:
        duty = [one.highest(low, high) for one in side.channel("duty_percent")]
        if duty and max(duty)[0] >= FULL_DUTY:
            most, speed = max(duty)
            answer = f"{side.line}: injector duty {most:.0f} % at {units.to_fifty(speed)} rpm."
            reason = f"Beyond {FULL_DUTY:.0f} % fuel may run short."
            yield sentence(answer, Grade.MEASURED, "doubt", reason, "Fit larger injectors before it makes more.")
        knock = [one.highest(low, high) for one in side.channel("retard_deg")]
        if knock and max(knock)[0] >= KNOCK_DEG:
            most, speed = max(knock)
            at = units.to_fifty(speed)
            answer = f"{side.line}: ignition was taken back by up to {most:.1f}° for knock, most at {at} rpm."
            reason = "What that cost is in its curve, and is not the manifold's."
            yield sentence(answer, Grade.MEASURED, "doubt", reason, paper=True)


def _fuel(session: Session, designs: Designs, sides: list[Logged], low: float, high: float) -> Iterator[Sentence]:
    """Fuel for the work, as observed."""
    found = [(side, _consumption(session, designs, side, low, high)) for side in sides]
    known = [(side, value) for side, value in found if value is not None]
    if not known:
        return
    told = ", ".join(f"{side.line} {value:.0f} g/kWh" for side, value in known)
    strange = any(not PLAUSIBLE_FUEL[0] <= value <= PLAUSIBLE_FUEL[1] for _, value in known)
    reason = "No petrol engine at full load does that: check the unit of the fuel flow." if strange else ""
    yield sentence(f"Fuel for the work: {told}.", Grade.COMPUTED, "doubt" if strange else "plain", reason)


def _consumption(session: Session, designs: Designs, side: Logged, low: float, high: float) -> float | None:
    with_fuel = [(one, channels["fuel_kg_h"]) for one, channels in side.pulls if "fuel_kg_h" in channels]
    curves = designs.shelf.curves(session, [one.row.id for one, _ in with_fuel])
    made = [consumption_over(fuel, curve, low, high) for (_, fuel), curve in zip(with_fuel, curves, strict=True)]
    known = [one for one in made if one is not None]
    return fmean(known) if known else None
