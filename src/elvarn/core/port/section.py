"""A section across a runner: its area and perimeter, from what was measured of its shape."""

from dataclasses import dataclass
from math import acos, pi, sqrt
from typing import Protocol

from scipy.special import ellipe

from elvarn.core.errors import Inconsistent, require_positive


class Section(Protocol):
    """What every shape of a section tells."""

    @property
    def area(self) -> float:
        """Area [m²]."""

    @property
    def perimeter(self) -> float:
        """Perimeter [m]."""


@dataclass(frozen=True)
class Round:
    """A circle of a diameter [m]."""

    diameter: float

    def __post_init__(self) -> None:
        require_positive(diameter=self.diameter)

    @property
    def area(self) -> float:
        return pi / 4 * self.diameter**2

    @property
    def perimeter(self) -> float:
        return pi * self.diameter


@dataclass(frozen=True)
class Oval:
    """Two half circles joined by straight sides: the smaller and the larger dimension [m]."""

    across: float
    along: float

    def __post_init__(self) -> None:
        require_positive(across=self.across, along=self.along)
        if self.along < self.across:
            text = f"An oval is {self.across * 1000:g} mm across and only {self.along * 1000:g} mm along."
            raise Inconsistent("along", text, "Exchange the two.")

    @property
    def area(self) -> float:
        return pi / 4 * self.across**2 + self.across * (self.along - self.across)

    @property
    def perimeter(self) -> float:
        return pi * self.across + 2 * (self.along - self.across)


@dataclass(frozen=True)
class Ellipse:
    """An ellipse of two axes [m], whichever is the larger."""

    across: float
    along: float

    def __post_init__(self) -> None:
        require_positive(across=self.across, along=self.along)

    @property
    def area(self) -> float:
        return pi / 4 * self.across * self.along

    @property
    def perimeter(self) -> float:
        large, small = max(self.across, self.along), min(self.across, self.along)
        return float(2 * large * ellipe(1 - (small / large) ** 2))


@dataclass(frozen=True)
class RoundedRectangle:
    """A rectangle of two sides [m] with rounded corners of a radius [m]; 0 are sharp ones."""

    width: float
    height: float
    radius: float

    def __post_init__(self) -> None:
        require_positive(width=self.width, height=self.height)
        if not 0 <= self.radius <= min(self.width, self.height) / 2:
            text = f"Corners of {self.radius * 1000:g} mm radius don't fit {self.width * 1000:g} × "
            text += f"{self.height * 1000:g} mm."
            raise Inconsistent("radius", text, "Half the smaller side is the most.")

    @property
    def area(self) -> float:
        return self.width * self.height - (4 - pi) * self.radius**2

    @property
    def perimeter(self) -> float:
        return 2 * (self.width + self.height) - (8 - 2 * pi) * self.radius


@dataclass(frozen=True)
class DShape:
    """A circle of a diameter [m] with a flat: its height [m] from the flat to the crown."""

    diameter: float
    height: float

    def __post_init__(self) -> None:
        require_positive(diameter=self.diameter, height=self.height)
        if self.height > self.diameter:
            text = f"A D of {self.diameter * 1000:g} mm is {self.height * 1000:g} mm high."
            raise Inconsistent("height", text, "A flat takes something off the diameter.")

    @property
    def _half_angle(self) -> float:
        """Half the angle [rad] of the arc that is left, seen from the middle."""
        return acos(1 - 2 * self.height / self.diameter)

    @property
    def _flat(self) -> float:
        return 2 * sqrt(self.height * (self.diameter - self.height))

    @property
    def area(self) -> float:
        radius = self.diameter / 2
        return radius**2 * self._half_angle - (radius - self.height) * self._flat / 2

    @property
    def perimeter(self) -> float:
        return self.diameter * self._half_angle + self._flat


def hydraulic_diameter(section: Section) -> float:
    """Diameter of the round tube with the same friction; for friction alone, never for flow.

    Arguments: section.
    Returns: diameter [m].
    Raises: nothing.
    Source: definition, 4 A/P.
    """
    return 4 * section.area / section.perimeter


def equal_diameter(area: float) -> float:
    """Diameter of the circle that has an area.

    Arguments: area [m²], scalar.
    Returns: diameter [m].
    Raises: OutOfRange for an area not above zero.
    Source: geometry.
    """
    require_positive(area=area)
    return sqrt(4 * area / pi)
