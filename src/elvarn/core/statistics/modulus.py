"""The studentised maximum modulus: how large the largest of several differences gets where nothing happened."""

from functools import lru_cache

import numpy as np
from scipy.special import gammainccinv, gammaincinv, gammaln, ndtr, ndtri

from elvarn.core.errors import require_positive
from elvarn.core.statistics.student import student_quantile

CONFIDENCE = 0.95
KNOWN = 1e5  # degrees of freedom from which a scatter counts as known
TAIL = 1e-13
NODES = 80


def modulus_quantile(count: int, freedom: float, confidence: float = CONFIDENCE) -> float:
    """The q with which all of so many independent differences stay within q times their common estimated scatter, 95 in
    100 unless said otherwise; on the safe side for correlated ones.

    Arguments: count [-] of differences judged together, one at least; freedom [-] of the scatter; confidence [-].
    Returns: quantile [-]; Student's for one difference.
    Raises: OutOfRange for a count or freedom not above zero.
    Source: Stoline and Ury, Technometrics 21 (1979) 87, computed by Gauss–Legendre over the logarithm of the scatter;
    on the safe side by Šidák, J. Amer. Statist. Assoc. 62 (1967) 626.
    """
    require_positive(count=count, freedom=freedom)
    return _quantile(count, freedom, confidence)


@lru_cache(maxsize=4096)
def _quantile(count: int, freedom: float, confidence: float) -> float:
    if freedom > KNOWN:
        return float(ndtri((1 + confidence ** (1 / count)) / 2))
    single = student_quantile(freedom, (1 + confidence) / 2)
    if count == 1:
        return single
    from scipy.optimize import brentq

    scatters, chances = _scatters(freedom)
    bonferroni = student_quantile(freedom, 1 - (1 - confidence) / (2 * count))

    def beyond(q: float) -> float:
        return float(np.sum(chances * (2 * ndtr(q * scatters) - 1) ** count)) - confidence

    return float(brentq(beyond, single, bonferroni * (1 + 1e-9), xtol=1e-10))


def _scatters(freedom: float) -> tuple[np.ndarray, np.ndarray]:
    """Estimated over true scatter at the nodes, and the chance that each stands for."""
    half = freedom / 2
    low, high = 0.5 * np.log(np.array([gammaincinv(half, TAIL), gammainccinv(half, TAIL)]) / half)
    nodes, weights = _legendre()
    x = (high + low) / 2 + (high - low) / 2 * nodes
    density = np.log(2) + half * np.log(half) - gammaln(half) + freedom * x - half * np.exp(2 * x)
    return np.exp(x), (high - low) / 2 * weights * np.exp(density)


@lru_cache(maxsize=1)
def _legendre() -> tuple[np.ndarray, np.ndarray]:
    """Made when it is first needed: it wakes up the linear algebra, which takes its memory."""
    nodes, weights = np.polynomial.legendre.leggauss(NODES)
    return nodes, weights
