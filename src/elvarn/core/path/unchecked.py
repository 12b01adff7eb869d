"""What could not be checked of a part at its place, because nobody stated it: unchecked is not fits."""

from collections.abc import Callable
from dataclasses import dataclass

from elvarn.core.path.conflict import Case
from elvarn.core.path.features import Features, Joint, Neighbours, Surroundings

USUAL_FUEL = "petrol"  # that every part stands unless its maker says otherwise; common practice, no source


@dataclass(frozen=True)
class Unchecked:
    """What is not known, and whether it could rule the part out."""

    what: str
    decides: bool


def unchecked(features: Features, neighbours: Neighbours, surroundings: Surroundings) -> tuple[Unchecked, ...]:
    """What of a part nobody stated that its place, the engine or the vehicle asks for; what could rule it out first.

    Only what its kind has is asked for.
    Arguments: features: of the part; neighbours: of the place; surroundings: of the vehicle and job.
    Returns: what is not checked.
    Raises: nothing.
    Source: common practice, no source.
    """
    case = Case(features, neighbours, surroundings)
    asked = [one for one in ASKED if features.kind in one.kinds]
    found = [Unchecked(words, one.decides) for one in asked for words in one.missing(case)]
    return tuple(sorted(found, key=lambda one: not one.decides))


@dataclass(frozen=True)
class _Asked:
    """Something that is asked of kinds of part: what is missing, in words."""

    missing: Callable[[Case], list[str]]
    kinds: tuple[str, ...]
    decides: bool = True


def _runners(case: Case) -> list[str]:
    return ["runner count"] if case.around.cylinders and case.part.runners is None else []


def _head(case: Case) -> list[str]:
    if case.around.head_flange is None:
        return ["head flange (the engine's isn't noted)"]
    return ["head flange"] if case.part.head_flange is None else []


def _pitch(case: Case) -> list[str]:
    return ["port pitch"] if case.around.port_pitch and case.part.port_pitch is None else []


def _angle(case: Case) -> list[str]:
    return ["bank angle"] if case.around.bank_angle and case.part.bank_angle is None else []


def _height(case: Case) -> list[str]:
    if case.around.bonnet_height is None:
        return ["height (the bonnet isn't measured)"]
    return ["height"] if case.part.height is None else []


def _boost(case: Case) -> list[str]:
    return ["boost rating"] if case.around.boost and case.part.boost_rating is None else []


def _heat(case: Case) -> list[str]:
    return ["heat limit"] if case.around.heat is not None and case.part.heat_limit is None else []


def _fuel(case: Case) -> list[str]:
    return ["fuels"] if case.around.fuel.lower() != USUAL_FUEL and case.part.fuels is None else []


def _ports(case: Case) -> list[str]:
    if case.part.ports is not None:
        return []
    grave = [port for port in case.around.ports if any(word in port.lower() for word in ("servo", "brake"))]
    return [f"port for the {grave[0]}"] if grave else []


def _other_ports(case: Case) -> list[str]:
    return ["vacuum ports"] if case.around.ports and case.part.ports is None and not _ports(case) else []


def _homes(case: Case) -> list[str]:
    return ["bosses"] if case.around.homes and case.part.homes is None else []


def _plugs(case: Case) -> list[str]:
    return ["connector and signal"] if case.around.plugs and case.part.plugs is None else []


def _bolts(case: Case) -> list[str]:
    """Flanged ends of which one side's bolts are not known; a clamp needs none."""
    part, at = case.part, case.at
    ends = (
        (part.inlet, at.before.outlet if at.before else None, at.before_name, at.before),
        (part.outlet, at.behind.inlet if at.behind else None, at.behind_name, at.behind),
    )
    return [f"bolts to {name}" for mine, other, name, there in ends if there and _unbolted(mine, other)]


def _unbolted(mine: Joint | None, other: Joint | None) -> bool:
    if (mine and mine.outside) or (other and other.outside):
        return False
    return not (mine and mine.bolt_count and other and other.bolt_count)


ASKED = (
    _Asked(_runners, ("manifold",)),
    _Asked(_head, ("manifold",)),
    _Asked(_pitch, ("manifold",)),
    _Asked(_angle, ("manifold",)),
    _Asked(_height, ("manifold",)),
    _Asked(_ports, ("manifold",)),
    _Asked(_homes, ("manifold",)),
    _Asked(_other_ports, ("manifold",), decides=False),
    _Asked(_plugs, ("throttle", "meter")),
    _Asked(_bolts, ("throttle", "adapter", "manifold")),
    _Asked(_boost, ("tube", "throttle", "adapter", "manifold")),
    _Asked(_heat, ("tube", "manifold", "filter")),
    _Asked(_fuel, ("manifold", "throttle")),
)
