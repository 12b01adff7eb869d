"""Where a quantity may lie, as data: what can be at all, what a formula was made for, what a standard covers."""

from dataclasses import dataclass
from math import inf

from elvarn.core.constants import ZERO_CELSIUS
from elvarn.core.errors import OutOfRange

# As a limit is written for people: SI size of one, SI value of its zero.
WRITTEN = {
    "": (1.0, 0.0),
    "%": (0.01, 0.0),
    "°": (1.0, 0.0),
    "°C": (1.0, ZERO_CELSIUS),
    "mm": (0.001, 0.0),
    "m": (1.0, 0.0),
    "Pa": (1.0, 0.0),
    "kPa": (1000.0, 0.0),
}


@dataclass(frozen=True)
class Range:
    """From `low` to `high` in SI, both inside unless `above` or `below` says that the end itself is outside.

    `quantity` is the field that a refusal points to, `name` its word in a sentence, `unit` one of WRITTEN, `source` who
    says so. `remedy` is what to do instead of the plain "0 to 5 can be."
    """

    quantity: str
    name: str
    low: float
    high: float
    unit: str
    source: str
    remedy: str = ""
    above: bool = False
    below: bool = False

    def __contains__(self, value: float) -> bool:
        over = self.low < value if self.above else self.low <= value
        under = value < self.high if self.below else value <= self.high
        return over and under

    def check(self, value: float) -> None:
        """Refuse a value outside. Raises: OutOfRange with the value and what can be."""
        if value not in self:
            remedy = self.remedy or f"{self.words[0].upper()}{self.words[1:]} can be."
            raise OutOfRange(self.quantity, f"The {self.name} is {self.written(value)}.", remedy)

    def nearest(self, value: float) -> float:
        """The value itself, or the end that is nearer to it."""
        return min(max(value, self.low), self.high)

    def written(self, value: float) -> str:
        """A value with its unit, for people."""
        return self._number(value) + self._unit

    @property
    def words(self) -> str:
        """The range for people: "0.1 to 0.75", "above 0, up to 180°"."""
        low, high = self._number(self.low), self._number(self.high)
        if self.high == inf:
            return f"above {low}{self._unit}" if self.above else f"{low}{self._unit} and more"
        if self.above or self.below:
            begin = f"above {low}" if self.above else f"from {low}"
            return f"{begin}, {'below' if self.below else 'up to'} {high}{self._unit}"
        return f"{low} to {high}{self._unit}"

    @property
    def _unit(self) -> str:
        return self.unit if self.unit in ("", "°") else f" {self.unit}"

    def _number(self, value: float) -> str:
        size, zero = WRITTEN[self.unit]
        return f"{(value - zero) / size:.6g}".replace("-", "−")
