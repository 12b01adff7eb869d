"""What a boosted engine's compressor has to do, in words."""

from collections.abc import Iterator

import numpy as np

from elvarn.core.constants import ZERO_CELSIUS
from elvarn.core.finding import Grade
from elvarn.core.gas.air import STANDARD_AIR
from elvarn.core.path.charge import charge_temperature
from elvarn.service.kernel.sentences import Sentence, sentence
from elvarn.service.record.solved import SolvedPath, least_stated


def about_charge(path: SolvedPath, boost: float) -> Iterator[Sentence]:
    """What the compressor has to make for the boost, whether it can, and how warm that is."""
    draw, losses = path.draw, path.losses
    if draw is None or draw.charge is None or losses is None or losses.choked:
        return
    charge, least = draw.charge, 1 + boost / STANDARD_AIR.pressure
    limit = least_stated(path.known, "ratio_limit")
    if limit is not None and losses.ratio > limit:
        answer = f"The compressor has to make {losses.ratio:.2f} to 1 for {boost / 1000:.0f} kPa; it can {limit:g}."
        yield sentence(answer, Grade.COMPUTED, "harm", action="Less boost, less drop, or another compressor.")
    warm = charge_temperature(charge, np.array([losses.ratio]), STANDARD_AIR.temperature)[0] - ZERO_CELSIUS
    makes = f"{'at least ' if losses.unknown else ''}{losses.ratio:.2f} to 1"
    answer = f"For {boost / 1000:.0f} kPa of boost at the plenum the compressor has to make {makes}."
    efficiency = f"{100 * charge.efficiency:.0f} %{_if_assumed(path, 'efficiency_percent')}"
    cooler = f"cooler {100 * charge.cooling:.0f} %{_if_assumed(path, 'cooling_percent')} effective"
    cooled = charge.cooling > 0
    reason = (
        f"Without the drops {least:.2f} would do. Behind it the air is counted at its own pressure, in the plenum at "
    )
    reason += f"{warm:.0f} °C: compressor {efficiency}, {cooler if cooled else 'no cooler'}."
    stated = not _if_assumed(path, "efficiency_percent") and not (cooled and _if_assumed(path, "cooling_percent"))
    yield sentence(answer, Grade.ESTIMATED, "plain" if stated else "doubt", reason=reason)


def _if_assumed(path: SolvedPath, name: str) -> str:
    return " (assumed)" if least_stated(path.known, name) is None else ""
