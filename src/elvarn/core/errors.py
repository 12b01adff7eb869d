"""The core's one exception family.

CoreError (ValueError)
├── OutOfRange      a value that can't be
├── Inconsistent    values that contradict each other
└── NotEnoughData   too little to compute from
"""


class CoreError(ValueError):
    """A refusal that says which value, what is allowed and what to do. `code` is stable."""

    code = "core"

    def __init__(self, quantity: str, message: str, remedy: str) -> None:
        super().__init__(f"{message} {remedy}")
        self.quantity = quantity
        self.message = message
        self.remedy = remedy


class OutOfRange(CoreError):
    """A value outside what is physically or by definition possible."""

    code = "out_of_range"


class Inconsistent(CoreError):
    """Values that can't be true together."""

    code = "inconsistent"


class NotEnoughData(CoreError):
    """Too few values for the figure asked for."""

    code = "not_enough_data"


def require_positive(**values: float) -> None:
    """Refuse values that are not above zero (or not a number at all).

    Raises: OutOfRange naming the first such value.
    """
    for name, value in values.items():
        if not value > 0:
            words = name.replace("_", " ")
            raise OutOfRange(name, f"The {words} is {value:g}; it must be above 0.", f"Check the {words}.")
