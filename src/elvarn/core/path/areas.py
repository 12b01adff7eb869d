"""Effective areas of the stages of a way, and how far each jet carries on."""

from collections.abc import Sequence
from math import inf, sqrt

import numpy as np

from elvarn.core.arrays import Array
from elvarn.core.gas.discharge import round_area
from elvarn.core.path.chain import parallel_area
from elvarn.core.path.passage import Passage
from elvarn.core.path.routes import Stage

ONE_MILLIMETRE = 0.001
LEAST_LOSS_LEFT = 0.05  # of an element's loss, where the next one takes over its jet whole


def carried_areas(stages: Sequence[Stage], passages: Sequence[Passage | None], areas: Array) -> Array:
    """Effective areas of a chain in which each jet goes on into the next bore, as far as that takes it.

    Flowed alone, an element loses the whole velocity head at its exit; in front of a bore A2 only (1/A1 − 1/A2)²
    of it where the stream widens, and none where it does not.
    Arguments: stages: of one way; passages: by place; areas [m²]: effective, shape (stages, variants).
    Returns: effective areas [m²] of the same shape.
    Raises: nothing.
    Source: Borda and Carnot; at least a twentieth of each loss is left.
    """
    inverse = np.where(np.isfinite(areas), 1 / np.square(areas), 0.0)
    for index in range(len(stages) - 1):
        out, following = _only(stages[index], passages), _only(stages[index + 1], passages)
        if out is None or following is None or not out.bore_out or not following.bore_in:
            continue
        exit_area, next_area = round_area(out.bore_out), round_area(following.bore_in)
        kept = max(1 / exit_area - 1 / next_area, 0.0) ** 2 - 1 / exit_area**2
        inverse[index] = np.maximum(inverse[index] + kept, LEAST_LOSS_LEFT * inverse[index])
    with np.errstate(divide="ignore"):
        return np.asarray(1 / np.sqrt(inverse))


def parts_of_stage(stage: Stage, passages: Sequence[Passage | None], area: float) -> dict[int, float]:
    """By which part each element of a stage is to blame for its loss, weighed by the air that passes it.

    Arguments: stage; passages: by place; area [m²] of the whole stage.
    Returns: parts [-] by place; a place of which nothing is known has none.
    Raises: nothing.
    Source: series rule: losses go with 1/A²; ducts side by side share the air by their areas.
    """
    found: dict[int, float] = {}
    for duct in stage.ducts:
        own = _duct_area(duct, passages, "area")
        of_air = 1.0 if len(stage.ducts) == 1 else own / area
        for place in duct:
            known = known_area(passages[place], "area")
            if known is not None:
                found[place] = of_air * (own / known) ** 2 if np.isfinite(known) else 0.0
    return found


def areas_along(stages: Sequence[Stage], passages: Sequence[Passage | None], pick: str) -> Array:
    """Effective area of every stage of a way.

    Arguments: stages: of one way; passages: by place; pick: "area", "low" or "high".
    Returns: areas [m²], shape (stages, 1).
    Raises: nothing.
    Source: as `stage_area`.
    """
    return np.array([[stage_area(stage, passages, pick)] for stage in stages])


def stage_area(stage: Stage, passages: Sequence[Passage | None], pick: str, wider: tuple[int, ...] = ()) -> float:
    """Effective area of one stage: a duct, or ducts side by side.

    Arguments: stage; passages: by place; pick: "area", "low" or "high"; wider: places thought a millimetre wider.
    Returns: area [m²], infinite where nothing of it is known.
    Raises: nothing.
    Source: series rule 1/A² within a duct, areas side by side add.
    """
    if len(stage.ducts) == 1:
        return _duct_area(stage.ducts[0], passages, pick, wider)
    return float(parallel_area(np.array([_duct_area(duct, passages, pick, wider) for duct in stage.ducts])))


def _duct_area(
    duct: Sequence[int], passages: Sequence[Passage | None], pick: str, wider: tuple[int, ...] = ()
) -> float:
    inverse = 0.0
    for place in duct:
        area = known_area(passages[place], pick)
        if area is not None and area < inf:
            inverse += 1 / (area * _widening(passages[place], place in wider)) ** 2
    return 1 / sqrt(inverse) if inverse else inf


def _widening(passage: Passage | None, wider: bool) -> float:
    bore = smallest_bore(passage)
    return ((bore + ONE_MILLIMETRE) / bore) ** 2 if wider and bore else 1.0


def smallest_bore(passage: Passage | None) -> float | None:
    """The narrower end of a passage.

    Arguments: passage, or None where nothing is known.
    Returns: bore [m], or None.
    Raises: nothing.
    Source: definition.
    """
    bores = [bore for bore in (passage.bore_in, passage.bore_out) if bore] if passage else []
    return min(bores, default=None)


def known_area(passage: Passage | None, pick: str) -> float | None:
    """One of a passage's areas.

    Arguments: passage, or None where nothing is known; pick: "area", "low" or "high".
    Returns: area [m²], or None.
    Raises: nothing.
    Source: definition.
    """
    if passage is None:
        return None
    value: float | None = getattr(passage, pick)
    return value


def unknown_places(stages: Sequence[Stage], passages: Sequence[Passage | None]) -> tuple[int, ...]:
    """Places on a way of which nothing is known.

    Arguments: stages: of one way; passages: by place.
    Returns: the places, in the order of the air.
    Raises: nothing.
    Source: definition.
    """
    places = (place for stage in stages for duct in stage.ducts for place in duct)
    return tuple(place for place in places if known_area(passages[place], "area") is None)


def _only(stage: Stage, passages: Sequence[Passage | None]) -> Passage | None:
    if len(stage.ducts) != 1 or len(stage.ducts[0]) != 1:
        return None
    return passages[stage.ducts[0][0]]
