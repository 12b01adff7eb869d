"""Where openings meet on the way of the air: what lies in front, what behind."""

from enum import StrEnum


class Of(StrEnum):
    """What an outline is of."""

    RUNNER = "runner"
    GASKET = "gasket"
    HEAD = "head"
    OPENING = "opening"
    THROTTLE = "throttle"


# In the order in which the air passes; where there is no gasket, the runner meets the head.
MEETINGS = ((Of.THROTTLE, Of.OPENING), (Of.RUNNER, Of.GASKET), (Of.GASKET, Of.HEAD), (Of.RUNNER, Of.HEAD))
NAMES = {
    Of.RUNNER: "runner's exit",
    Of.GASKET: "gasket",
    Of.HEAD: "head's port",
    Of.OPENING: "opening of the plenum",
    Of.THROTTLE: "throttle's bore",
}
