"""What each runner holds by its sections, against what was poured into it."""

from dataclasses import dataclass

import numpy as np

from elvarn import units
from elvarn.core.port.stations import against_pouring, integrated_volume, taper_findings, tapers
from elvarn.service.port.grid import CellFacts, Grid


@dataclass(frozen=True)
class VolumeView:
    """A runner's volume between its first and last measured station, and as poured; where the two differ, or where it
    tapers too fast, `words` say so."""

    integrated: units.Shown | None
    poured: units.Shown | None
    taper_deg: float | None
    words: list[str]


def volumes_of(grid: Grid) -> list[VolumeView]:
    """One for each runner."""
    return [_volume(grid, row) for row in grid.cells]


def _volume(grid: Grid, row: tuple[CellFacts, ...]) -> VolumeView:
    known = [(cell.place, cell.now.area) for cell in row if cell.now]
    poured = grid.dimension("volume", row[0].cylinder) if row else None
    shown = units.show_in(1e6 * poured, "cc", 0) if poured else None
    if len(known) < 2:
        return VolumeView(None, shown, None, [])
    places, areas = zip(*known, strict=True)
    volume = integrated_volume(places, areas)
    angles = tapers(places, areas)
    mean = float(np.average(angles, weights=np.diff(places)))
    said = [one.text for one in taper_findings(angles)]
    if poured:
        apart = against_pouring(volume, poured)
        said += [apart.text] if apart else []
    return VolumeView(units.show_in(1e6 * volume, "cc", 0), shown, mean, said)
