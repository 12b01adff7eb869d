"""Dimensions of a part, advertised beside measured."""

from dataclasses import dataclass

from elvarn import units
from elvarn.service.record.part import PartFacts, main_dimension

SAME_BORE_PERCENT = 0.5


@dataclass(frozen=True)
class Dimension:
    """A dimension as its maker states it and as it was measured here."""

    name: str
    advertised: units.Shown | None
    measured: units.Shown | None
    difference: str


def dimensions_of(facts: PartFacts, preset: units.Preset) -> list[Dimension]:
    stated = facts.advertised
    rows: list[tuple[str, str, float | None, units.Quantity]] = [
        ("Bore", "bore", stated.bore_mm, "length"),
        ("Bore at the outlet", "bore_out", stated.bore_out_mm, "length"),
        ("Length", "length", stated.length_mm, "length"),
        ("Volume", "volume", stated.volume_l, "volume"),
        ("Opening", "opening", None, "length"),
    ]
    found = []
    for name, quantity, figure, kind in rows:
        here = main_dimension(facts, quantity)
        if name != "Bore" and here is None and figure is None:
            continue
        advertised = figure / 1000 if figure is not None else None
        found.append(
            Dimension(
                name,
                units.show(advertised, kind, preset) if advertised else None,
                units.show(here, kind, preset) if here else None,
                _difference(advertised, here, kind, preset),
            )
        )
    return found


def _difference(stated: float | None, here: float | None, kind: units.Quantity, preset: units.Preset) -> str:
    if not stated or not here or abs(here / stated - 1) * 100 < SAME_BORE_PERCENT:
        return ""
    shown = units.show_difference(here - stated, kind, preset)
    return f"{shown.text} {shown.unit}"
