"""How two air paths differ, element by element, in the order of the air."""

from collections.abc import Sequence
from dataclasses import dataclass
from difflib import SequenceMatcher


@dataclass(frozen=True)
class Place:
    """One element of a path: its kind, its label, the cylinder it belongs to, and what stands there: part and state."""

    kind: str
    label: str
    cylinder: int | None
    holds: tuple[str, str]


@dataclass(frozen=True)
class BuildChange:
    """One difference: `before` or `after` is missing where an element was added or taken out."""

    before: Place | None
    after: Place | None


def build_changes(before: Sequence[Place], after: Sequence[Place]) -> list[BuildChange]:
    """What differs between two paths: elements exchanged, added and taken out.

    Arguments: before, after: places in the order of the air.
    Returns: differences, in that order; none where the paths are the same.
    Raises: nothing.
    Source: longest common run of kinds and cylinders (Ratcliff and Obershelp).
    """
    keys = [[(place.kind, place.cylinder) for place in places] for places in (before, after)]
    found = []
    for tag, a0, a1, b0, b1 in SequenceMatcher(None, keys[0], keys[1], autojunk=False).get_opcodes():
        if tag == "equal":
            pairs = zip(before[a0:a1], after[b0:b1], strict=True)
            found += [BuildChange(one, other) for one, other in pairs if one.holds != other.holds]
            continue
        found += [BuildChange(one, None) for one in before[a0:a1]]
        found += [BuildChange(None, other) for other in after[b0:b1]]
    return found
