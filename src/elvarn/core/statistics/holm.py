"""Several things judged at once."""

from collections.abc import Sequence


def holm_adjusted(probabilities: Sequence[float]) -> list[float]:
    """Chances corrected for judging several at once.

    Arguments: probabilities [-], shape (n,).
    Returns: adjusted probabilities [-], shape (n,), same order.
    Raises: nothing.
    Source: Holm, Scand. J. Statist. 6 (1979) 65.
    """
    order = sorted(range(len(probabilities)), key=lambda index: probabilities[index])
    adjusted = [0.0] * len(probabilities)
    running = 0.0
    for rank, index in enumerate(order):
        running = max(running, min(1.0, (len(order) - rank) * probabilities[index]))
        adjusted[index] = running
    return adjusted
