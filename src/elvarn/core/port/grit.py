"""Abrasives: the grain behind a number, and whether a step from one to the next is too long."""

from dataclasses import dataclass
from enum import StrEnum

from elvarn.core.errors import OutOfRange

LONGEST_STEP = 1.7  # times finer; common practice, no source: 80 to 120 is one step, 80 to 180 skips one


class GritSystem(StrEnum):
    """Who numbers the grits: European or American makers."""

    P = "P"
    CAMI = "CAMI"


# Median grain [m]. P: FEPA 43-1, ISO 6344 (from memory, 3 %); CAMI: ANSI B74.18 (from memory, tables vary by 5 %).
GRAINS: dict[GritSystem, dict[int, float]] = {
    GritSystem.P: {
        24: 764e-6, 36: 538e-6, 40: 425e-6, 60: 269e-6, 80: 201e-6, 100: 162e-6, 120: 125e-6, 150: 100e-6, 180: 82e-6,
        220: 68e-6, 240: 58.5e-6, 280: 52.2e-6, 320: 46.2e-6, 400: 35e-6, 600: 25.8e-6, 800: 21.8e-6, 1000: 18.3e-6,
    },
    GritSystem.CAMI: {
        24: 708e-6, 36: 535e-6, 60: 268e-6, 80: 190e-6, 120: 115e-6, 150: 92e-6, 180: 78e-6, 220: 66e-6, 240: 53e-6,
        320: 36e-6, 400: 23e-6, 600: 16e-6,
    },
}  # fmt: skip


@dataclass(frozen=True)
class Grit:
    """A grit with whose numbers it has: 320 of one system is about 400 of the other."""

    number: int
    system: GritSystem = GritSystem.P

    @property
    def grain(self) -> float:
        """Median grain [m]."""
        known = GRAINS[self.system]
        if self.number not in known:
            words = ", ".join(str(number) for number in known)
            raise OutOfRange("grit", f"Grit {self.number} ({self.system}) is not known.", f"Use one of: {words}.")
        return known[self.number]


def skipped(first: Grit, second: Grit) -> list[Grit]:
    """Grits between two that a step from the one to the other leaves out, where it is longer than is good for it.

    Arguments: first, second: the coarser and the finer.
    Returns: grits of the second's system that shorten it, the one that halves the step first; none where it is no too
    long step.
    Raises: OutOfRange for a grit that is not known.
    Source: FEPA 43-1 and ANSI B74.18 for the grains; the longest step: common practice, no source.
    """
    coarse, fine = first.grain, second.grain
    if coarse / fine <= LONGEST_STEP:
        return []
    middle = (coarse * fine) ** 0.5
    between = [Grit(number, second.system) for number, grain in GRAINS[second.system].items() if fine < grain < coarse]
    return sorted(between, key=lambda grit: abs(grit.grain / middle - 1))
