"""A measured difference and its variance, part by part: refits, sessions, what a plate leaves.

A difference is d = Σ a y with Σ a = 0 over readings y in log percent. Its coefficients are all in which one use of it
differs from another: one runner, the mean over runners, the effect of an item, a copy, a point of a curve, a design.
"""

from collections.abc import Callable, Hashable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from math import exp, inf, log, sqrt
from types import MappingProxyType

from scipy.special import fdtri

from elvarn.core.errors import NotEnoughData, require_positive
from elvarn.core.statistics.modulus import CONFIDENCE, KNOWN, modulus_quantile
from elvarn.core.statistics.scatter import ASSUMED_WEIGHT, SURE, Scatter, residuals
from elvarn.core.statistics.uncertainty import rectangular

CANCELLED = 1e-12  # what coefficients sum to where they cancel
REST = Scatter(0.1, ASSUMED_WEIGHT)  # % that a plate leaves between sessions, never learned; choice, no source
NO_PLATES: Mapping[Hashable, int] = MappingProxyType({})


BETWEEN_SESSIONS = ("session", "plate", "rest", "range")
MATTERS = 1.5  # %, what a shop does not care about where it says nothing else; choice, no source


@dataclass(frozen=True)
class Term:
    """One reading of a difference [log percent] with its coefficient.

    `cell` is the thing, side and mount of which more readings would tell more; `setup`, `mount` and `session` name what
    it shares with other readings.
    """

    log: float
    coefficient: float
    cell: Hashable
    setup: Hashable
    session: Hashable
    mount: Hashable = None


@dataclass(frozen=True)
class Known:
    """What is known of an instrument: the scatter of a refit (a pull), of a mount, of a session, of its plate; how
    often the same plate was read in each session; half-ranges [%] within which something else may be out; and what
    difference [%] matters to the shop."""

    refit: Scatter
    session: Scatter
    plate: Scatter
    mount: Scatter | None = None
    plates: Mapping[Hashable, int] = field(default_factory=lambda: NO_PLATES)
    ranges: tuple[float, ...] = ()
    matters: float = MATTERS


@dataclass(frozen=True)
class Part:
    """A part of a difference's variance: its name, how often the scatter's square counts, and the scatter."""

    name: str
    count: float
    scatter: Scatter

    @property
    def variance(self) -> float:
        return self.count * self.scatter.value**2

    def width(self, judged: int, confidence: float = CONFIDENCE) -> float:
        """Half-width [log percent] that this part alone makes, with so many judged together."""
        return modulus_quantile(judged, self.scatter.freedom, confidence) * sqrt(self.variance)


@dataclass(frozen=True)
class Cell:
    """What a cell weighs in a difference, and how many readings it has."""

    coefficient: float
    readings: int


@dataclass(frozen=True)
class Difference:
    """A difference [log percent], the parts of its variance, the cells that more readings would fill, and whether the
    compared readings scatter more than the instrument was known to."""

    value: float
    parts: tuple[Part, ...]
    cells: tuple[Cell, ...]
    session_sums: Mapping[Hashable, float]
    unquiet: bool = False

    def half_width(self, judged: int, confidence: float = CONFIDENCE) -> float:
        """Half-width [log percent], at 95 % unless said otherwise, with so many judged together: each part with its own
        quantile."""
        return sqrt(sum(part.width(judged, confidence) ** 2 for part in self.parts))

    @property
    def fraction(self) -> float:
        """The difference as a fraction of what it is held against."""
        return exp(self.value / 100) - 1


def log_percent(reading: float) -> float:
    """A reading in log percent.

    Arguments: reading [any unit], scalar.
    Returns: 100 ln(reading) [%].
    Raises: OutOfRange for a reading not above zero.
    Source: definition.
    """
    require_positive(reading=reading)
    return 100 * log(reading)


