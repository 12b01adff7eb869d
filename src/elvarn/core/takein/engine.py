"""What follows from an engine's dimensions."""

from math import pi

from elvarn.core.errors import require_positive


def engine_displacement(bore: float, stroke: float, cylinder_count: int) -> float:
    """Swept volume of all cylinders.

    Arguments: bore [m], stroke [m], cylinder_count [-]; scalars.
    Returns: volume [m³].
    Raises: OutOfRange for values not above zero.
    Source: geometry.
    """
    require_positive(bore=bore, stroke=stroke, cylinder_count=cylinder_count)
    return pi / 4 * bore**2 * stroke * cylinder_count
