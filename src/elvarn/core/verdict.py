"""Whether a difference is real: the one rule, for gains, effects, curves, copies and designs alike."""

from dataclasses import dataclass
from enum import StrEnum
from math import exp, inf, isfinite, sqrt

from scipy.special import nctdtr

from elvarn.core.difference import MATTERS, Difference, Known, in_one_session, with_more, with_plate
from elvarn.core.statistics.modulus import KNOWN

MOST_MORE = 9  # readings more on each side that are worth naming; choice, no source
POWER = 0.8  # chance to see a difference that is there; common practice, no source
OWN_ENOUGH = 4  # own repeats from which a scatter is no longer called assumed; choice, no source
LEARNABLE = ("refit", "mount", "session", "plate")


class Remedy(StrEnum):
    """What else it takes before more readings tell."""

    NONE = ""
    PLATE = "plate"
    ONE_SESSION = "one session"


@dataclass(frozen=True)
class Verdict:
    """A change with its half-width at 95 %, both in one unit, and whether it is real.

    `no_larger` says that it is no larger than what matters. `more` is how many readings more on each side would tell
    four times in five, after the remedy; None where no sensible number would, or none is needed. `assumed` and
    `one_setup` say what it rests on, `unquiet` that the readings compared scatter more than the instrument; `matters`
    [%] is what the shop cares about.
    """

    change: float
    half_width: float
    real: bool
    no_larger: bool = False
    more: int | None = None
    remedy: Remedy = Remedy.NONE
    assumed: bool = False
    one_setup: bool = False
    unquiet: bool = False
    matters: float = MATTERS

    @property
    def at_most(self) -> float:
        """What the change is no larger than, either way."""
        return abs(self.change) + self.half_width


def decide(found: Difference, known: Known, scale: float, judged: int = 1, plates: bool = True) -> Verdict:
    """The verdict on a difference.

    Arguments: found; known of the instrument; scale [any unit]: what 100 % of the change are; judged [-] together;
    plates: whether a plate could tie its sessions, else one session would.
    Returns: the verdict; change and half-width [as the scale].
    Raises: OutOfRange for a number judged that is not above zero.
    Source: `modulus_quantile`, two-sided at 95 % for all judged together; no larger than what matters by the two
    one-sided tests of Schuirmann, J. Pharmacokin. Biopharm. 15 (1987) 657.
    """
    wide = found.half_width(judged)
    change, room = 100 * found.fraction, _shown_width(found.value, wide)
    real = isfinite(wide) and abs(found.value) > wide
    no_larger = not real and isfinite(room) and abs(change) + room <= known.matters
    remedy, more = Remedy.NONE, None
    if not real and not no_larger and found.value and isfinite(wide):
        remedy, more = _what_would_tell(found, known, judged, plates)
    largest = max((p for p in found.parts if p.name in LEARNABLE), key=lambda p: p.width(judged), default=None)
    return Verdict(
        change / 100 * scale,
        room / 100 * scale,
        real,
        no_larger,
        more,
        remedy,
        assumed=largest is not None and largest.scatter.own < OWN_ENOUGH,
        one_setup=any(cell.readings == 1 for cell in found.cells),
        unquiet=found.unquiet,
        matters=known.matters,
    )


def power(found: Difference, judged: int = 1) -> float:
    """Chance that a difference of this size would be seen, were it the truth.

    Arguments: found; judged [-] together.
    Returns: probability [-].
    Raises: nothing.
    Source: Student, noncentral, with degrees of freedom by Welch–Satterthwaite: for planning only.
    """
    variance = sum(part.variance for part in found.parts)
    unknown = sum(part.variance**2 / part.scatter.freedom for part in found.parts)
    freedom = variance**2 / unknown if unknown else KNOWN
    limit, shift = found.half_width(judged) / sqrt(variance), abs(found.value) / sqrt(variance)
    lower = float(nctdtr(freedom, shift, -limit))
    return 1 - float(nctdtr(freedom, shift, limit)) + (lower if isfinite(lower) else 0.0)


def _what_would_tell(found: Difference, known: Known, judged: int, plates: bool) -> tuple[Remedy, int | None]:
    """The remedy, and how many readings more on each side."""
    for more in range(1, MOST_MORE + 1):
        if power(with_more(found, more), judged) >= POWER:
            return Remedy.NONE, more
    if not found.session_sums:
        return Remedy.NONE, None
    remedy = Remedy.PLATE if plates else Remedy.ONE_SESSION
    tied = with_plate(found, known) if plates else in_one_session(found)
    for more in range(MOST_MORE + 1):
        if power(with_more(tied, more), judged) >= POWER:
            return remedy, more
    return Remedy.NONE, None


def _shown_width(value: float, wide: float) -> float:
    """Half-width of the change in per cent: the change exceeds it exactly where the difference exceeds its own."""
    if not isfinite(wide):
        return inf
    return wide * 100 * (exp(value / 100) - 1) / value if value else wide
