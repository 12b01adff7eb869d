"""What follows from an engine's dimensions and its cam."""

from dataclasses import dataclass
from math import pi

from elvarn.core.engine.strokes import OPENING
from elvarn.core.errors import Inconsistent, require_positive

PISTON_SPEED_WARNING = 25.0  # m/s; common practice, no source


@dataclass(frozen=True)
class CamEvents:
    """When the valves open and close, in crank degrees, each as it stands on a cam card.

    Inlet opens before top and closes after bottom, exhaust opens before bottom and closes after top; a negative figure
    means the other side. `at_lift` [m] is the lift at which they were taken.
    """

    inlet_opens_before_top: float
    inlet_closes_after_bottom: float
    exhaust_opens_before_bottom: float | None = None
    exhaust_closes_after_top: float | None = None
    at_lift: float = 0.001

    @property
    def inlet_duration(self) -> float:
        return self.inlet_opens_before_top + 180 + self.inlet_closes_after_bottom

    @property
    def overlap(self) -> float | None:
        if self.exhaust_closes_after_top is None:
            return None
        return self.inlet_opens_before_top + self.exhaust_closes_after_top


def check_cam_events(events: CamEvents) -> None:
    """Refuse valve events that cross.

    Arguments: events.
    Returns: nothing.
    Raises: Inconsistent where a valve closes before it opens, or stays open longer than half a cycle.
    Source: definition of the four-stroke cycle.
    """
    durations = [("inlet", events.inlet_duration)]
    if events.exhaust_opens_before_bottom is not None and events.exhaust_closes_after_top is not None:
        exhaust = events.exhaust_opens_before_bottom + 180 + events.exhaust_closes_after_top
        durations.append(("exhaust", exhaust))
    for valve, duration in durations:
        if duration <= 0:
            text = f"{valve.capitalize()} valve closes {-duration:g}° before it opens."
            raise Inconsistent("cam", text, "Check signs: opening counts before its dead centre, closing after it.")
        if duration not in OPENING:
            raise Inconsistent("cam", f"{valve.capitalize()} duration is {duration:g}°.", f"Enter {OPENING.words}.")


def engine_displacement(bore: float, stroke: float, cylinder_count: int) -> float:
    """Swept volume of all cylinders.

    Arguments: bore [m], stroke [m], cylinder_count [-]; scalars.
    Returns: volume [m³].
    Raises: OutOfRange for values not above zero.
    Source: geometry.
    """
    require_positive(bore=bore, stroke=stroke, cylinder_count=cylinder_count)
    return pi / 4 * bore**2 * stroke * cylinder_count


def mean_piston_speed(stroke: float, engine_speed_rpm: float) -> float:
    """Mean speed of the piston.

    Arguments: stroke [m], engine_speed_rpm [rpm]; scalars.
    Returns: speed [m/s].
    Raises: OutOfRange for values not above zero.
    Source: Heywood, 2.9: S_p = 2 S N.
    """
    require_positive(stroke=stroke, engine_speed_rpm=engine_speed_rpm)
    return 2 * stroke * engine_speed_rpm / 60