def difference(terms: Sequence[Term], known: Known, value: float | None = None) -> Difference:
    """A difference with the parts of its variance.

    Arguments: terms, whose coefficients sum to 0; known of the instrument; value [%] of the logarithm where it is not
    the terms' own sum, as for a ratio of means.
    Returns: the difference.
    Raises: NotEnoughData where a side has no reading.
    Source: JCGM 100:2008 (GUM), 5.1.2, part by part: c = Σ (Σ a)² over what readings share. Where the readings compared
    scatter more than the instrument is known to, at 1 %, their own scatter stands.
    """
    if not any(t.coefficient > 0 for t in terms) or not any(t.coefficient < 0 for t in terms):
        raise NotEnoughData("readings", "A side has no reading.", "Read both sides.")
    refit, unquiet = _guarded(terms, known.refit)
    sums = {name: total for name, total in _sums(terms, lambda t: t.session).items() if abs(total) > CANCELLED}
    parts = [Part("refit", _square(_sums(terms, lambda t: t.setup).values()), refit)]
    if known.mount is not None:
        parts.append(Part("mount", _square(_sums(terms, lambda t: t.mount).values()), known.mount))
    parts.extend(_session_parts(sums, known, known.plates))
    parts.extend(Part("range", 1.0, Scatter(rectangular(half), inf)) for half in known.ranges if half > 0)
    if value is None:
        value = sum(term.coefficient * term.log for term in terms)
    return Difference(value, tuple(part for part in parts if part.count > CANCELLED), _cells(terms), sums, unquiet)


def with_more(difference: Difference, more: int) -> Difference:
    """The same difference with so many more readings in each cell, each of a set-up of its own.

    Arguments: difference; more [-].
    Returns: the difference as it would be.
    Raises: nothing.
    Source: variance of a mean; the repeats add to what is known of the refit.
    """
    count = sum(cell.coefficient**2 / (cell.readings + more) for cell in difference.cells)

    def grown(part: Part) -> Part:
        if part.name != "refit" or not more:
            return part
        scatter = replace(part.scatter, freedom=part.scatter.freedom + more * len(difference.cells))
        return Part(part.name, count, scatter)

    return replace(difference, parts=tuple(grown(part) for part in difference.parts))


def with_plate(difference: Difference, known: Known) -> Difference:
    """The same difference with the plate read twice in each of its sessions.

    Arguments: difference; known of the instrument.
    Returns: the difference as it would be.
    Raises: nothing.
    Source: as `difference`.
    """
    kept = tuple(part for part in difference.parts if part.name not in ("session", "plate", "rest"))
    twice = dict.fromkeys(difference.session_sums, 2)
    return replace(difference, parts=kept + tuple(_session_parts(difference.session_sums, known, twice)))


def in_one_session(difference: Difference) -> Difference:
    """The same difference with all of it read in one session.

    Arguments: difference.
    Returns: the difference as it would be.
    Raises: nothing.
    Source: as `difference`: what a session has in common cancels within it, air that is not known too.
    """
    return replace(difference, parts=tuple(part for part in difference.parts if part.name not in BETWEEN_SESSIONS))


def _session_parts(sums: Mapping[Hashable, float], known: Known, plates: Mapping[Hashable, int]) -> list[Part]:
    if not sums:
        return []
    square = _square(sums.values())
    if all(plates.get(session, 0) > 0 for session in sums):
        read = sum(total**2 / plates[session] for session, total in sums.items())
        return [Part("plate", read, known.plate), Part("rest", square, REST)]
    return [Part("session", square, known.session)]


def _guarded(terms: Sequence[Term], refit: Scatter) -> tuple[Scatter, bool]:
    """The refits' scatter, or that of the compared readings themselves where it is clearly larger."""
    repeats: dict[Hashable, list[float]] = {}
    for term in terms:
        repeats.setdefault((term.cell, term.session, term.mount), []).append(term.log)
    own = [w for group in repeats.values() for w in residuals(group)]
    if not own:
        return refit, False
    square = sum(w * w for w in own) / len(own)
    if square <= refit.value**2 * fdtri(len(own), min(refit.freedom, KNOWN), SURE):
        return refit, False
    return Scatter(sqrt(square), len(own), len(own)), True


def _cells(terms: Sequence[Term]) -> tuple[Cell, ...]:
    sums = _sums(terms, lambda term: term.cell)
    setups: dict[Hashable, set[Hashable]] = {}
    for term in terms:
        setups.setdefault(term.cell, set()).add(term.setup)
    return tuple(Cell(sums[cell], len(setups[cell])) for cell in sums)


def _sums(terms: Sequence[Term], shared: Callable[[Term], Hashable]) -> dict[Hashable, float]:
    sums: dict[Hashable, float] = {}
    for term in terms:
        sums[shared(term)] = sums.get(shared(term), 0.0) + term.coefficient
    return sums


def _square(sums: Iterable[float]) -> float:
    return sum(total * total for total in sums)
