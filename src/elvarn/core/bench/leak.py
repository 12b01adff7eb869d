"""A set-up's leak: what it is at another depression, what is left of a figure without it, and when it is doubted."""

from elvarn.core.errors import require_positive
from elvarn.core.finding import Finding
from elvarn.core.validity import Range

LEAK_LIMIT = 0.01  # of the flow; common practice, no source
EXPONENT = Range("exponent", "leak's exponent", 0.5, 1, "", "ASTM E779: orifice to laminar")


def leak_at_depression(leak: float, measured_at: float, wanted_at: float, exponent: float = 0.65) -> float:
    """Leak of the set-up at another depression.

    Arguments: leak [m³/s], measured_at [Pa], wanted_at [Pa], exponent [-]: 0.5 orifice, 0.65 thin crack, 1 laminar.
    Returns: leak [m³/s].
    Raises: OutOfRange for a depression not above zero or an exponent outside 0.5 to 1.
    Source: power law Q = C dp^n, as in ASTM E779.
    """
    require_positive(measured_depression=measured_at, wanted_depression=wanted_at)
    EXPONENT.check(exponent)
    return leak * float((wanted_at / measured_at) ** exponent)


def leak_findings(leak: float, flow: float) -> list[Finding]:
    """Doubt about a set-up that leaks.

    Arguments: leak [m³/s] and flow [m³/s] at one depression.
    Returns: a finding above 1 % of the flow, else none.
    Raises: OutOfRange for a flow not above zero.
    Source: common practice, no source.
    """
    require_positive(flow=flow)
    if leak <= LEAK_LIMIT * flow:
        return []
    share = leak / flow * 100
    limit = f"limit {LEAK_LIMIT * 100:g} %"
    text = f"Leak {share:.1f} % of flow, {limit}. It is subtracted, but find it first."
    return [Finding("leak", text, doubt=True)]


def without_leak(shown: float, leak: float, leak_depression: float | None, depression: float) -> float:
    """What is left of a shown flow when the leak at its depression is taken off.

    Arguments: shown [m³/s] at depression [Pa]; leak [m³/s] at leak_depression [Pa], None where it is that of the flow.
    Returns: volume flow [m³/s]; not above zero where the leak is all there is.
    Raises: OutOfRange for a depression not above zero.
    Source: as `leak_at_depression`.
    """
    return shown - leak_at_depression(leak, leak_depression or depression, depression) if leak > 0 else shown
