"""Figures of another shop's bench: kept apart, with what that bench shows against ours."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import expm1, log
from statistics import fmean

from elvarn.service.record.stated import at_reference
from elvarn.store.models import FlowReading


@dataclass(frozen=True)
class Offset:
    """What a shop's bench shows against ours, less one, over how many ports that both read alike; None without one."""

    shop: str
    fraction: float | None
    ports: int


def offsets_of(readings: Sequence[FlowReading]) -> list[Offset]:
    """The offset of every other shop among these readings, over ports in the same state with the same entry."""
    shops: dict[str, dict[tuple[object, ...], list[float]]] = {"": {}}
    for reading in readings:
        key = (reading.part_state_id, reading.element_kind, reading.cylinder, reading.setup.entry_radius)
        shops.setdefault(reading.setup.bench.shop, {}).setdefault(key, []).append(at_reference(reading))
    ours = shops.pop("")
    found = []
    for shop, ports in sorted(shops.items()):
        ratios = [log(fmean(flows) / fmean(ours[port])) for port, flows in ports.items() if port in ours]
        found.append(Offset(shop, expm1(fmean(ratios)) if ratios else None, len(ratios)))
    return found
