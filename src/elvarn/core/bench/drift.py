"""Drift within a series: what the first runner read at the beginning and again at the end."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt

from elvarn.core.errors import NotEnoughData, require_positive
from elvarn.core.finding import Finding
from elvarn.core.statistics.repeatability import repeatability_limit
from elvarn.core.verdict import within


@dataclass(frozen=True)
class Drift:
    """Drift over a series as a fraction of the first reading, whether repeats alone would hardly make it, and the times
    [s] between which it was seen."""

    fraction: float
    real: bool
    began: float
    ended: float

    def removed(self, flow: float, at: float) -> float:
        """A reading without the drift that had come by its time. Only a drift that is real is removed."""
        if not self.real or self.ended <= self.began:
            return flow
        share = min(max((at - self.began) / (self.ended - self.began), 0.0), 1.0)
        return flow / (1 + self.fraction * share)


def drift_of(times: Sequence[float], flows: Sequence[float], repeatability: float) -> Drift:
    """Drift from readings of one runner in one series.

    Arguments: times [s] and flows [any flow unit] in the order of reading, two or more; repeatability [-].
    Returns: the drift from the first to the last reading.
    Raises: NotEnoughData for fewer than two; OutOfRange for a flow not above zero.
    Source: removed only where |first − repeat| exceeds 2.8 s_r (ISO 5725-6), else reported; linear in time is common
    practice, no source.
    """
    if len(flows) < 2 or len(times) != len(flows):
        raise NotEnoughData("repeat", "The first runner was not read again.", "Read it once more at the end.")
    for flow in flows:
        require_positive(flow=flow)
    fraction = flows[-1] / flows[0] - 1
    return Drift(fraction, within(fraction, repeatability_limit(repeatability)).real, times[0], times[-1])


def drift_findings(drift: Drift, repeatability: float) -> list[Finding]:
    """What is said of a drift.

    Arguments: drift; repeatability [-].
    Returns: one finding, in doubt where the drift is real.
    Raises: nothing.
    Source: as `drift_of`.
    """
    limit = f"({repeatability_limit(repeatability) * 100:.1f} %)"
    read = f"The first runner read {drift.fraction * 100:+.1f} % at the end of the series"
    if drift.real:
        text = f"{read}, more than repeats differ {limit}: this drift is taken out, linear in time."
        return [Finding("drift", text, doubt=True)]
    return [Finding("no_drift", f"{read}: within what repeats differ {limit}.")]


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
