"""What a pitot tube round the opening and a swirl meter in the bore say."""

from collections.abc import Mapping
from dataclasses import dataclass
from math import pi, sqrt
from statistics import fmean

from elvarn.core.errors import NotEnoughData, require_positive
from elvarn.core.gas.air import STANDARD_AIR, Weather, density_ideal, speed_of_sound

EVEN_WITHIN = 0.10  # of the mean velocity, fastest to slowest; common practice, no source


@dataclass(frozen=True)
class PitotMap:
    """Velocity [m/s] by clock position [h], its mean, (fastest − slowest)/mean, and where both are."""

    velocities: dict[float, float]
    mean: float
    distortion: float
    fastest: float
    slowest: float

    @property
    def even(self) -> bool:
        return self.distortion <= EVEN_WITHIN


def pitot_velocity(pressure: float, weather: Weather = STANDARD_AIR) -> float:
    """Velocity from the pressure of a pitot-static tube.

    Arguments: pressure [Pa]: total less static; weather.
    Returns: velocity [m/s].
    Raises: OutOfRange for a pressure not above zero.
    Source: ISO 3966: v = sqrt(2 dp/rho), with dp divided by 1 + M²/4 for compressibility.
    """
    require_positive(pressure=pressure)
    velocity = sqrt(2 * pressure / density_ideal(weather))
    sound = speed_of_sound(weather)
    for _ in range(4):
        velocity = sqrt(2 * pressure / density_ideal(weather) / (1 + (velocity / sound) ** 2 / 4))
    return velocity


def velocity_map(velocities: Mapping[float, float]) -> PitotMap:
    """The velocity round an opening.

    Arguments: velocities: clock position [h] to velocity [m/s], three or more.
    Returns: the map.
    Raises: NotEnoughData for fewer than three positions; OutOfRange for a velocity not above zero.
    Source: definition: positions count alike, distortion is (max − min)/mean.
    """
    if len(velocities) < 3:
        raise NotEnoughData("positions", f"{len(velocities)} positions are read.", "A map needs three.")
    for velocity in velocities.values():
        require_positive(velocity=velocity)
    found = dict(sorted(velocities.items()))
    mean = fmean(found.values())
    fastest = max(found, key=lambda clock: found[clock])
    slowest = min(found, key=lambda clock: found[clock])
    return PitotMap(found, mean, (found[fastest] - found[slowest]) / mean, fastest, slowest)


def swirl_coefficient(paddle_speed: float, bore: float, depression: float) -> float:
    """Swirl coefficient of a port with a paddle wheel in the bore.

    Arguments: paddle_speed [rad/s], bore [m], depression [Pa]; scalars.
    Returns: coefficient [-]: speed of the paddle's rim over that of the jet.
    Raises: OutOfRange for a bore or depression not above zero.
    Source: Heywood, Internal Combustion Engine Fundamentals, section 8.3.1: C_s = omega B / v_0,
    v_0 = sqrt(2 dp/rho).
    """
    require_positive(bore=bore, depression=depression)
    return abs(paddle_speed) * bore / sqrt(2 * depression / density_ideal(STANDARD_AIR))


def radians_per_second(turns_per_minute: float) -> float:
    """Angular speed.

    Arguments: turns_per_minute [1/min].
    Returns: angular speed [rad/s].
    Raises: nothing.
    Source: definition.
    """
    return turns_per_minute * pi / 30
