"""Combined uncertainty of a figure from its inputs."""

from collections.abc import Callable, Mapping
from math import sqrt

STEP = 1e-4  # of the input's standard uncertainty


def rectangular(half_range: float) -> float:
    """Standard uncertainty of a value known only to lie within a range.

    Arguments: half_range [any unit], scalar.
    Returns: standard uncertainty [same unit].
    Raises: nothing.
    Source: JCGM 100:2008 (GUM), 4.3.7.
    """
    return half_range / sqrt(3)


def combined_standard_uncertainty(
    model: Callable[..., float], estimates: Mapping[str, float], uncertainties: Mapping[str, float]
) -> float:
    """Combined standard uncertainty of a model of independent inputs.

    Arguments: model, called with the estimates as keywords; estimates [any unit]; uncertainties [as the estimates]:
    standard, of some of them.
    Returns: standard uncertainty [as the model].
    Raises: as the model.
    Source: JCGM 100:2008 (GUM), eq. (10), sensitivities by central differences.
    """
    total = 0.0
    for name, uncertainty in uncertainties.items():
        step = uncertainty * STEP
        upper = model(**{**estimates, name: estimates[name] + step})
        lower = model(**{**estimates, name: estimates[name] - step})
        total += ((upper - lower) / (2 * STEP)) ** 2
    return sqrt(total)


def ratio_uncertainty(pressure_uncertainty: float, repeatability: float, repeats: int) -> float:
    """Standard uncertainty of a before/after ratio on one bench: coefficient, area and scale cancel.

    Arguments: pressure_uncertainty [-] of each depression, repeatability [-], repeats [-] on each side.
    Returns: relative standard uncertainty [-].
    Raises: nothing.
    Source: JCGM 100:2008 (GUM), eq. (16), fully correlated inputs cancel; flow goes with the root of the depression.
    """
    return sqrt(2 * (pressure_uncertainty / 2) ** 2 + 2 * repeatability**2 / repeats)
