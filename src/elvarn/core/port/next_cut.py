"""Where metal comes off next, how much, what that is worth, and when to stop."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from enum import StrEnum

from elvarn.core.port.level import Gauged, LevelCut, ToCut, level_cuts
from elvarn.core.port.worth import BELL, Record, Worth, worth

FINEST = 0.00005  # m: a cut that is shallower is polishing; choice, no source
ENOUGH = 0.9  # of what is short: where walls allow less, they end the cut; choice, no source


class Bar(StrEnum):
    """Why no metal may come off at a station."""

    LAND = "land"
    BOSS = "boss"
    WELD = "weld"
    REACH = "reach"
    MOULDED = "moulded"


class Head(StrEnum):
    """What the answer is."""

    CUT = "cut"
    GAUGE = "gauge"
    MEASURE = "measure"
    WALLS = "walls"
    TARGET = "target"
    STOP = "stop"


@dataclass(frozen=True)
class Station:
    """A station of a runner: place [m] from the entry, area [m²] now and wanted (None where not measured, or not said),
    the walls gauged there, and what bars it."""

    place: float
    now: float | None
    wanted: float | None
    walls: tuple[Gauged, ...] = ()
    bar: Bar | None = None

    @property
    def short(self) -> float:
        """Area [m²] that is missing; 0 where it is there, or nothing is known."""
        return max(self.wanted - self.now, 0.0) if self.now is not None and self.wanted is not None else 0.0


@dataclass(frozen=True)
class RunnerNow:
    """A runner with its stations in order, what it flows [m³/s] where that was read, and the radius of its entry over
    the bore [-]."""

    number: int
    stations: tuple[Station, ...]
    flow: float | None = None
    entry: float = BELL


@dataclass(frozen=True)
class Cell:
    """A station with what is to be done there: the cut that its walls allow, None where none was gauged or is to be
    made; its share of the runner's gain [-]; whether the walls end it short of the target."""

    station: Station
    cut: LevelCut | None
    share: float
    walled: bool


@dataclass(frozen=True)
class Rest:
    """What is left to do on a runner: its cells in order; whether two of them or more were measured; the gain [-] of
    all of it with its half-range, the same in flow [m³/s] where the runner was flowed; and whether that is less than
    the bench could show."""

    number: int
    cells: tuple[Cell, ...]
    known: bool
    gain: float
    half: float
    flow_gain: float | None
    flow_half: float | None
    unseen: bool


@dataclass(frozen=True)
class NextCut:
    """The answer, and where: runner and index of its station, None where it is no one place."""

    head: Head
    runner: int | None
    station: int | None
    rests: tuple[Rest, ...]


def next_cut(runners: Sequence[RunnerNow], record: Record, showable: float | None = None) -> NextCut:
    """Where to take metal next: the cut with the largest share of its runner's gain, among runners whose whole rest the
    bench could show.

    Arguments: runners; record of the model on this casting; showable [m³/s]: the least difference of a runner that a
    bench can show, None where that is not known.
    Returns: the answer with what is left on each runner.
    Raises: as `level_cuts` and `worth`.
    Source: derivation: largest expected gain first, by the series of sections.
    """
    rests = tuple(_rest(runner, record, showable) for runner in runners)
    if all(not any(_known(one.station) for one in rest.cells) for rest in rests):
        return NextCut(Head.MEASURE, None, None, rests)
    if all(one.station.wanted is None for rest in rests for one in rest.cells):
        return NextCut(Head.TARGET, None, None, rests)
    seen = [rest for rest in rests if not rest.unseen]
    found = _best(seen, lambda cell: cell.cut is not None and cell.cut.depth >= FINEST)
    if found:
        return NextCut(Head.CUT, *found, rests)
    blind = _best(seen, lambda cell: cell.cut is None and cell.station.bar is None and cell.station.short > 0)
    if blind:
        return NextCut(Head.GAUGE, *blind, rests)
    unknown = next((rest for rest in rests if not rest.known), None)
    if unknown is not None:
        return NextCut(Head.MEASURE, unknown.number, _first_open(unknown), rests)
    ended = any(cell.walled or (cell.station.bar and cell.station.short > 0) for rest in seen for cell in rest.cells)
    return NextCut(Head.WALLS if ended else Head.STOP, None, None, rests)


def _rest(runner: RunnerNow, record: Record, showable: float | None) -> Rest:
    cuts = _cuts(runner.stations)
    found = _worth(runner, cuts)
    cells = tuple(
        Cell(station, cut, share * record.factor, cut is not None and cut.area < ENOUGH * station.short)
        for station, cut, share in zip(runner.stations, cuts, found.shares, strict=True)
    )
    gain = found.gain * record.factor
    half = record.half_width(found.gain)
    flow_gain = gain * runner.flow if runner.flow is not None else None
    flow_half = half * runner.flow if runner.flow is not None else None
    known = sum(_known(station) for station in runner.stations) > 1
    unseen = known and flow_gain is not None and showable is not None and flow_gain < showable
    return Rest(runner.number, cells, known, gain, half, flow_gain, flow_half, unseen)


def _cuts(stations: Sequence[Station]) -> list[LevelCut | None]:
    """The cut at each station that is short and may be cut, where its wall was gauged."""
    to_cut = {
        n: ToCut(station.now, station.walls, station.short)
        for n, station in enumerate(stations)
        if station.bar is None and station.walls and station.now is not None and station.short > 0
    }
    found = dict(zip(to_cut, level_cuts(list(to_cut.values())), strict=True))
    return [found.get(n) for n in range(len(stations))]


def _worth(runner: RunnerNow, cuts: Sequence[LevelCut | None]) -> Worth:
    """Of the stations that were measured; where no wall was gauged, as if the target could be reached."""
    known = [n for n, station in enumerate(runner.stations) if station.now is not None]
    shares = [0.0] * len(runner.stations)
    if len(known) < 2:
        return Worth(0.0, tuple(shares))
    now = [runner.stations[n].now or 0.0 for n in known]
    then = [area + _to_come(runner.stations[n], cuts[n]) for n, area in zip(known, now, strict=True)]
    found = worth([runner.stations[n].place for n in known], now, then, runner.entry)
    for n, share in zip(known, found.shares, strict=True):
        shares[n] = share
    return Worth(found.gain, tuple(shares))


def _to_come(station: Station, cut: LevelCut | None) -> float:
    if station.bar is not None:
        return 0.0
    return cut.area if cut is not None else station.short


def _best(rests: Sequence[Rest], fits: Callable[[Cell], bool]) -> tuple[int, int] | None:
    """Runner and station of the largest share among the cells that fit."""
    found = [(cell.share, rest.number, n) for rest in rests for n, cell in enumerate(rest.cells) if fits(cell)]
    return max(found)[1:] if found else None


def _first_open(rest: Rest) -> int:
    return next((n for n, cell in enumerate(rest.cells) if not _known(cell.station)), 0)


def _known(station: Station) -> bool:
    return station.now is not None
