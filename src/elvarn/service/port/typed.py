"""Sections and walls as they are typed: "42", "38 x 44", "38 x 44 r 6", "D 42 x 36", "1219 mm2", "1.5 x 1.75 in"."""

import re
from collections.abc import Callable
from dataclasses import dataclass

from elvarn import units
from elvarn.core.port import section
from elvarn.service.kernel.errors import Invalid

FORMS = "Type 42, 38 x 44, 38 x 44 r 6, ellipse 38 x 44, D 42 x 36, or an area such as 1219 mm2."
WORDS = {"round": "round", "ø": "round", "oval": "oval", "ellipse": "ellipse", "rect": "rectangle",
         "rectangle": "rectangle", "d": "d"}  # fmt: skip
_WORD = re.compile(rf"^({'|'.join(sorted(WORDS, key=len, reverse=True))})(?![a-z])\s*", re.IGNORECASE)
_RADIUS = re.compile(r"\s*\br\s*(?=[\d.,])", re.IGNORECASE)
_TIMES = re.compile(r"\s*(?:[x×*]|\bby\b)\s*", re.IGNORECASE)


@dataclass(frozen=True)
class TypedSection:
    """A section as the table keeps it: its shape, and its sizes [m]; of an area alone [m²]."""

    shape: str
    sizes: tuple[float, ...]


@dataclass(frozen=True)
class KnownArea:
    """A section of which only the area [m²] is known: its perimeter is taken as a circle's."""

    area: float

    @property
    def perimeter(self) -> float:
        return section.Round(section.equal_diameter(self.area)).perimeter


@dataclass(frozen=True)
class Traced:
    """A section whose outline was traced: its area [m²] and perimeter [m]."""

    area: float
    perimeter: float


AS_KEPT: dict[str, Callable[..., section.Section]] = {
    "round": section.Round,
    "area": KnownArea,
    "traced": Traced,
    "ellipse": section.Ellipse,
    "rectangle": section.RoundedRectangle,
}


def read_section(text: str) -> TypedSection:
    """What was typed of a section. Raises Invalid with what can be typed; CoreError for sizes that can't be."""
    tidy = text.strip()
    area = _area(tidy)
    if area is not None:
        return _checked(TypedSection("area", (area,)), text)
    word = _WORD.match(tidy)
    rest = tidy[word.end() :] if word else tidy
    body, *radius = _RADIUS.split(rest, maxsplit=1)
    sizes = _lengths([*_TIMES.split(body), *radius], text)
    shape = WORDS[word.group(1).lower()] if word else ""
    return _checked(_shaped(shape, sizes, bool(radius), text), text)


def section_of(shape: str, sizes: tuple[float, ...] | list[float]) -> section.Section:
    """The section that a reading means. Raises CoreError for sizes that can't be."""
    if shape == "oval":
        return section.Oval(min(sizes), max(sizes))
    if shape == "d":
        return section.DShape(max(sizes), min(sizes))
    return AS_KEPT[shape](*sizes)


def _area(text: str) -> float | None:
    try:
        figure, unit = units.split(text, "")
    except units.UnitError:
        return None
    known = units.recognise_unit(unit, "area") if unit else None
    return units.to_si(figure, known, "area") if known else None


def _lengths(parts: list[str], text: str) -> list[float]:
    """Lengths in order; one without a unit has that of the next that has one, the last mm."""
    found: list[float] = []
    unit = "mm"
    for part in reversed(parts):
        try:
            typed = units.parse(part, "length", unit)
        except units.UnitError as error:
            raise Invalid(f"'{text}' isn't a section: {error} {FORMS}", path="typed") from error
        unit = typed.unit
        found.insert(0, typed.si)
    return found


def _shaped(shape: str, sizes: list[float], rounded: bool, text: str) -> TypedSection:
    wanted = shape or {1: "round", 2: "oval", 3: "rectangle"}.get(len(sizes), "")
    count = {"round": 1, "oval": 2, "ellipse": 2, "rectangle": 3, "d": 2}.get(wanted)
    if wanted == "rectangle" and len(sizes) == 2:
        sizes = [*sizes, 0.0]
    if count != len(sizes) or rounded != (wanted == "rectangle" and sizes[2] > 0):
        raise Invalid(f"'{text}' isn't a section. {FORMS}", path="typed")
    return TypedSection(wanted, tuple(sizes))


def _checked(found: TypedSection, text: str) -> TypedSection:
    if not section_of(found.shape, found.sizes).area > 0:
        raise Invalid(f"'{text}' has no area. {FORMS}", path="typed")
    return found
