"""A part held against its place: what stands in its way beyond what the part fitted now has to bear, what is not
checked, and the speed that it favours."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date

from elvarn.core.engine.tuning import Favoured
from elvarn.core.path.conflict import Conflict, Remedy, Severity
from elvarn.core.path.conflicts import conflicts
from elvarn.core.path.features import Neighbours, Surroundings
from elvarn.core.path.unchecked import Unchecked, unchecked
from elvarn.service.path.charging import against_ratio
from elvarn.service.path.tuned import manifold_favours
from elvarn.service.record.lead import Lead, lead_of
from elvarn.service.record.part import PartFacts
from elvarn.service.record.places import PlaceInPath, features_of, pieces_at, surroundings_of
from elvarn.service.record.solved import SolvedPath
from elvarn.service.record.stock import Stock

SAME_STEP = 0.0005  # m: a step that is larger by less is the same; common practice, no source
AS_NOW = " As with the part fitted now."


@dataclass(frozen=True)
class Held:
    """A candidate: conflicts, what is not checked, the speed it favours where it is a manifold, whether it is what is
    fitted now, how many pieces the place takes, and how many lie here that nobody has spoken for."""

    facts: PartFacts
    against: tuple[Conflict, ...]
    unchecked: tuple[Unchecked, ...]
    favours: Favoured | None
    there_now: bool
    pieces: int = 1
    at_hand: int = 0
    lead: Lead | None = None

    @property
    def lead_days(self) -> int | None:
        """Days until it can be here: none where as many lie here as it takes that nobody has spoken for."""
        if self.at_hand >= self.pieces or self.there_now:
            return 0
        return self.lead.days if self.lead else None

    @property
    def hard(self) -> bool:
        return any(one.severity is Severity.HARD for one in self.against)

    @property
    def checked(self) -> bool:
        """Whether all that could rule it out is known."""
        return not any(one.decides for one in self.unchecked)

    @property
    def price(self) -> float | None:
        """Of all its pieces; what is fitted now is paid for."""
        price = self.facts.part.price
        return 0.0 if self.there_now else None if price is None else price * self.pieces

    @property
    def mass(self) -> float | None:
        """Of all its pieces [kg]."""
        mass = self.facts.part.mass_kg
        return None if mass is None else mass * self.pieces

    @property
    def minutes(self) -> float:
        return minutes_of(self.against) * self.pieces


def minutes_of(against: Sequence[Conflict]) -> float:
    """Work [min] that it takes to fit one piece."""
    return sum(one.remedy.minutes for one in against if one.severity is not Severity.INFORMATION)


def held_against(path: SolvedPath, place: PlaceInPath, shelf: Sequence[PartFacts]) -> list[Held]:
    """Every part of the shelf at a place, and the part that is fitted now among them."""
    around = surroundings_of(path.record)
    now = place.now
    borne = conflicts(features_of(now), place.neighbours, around) if now else ()
    found = [_held(path, place, one, around, borne) for one in shelf]
    if now is not None and not any(one.there_now for one in found):
        found.append(_held(path, place, now, around, borne))
    return found


def as_had(one: Held, stock: Stock, today: date) -> Held:
    """A candidate as it can be had today: from what lies here, else by its lead time or its maker's next run."""
    at_hand = stock.at_hand if one.facts.part.job_id is None else 0
    lead = lead_of(one.facts.part, stock.ordered, today)
    said = None if at_hand >= one.pieces or one.there_now else lead.said()
    return replace(one, at_hand=at_hand, lead=lead, against=(*one.against, *([said] if said else ())))


def _held(
    path: SolvedPath, place: PlaceInPath, facts: PartFacts, around: Surroundings, borne: Sequence[Conflict]
) -> Held:
    there = place.now is not None and place.now.part.id == facts.part.id
    favours = manifold_favours(path, facts) if place.kind == "manifold" else None
    if there:
        return Held(facts, (), (), favours, there_now=True, pieces=pieces_at(place, facts))
    against, unknown = stands_against(facts, place.neighbours, around, borne)
    weak, unsaid = against_ratio(path, facts)
    return Held(facts, weak + against, unsaid + unknown, favours, there_now=False, pieces=pieces_at(place, facts))


def stands_against(
    facts: PartFacts, neighbours: Neighbours, around: Surroundings, borne: Sequence[Conflict]
) -> tuple[tuple[Conflict, ...], tuple[Unchecked, ...]]:
    """What stands against a part between these neighbours beyond what is borne there now, and what is not checked."""
    features = features_of(facts)
    against = tuple(_beyond(one, borne) for one in conflicts(features, neighbours, around))
    return against, unchecked(features, neighbours, around)


def _borne(one: Conflict, other: Conflict) -> bool:
    if one.code != other.code or one.in_front != other.in_front:
        return False
    return one.step <= other.step + SAME_STEP if one.step else one.text == other.text


def _beyond(one: Conflict, borne: Sequence[Conflict]) -> Conflict:
    """What the part fitted now has as well, or a larger step at the same end, is no work of the exchange."""
    if one.severity is not Severity.SOFT or not any(_borne(one, other) for other in borne):
        return one
    remedy = Remedy(one.remedy.words, 0.0, one.remedy.buy, one.remedy.takes)
    return replace(one, severity=Severity.INFORMATION, text=one.text + AS_NOW, remedy=remedy)
