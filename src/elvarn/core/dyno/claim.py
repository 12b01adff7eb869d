"""A maker's figures held against each other: mean power, mean torque, gains and their parts."""

from collections.abc import Sequence
from math import pi

from elvarn.core.errors import OutOfRange, require_positive
from elvarn.core.finding import Finding

SPREAD = 0.02  # of the middle: so far a curve's shape moves the speed that its means imply; derivation below
ROUNDING_W = 750.0  # about a horsepower, to which claims are rounded; common practice, no source


def implied_engine_speed(mean_power: float, mean_torque: float) -> float:
    """The engine speed at which a mean power and a mean torque over one band belong together.

    Arguments: mean_power [W], mean_torque [N m], scalars.
    Returns: speed [rpm], the torque-weighted mean speed of the band.
    Raises: OutOfRange for a mean that is not above zero.
    Source: derivation: mean power is the integral of 2 pi n M over the band, mean torque that of M; their ratio is 2 pi
    times the mean of n weighted by M.
    """
    require_positive(mean_power=mean_power, mean_torque=mean_torque)
    return mean_power / mean_torque * 60 / (2 * pi)


def means_findings(mean_power: float, mean_torque: float, low: float, high: float) -> list[Finding]:
    """Whether a mean power and a mean torque can be of one curve over a band.

    Arguments: mean_power [W], mean_torque [N m], low, high [rpm], scalars.
    Returns: a finding where they imply a speed further than 2 % from the band's middle.
    Raises: OutOfRange for an empty band, or a mean that is not above zero.
    Source: derivation: where torque changes by a share s over the band, the implied speed lies s (high − low)²/(12 mid)
    off its middle: 1 % for s = 20 % over 3,500 to 6,400 rpm.
    """
    if not 0 < low < high:
        raise OutOfRange("band", f"{low:.0f} to {high:.0f} rpm is no band.", "Enter two speeds, the lower first.")
    speed, middle = implied_engine_speed(mean_power, mean_torque), (low + high) / 2
    if abs(speed / middle - 1) <= SPREAD:
        return []
    text = (
        f"Mean power and mean torque belong together at {speed:.0f} rpm; the middle of the band is {middle:.0f} rpm. "
        "One of them is of another band, another pull, or wrong."
    )
    return [Finding("means_apart", text, doubt=True)]


def sum_findings(total: float, parts: Sequence[float]) -> list[Finding]:
    """Whether a total gain is that of its parts.

    Arguments: total [W], scalar; parts [W], one or more.
    Returns: a finding where they differ by more than rounding: 750 W for each figure.
    Raises: nothing.
    Source: common practice, no source.
    """
    added = sum(parts)
    if abs(added - total) <= ROUNDING_W * (len(parts) + 1) / 2:
        return []
    text = f"The parts add up to {added / 1000:.1f} kW; {total / 1000:.1f} kW is claimed for all of them."
    return [Finding("sum_apart", text, doubt=True)]


def gain_findings(claimed: float, of_means: float) -> list[Finding]:
    """Whether a claimed mean gain is the difference of the means that are claimed beside it.

    Arguments: claimed [W], of_means [W], scalars.
    Returns: a finding where they differ by more than rounding, 750 W.
    Raises: nothing.
    Source: common practice, no source.
    """
    if abs(claimed - of_means) <= ROUNDING_W:
        return []
    text = f"The means differ by {of_means / 1000:.1f} kW; {claimed / 1000:.1f} kW is claimed."
    return [Finding("gain_apart", text, doubt=True)]
