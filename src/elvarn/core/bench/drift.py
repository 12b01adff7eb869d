"""Drift within a series: what the first runner read at the beginning and again at the end."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt

from elvarn.core.difference import Known, Term, difference, log_percent
from elvarn.core.errors import NotEnoughData
from elvarn.core.finding import Finding
from elvarn.core.verdict import decide


@dataclass(frozen=True)
class Drift:
    """Drift over a series as a fraction of the first reading, with its half-width and whether it is real, and the times
    [s] between which it was seen."""

    fraction: float
    half_width: float
    real: bool
    began: float
    ended: float

    def removed(self, flow: float, at: float) -> float:
        """A reading without the drift that had come by its time. Only a drift that is real is removed."""
        if not self.real or self.ended <= self.began:
            return flow
        share = min(max((at - self.began) / (self.ended - self.began), 0.0), 1.0)
        return flow / (1 + self.fraction * share)


def drift_of(times: Sequence[float], flows: Sequence[float], known: Known) -> Drift:
    """Drift from readings of one runner in one series.

    Arguments: times [s] and flows [any flow unit] in the order of reading, two or more; known of the bench.
    Returns: the drift from the first to the last reading.
    Raises: NotEnoughData for fewer than two; OutOfRange for a flow not above zero.
    Source: `decide`; linear in time is common practice, no source.
    """
    if len(flows) < 2 or len(times) != len(flows):
        raise NotEnoughData("repeat", "The first runner was not read again.", "Read it once more at the end.")
    ends = ((flows[0], -1.0), (flows[-1], 1.0))
    terms = [Term(log_percent(flow), sign, sign, sign, None) for flow, sign in ends]
    verdict = decide(difference(terms, known), known, 1.0)
    return Drift(verdict.change, verdict.half_width, verdict.real, times[0], times[-1])


def drift_findings(drift: Drift) -> list[Finding]:
    """What is said of a drift.

    Arguments: drift.
    Returns: one finding, in doubt where the drift is real.
    Raises: nothing.
    Source: as `drift_of`.
    """
    width = f"{drift.half_width * 100:.1f} %"
    if drift.real:
        text = f"Drift {drift.fraction * 100:+.1f} % over the session, more than refits explain ({width}). "
        return [Finding("drift", f"{text}Corrected evenly over time.", doubt=True)]
    return [Finding("no_drift", f"No drift: first runner within {width} at the end.")]


def drift_free_difference(first: float, other: float, again: float) -> float:
    """Difference of B from A with linear drift taken out of the order A, B, A.

    Arguments: first, other, again [any unit]; scalars.
    Returns: difference [same unit].
    Raises: nothing.
    Source: definition, B − (A1 + A2)/2.
    """
    return other - (first + again) / 2


def drift_free_deviation(standard_deviation: float) -> float:
    """Standard deviation of `drift_free_difference`.

    Arguments: standard_deviation [any unit] of a single reading, scalar.
    Returns: standard deviation [same unit].
    Raises: nothing.
    Source: variance of a mean, 1.5 s².
    """
    return standard_deviation * sqrt(1.5)
