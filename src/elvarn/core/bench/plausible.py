"""Questions that a flow figure raises before it is believed."""

from collections.abc import Sequence
from dataclasses import dataclass
from statistics import median

from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE
from elvarn.core.errors import OutOfRange
from elvarn.core.gas.air import STANDARD_AIR, Weather
from elvarn.core.gas.discharge import isentropic_volume_flow

CUBIC_METRE_PER_HOUR = 1 / 3600  # m³/s
UNIT_RATIO = CUBIC_FOOT_PER_MINUTE / CUBIC_METRE_PER_HOUR  # 1.699: one figure in both units
UNIT_RATIO_WINDOW = 0.12  # runners of one casting differ by less; common practice, no source
DECIMAL_SLIP = (6.0, 16.0)  # a lost decimal point gives ten; common practice, no source
UNLIKE_OTHERS = 1.5  # twice what port work gains; common practice, no source
FAR_PAIR = 4.65  # of a refit's scatter: what two refits of one thing hardly ever differ by; choice, no source
LEAST_FAR = 2.0  # per cent: a smaller step is no slip; choice, no source


@dataclass(frozen=True)
class Doubt:
    """A doubt about a figure: a stable code and the sentence."""

    code: str
    text: str


def check_flow(volume_flow: float) -> None:
    """Refuse a flow that can't be a reading.

    Arguments: volume_flow [m³/s], scalar.
    Returns: nothing.
    Raises: OutOfRange for zero, a negative flow or no number.
    Source: definition.
    """
    if not volume_flow > 0:
        figure = volume_flow / CUBIC_FOOT_PER_MINUTE
        raise OutOfRange("flow", f"A flow of {figure:g} CFM can't be a reading.", "Read it again; it must be above 0.")


def flow_doubts(
    volume_flow: float,
    others: Sequence[float],
    opening_area: float | None,
    depression: float,
    weather: Weather = STANDARD_AIR,
    beside: str = "the other runners",
) -> list[Doubt]:
    """What to ask about a flow before it is kept.

    Arguments: volume_flow [m³/s]; others [m³/s]: what this and the other runners read at the same depression;
    opening_area [m²] of the smallest measured section or None; depression [Pa]; weather; beside: what the others are,
    in words.
    Returns: doubts, the likeliest explanation first; none for a figure that fits.
    Raises: OutOfRange for a depression that is not above zero.
    Source: CFM to m³/h by definition; ceiling by the isentropic nozzle; windows are common practice, no source.
    """
    doubts = _against_others(volume_flow, others, beside)
    if opening_area is not None:
        ceiling = isentropic_volume_flow(opening_area, depression, weather)
        if volume_flow > ceiling:
            doubts.append(Doubt("above_ceiling", _ceiling_text(volume_flow, ceiling)))
    return doubts


def far_repeat(volume_flow: float, before: Sequence[float], scatter: float) -> float | None:
    """By how much a repeat of one thing lies farther from those before than refits explain: a slip, or another set-up.

    Arguments: volume_flow [m³/s], scalar; before [m³/s]: what the same thing read in the same set-up; scatter [-]: of a
    refit, one standard deviation, scalar.
    Returns: the difference from their median, a fraction with its sign [-]; None where it is near, or none was read.
    Raises: nothing.
    Source: definition of the median; 4.65 times the scatter and 2 % are common practice, no source: two refits that
    differ by the scatter alone are so far apart once in a thousand.
    """
    if not before:
        return None
    apart = volume_flow / median(before) - 1
    return apart if abs(apart) > max(FAR_PAIR * scatter, LEAST_FAR / 100) else None


def _against_others(volume_flow: float, others: Sequence[float], beside: str) -> list[Doubt]:
    if not others:
        return []
    ratio = volume_flow / median(others)
    for doubt, fits in _explanations(ratio, beside):
        if fits:
            return [doubt]
    return []


def _explanations(ratio: float, beside: str) -> list[tuple[Doubt, bool]]:
    low, high = DECIMAL_SLIP
    in_cubic_metres = f"1.7 × {beside}. Is it in m³/h?"
    in_cubic_feet = f"1.7 × less than {beside}. Is it in CFM?"
    return [
        (Doubt("ten_times", f"About 10 × {beside}. Decimal point?"), low < ratio < high),
        (Doubt("a_tenth", f"About a tenth of {beside}. Decimal point?"), low < 1 / ratio < high),
        (
            Doubt("cubic_metres_per_hour", in_cubic_metres),
            abs(ratio / UNIT_RATIO - 1) < UNIT_RATIO_WINDOW,
        ),
        (
            Doubt("cubic_feet_per_minute", in_cubic_feet),
            abs(ratio * UNIT_RATIO - 1) < UNIT_RATIO_WINDOW,
        ),
        (
            Doubt("unlike_others", f"{ratio:.2g} × {beside}."),
            not 1 / UNLIKE_OTHERS < ratio < UNLIKE_OTHERS,
        ),
    ]


def _ceiling_text(volume_flow: float, ceiling: float) -> str:
    over = volume_flow / ceiling * 100 - 100
    return f"{over:.0f} % more than this bore can pass. Check bench calibration and bore."
