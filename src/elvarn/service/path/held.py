"""A part held against its place: what stands in its way beyond what the part fitted now has to bear, what is not
checked, and the speed that it favours."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from elvarn.core.engine.tuning import Favoured
from elvarn.core.path.conflict import Conflict, Remedy, Severity
from elvarn.core.path.conflicts import conflicts
from elvarn.core.path.features import Surroundings
from elvarn.core.path.unchecked import Unchecked, unchecked
from elvarn.service.path.tuned import manifold_favours
from elvarn.service.record.part import PartFacts
from elvarn.service.record.places import PlaceInPath, features_of, surroundings_of
from elvarn.service.record.solved import SolvedPath

SAME_STEP = 0.0005  # m: a step that is larger by less is the same; common practice, no source
AS_NOW = " As with the part fitted now."


@dataclass(frozen=True)
class Held:
    """A candidate: conflicts, what is not checked, the speed it favours where it is a manifold, whether it is what is
    fitted now."""

    facts: PartFacts
    against: tuple[Conflict, ...]
    unchecked: tuple[Unchecked, ...]
    favours: Favoured | None
    there_now: bool

    @property
    def hard(self) -> bool:
        return any(one.severity is Severity.HARD for one in self.against)

    @property
    def checked(self) -> bool:
        """Whether all that could rule it out is known."""
        return not any(one.decides for one in self.unchecked)

    @property
    def minutes(self) -> float:
        return sum(one.remedy.minutes for one in self.against if one.severity is not Severity.INFORMATION)


def held_against(path: SolvedPath, place: PlaceInPath, shelf: Sequence[PartFacts]) -> list[Held]:
    """Every part of the shelf at a place, and the part that is fitted now among them."""
    around = surroundings_of(path.record)
    now = place.now
    borne = conflicts(features_of(now), place.neighbours, around) if now else ()
    found = [_held(path, place, one, around, borne) for one in shelf]
    if now is not None and not any(one.there_now for one in found):
        found.append(_held(path, place, now, around, borne))
    return found


def _held(
    path: SolvedPath, place: PlaceInPath, facts: PartFacts, around: Surroundings, borne: Sequence[Conflict]
) -> Held:
    there = place.now is not None and place.now.part.id == facts.part.id
    favours = manifold_favours(path, facts) if place.kind == "manifold" else None
    if there:
        return Held(facts, (), (), favours, there_now=True)
    features = features_of(facts)
    against = tuple(_beyond(one, borne) for one in conflicts(features, place.neighbours, around))
    return Held(facts, against, unchecked(features, place.neighbours, around), favours, there_now=False)


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
