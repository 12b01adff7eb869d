"""Samples of one set-up: their mean, whether they have settled, and how much of the bench's range they use."""

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt
from statistics import fmean, pstdev

from elvarn.core.errors import NotEnoughData, require_positive
from elvarn.core.finding import Finding

USUAL_COUNT = 10  # samples that a figure is the mean of; common practice, no source
SETTLED_WITHIN = 0.005  # of the mean, between the older and the younger half; common practice, no source
RANGE_FULL = 0.95  # of full scale: above it the bench is at its limit; common practice, no source
RANGE_BOTTOM = 0.25  # of full scale: below it the bench is in its bottom quarter; common practice, no source


@dataclass(frozen=True)
class SampleSeries:
    """Samples taken together: their mean [unit of the samples], their own scatter (standard deviation, same unit), the
    scatter of the mean, and the highest of them, which is no figure."""

    count: int
    mean: float
    scatter: float
    scatter_of_mean: float
    highest: float


def series_of(flows: Sequence[float]) -> SampleSeries:
    """The mean of samples and their scatter within one set-up, which does not replace the bench's repeatability.

    Arguments: flows [any flow unit], one a sample.
    Returns: series. Neighbours that resemble each other make the scatter of the mean larger than that of as many
    independent samples.
    Raises: NotEnoughData for no sample; OutOfRange for one that is not above zero.
    Source: variance of the mean of an AR(1) series by its lag-one correlation (Priestley, Spectral Analysis and Time
    Series, 1981, ch. 5).
    """
    if not flows:
        raise NotEnoughData("samples", "There is no sample.", "Wait for the bench to send some.")
    for flow in flows:
        require_positive(flow=flow)
    mean, scatter, count = fmean(flows), pstdev(flows), len(flows)
    alike = min(max(_neighbours(flows, mean), 0.0), 0.95)
    independent = max(count * (1 - alike) / (1 + alike), 1.0)
    return SampleSeries(count, mean, scatter, scatter / sqrt(independent), max(flows))


def settled(flows: Sequence[float], depressions: Sequence[float], count: int = USUAL_COUNT) -> bool:
    """Whether the bench has settled: of the last samples the older half says what the younger one says.

    Arguments: flows [any flow unit] and depressions [Pa], one a sample, the oldest first; count [-]: samples of a
    figure.
    Returns: whether flow and depression both agree within 0.5 %, or within twice the flow's own scatter.
    Raises: nothing.
    Source: common practice, no source.
    """
    if len(flows) < 2 * count or len(flows) != len(depressions):
        return False
    return _agrees(flows[-2 * count :], count) and _agrees(depressions[-2 * count :], count)


def range_findings(range_used: float) -> list[Finding]:
    """Doubt about a reading at the end or in the bottom of a bench's range.

    Arguments: range_used [-] of full scale, scalar.
    Returns: a finding above 95 % and below 25 %, else none.
    Raises: nothing.
    Source: common practice, no source.
    """
    if range_used > RANGE_FULL:
        text = f"{range_used * 100:.0f} % of range: too high. Use the next range up."
        return [Finding("range_full", text, doubt=True)]
    if 0 < range_used < RANGE_BOTTOM:
        text = f"{range_used * 100:.0f} % of range: use a smaller range."
        return [Finding("range_bottom", text, doubt=True)]
    return []


def _neighbours(flows: Sequence[float], mean: float) -> float:
    """Correlation of each sample with the next."""
    off = [flow - mean for flow in flows]
    total = sum(value * value for value in off)
    if len(flows) < 3 or total == 0:
        return 0.0
    return sum(one * other for one, other in itertools.pairwise(off)) / total


def _agrees(values: Sequence[float], count: int) -> bool:
    older, younger = values[:count], values[count:]
    mean = fmean(values)
    if mean <= 0:
        return False
    room = max(SETTLED_WITHIN * mean, 2 * pstdev(values) / sqrt(count))
    return abs(fmean(younger) - fmean(older)) <= room
