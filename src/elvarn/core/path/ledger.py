"""Rows of the loss ledger: places of a path that are told together."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import inf, nan

import numpy as np

from elvarn.core.path.areas import known_area, smallest_bore
from elvarn.core.path.passage import Passage
from elvarn.core.path.routes import Routes


@dataclass(frozen=True)
class Row:
    """One line of the ledger: an element, or those that each cylinder has for itself, taken together.

    `places` are the elements' places in the tree; `each` tells that every cylinder has its own. `area` [m²] is the
    effective area, of one of them on average; None where it is not known. `bore` [m] is the smallest known.
    """

    label: str
    kind: str
    places: tuple[int, ...]
    each: bool
    area: float | None
    bore: float | None


def rows_of(routes: Routes, passages: Sequence[Passage | None]) -> tuple[Row, ...]:
    """The lines of a ledger: an element each, those that belong to one cylinder together by their kind.

    Arguments: routes; passages: by place.
    Returns: rows, in the order of the air.
    Raises: nothing.
    Source: none.
    """
    places: dict[str, list[int]] = {}
    for place, element in enumerate(routes.elements):
        key = f"each {element.kind}" if element.cylinder is not None else f"{place}"
        places.setdefault(key, []).append(place)
    return tuple(_row(routes, passages, found) for found in places.values())


def _row(routes: Routes, passages: Sequence[Passage | None], places: list[int]) -> Row:
    first = routes.elements[places[0]]
    known = [known_area(passages[place], "area") for place in places]
    bores = [bore for place in places if (bore := smallest_bore(passages[place]))]
    label = first.label if len(places) == 1 else f"{first.kind.value.capitalize()}s"
    areas = [area for area in known if area is not None]
    area = nan if not areas else float(np.mean([a**-2 for a in areas])) ** -0.5 if min(areas) < inf else inf
    whole = None if len(areas) < len(places) else area
    each = first.cylinder is not None
    return Row(label, first.kind.value, tuple(places), each, whole, min(bores, default=None))
