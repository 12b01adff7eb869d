"""The figure that forms while a bench sends its samples, and what is wrong when none come."""

from collections.abc import AsyncIterator, Sequence
from contextlib import aclosing
from dataclasses import dataclass, field

from elvarn import units
from elvarn.core.bench.reference import flow_at_depression
from elvarn.core.bench.samples import range_findings, series_of, settled
from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE, INCH_OF_WATER, REFERENCE_DEPRESSION
from elvarn.instruments.line import HeldLine, LiveSample
from elvarn.instruments.shared import FollowedLine
from elvarn.service.bench.taken import Taken


@dataclass(frozen=True)
class LiveState:
    """What the screen shows of a line: whether it speaks, the samples that are new, and what the last ones make."""

    state: str
    words: str
    new: list[LiveSample] = field(default_factory=list)
    count: int = 0
    mean: units.Shown | None = None
    scatter: units.Shown | None = None
    taken: Taken | None = None
    doubts: list[str] = field(default_factory=list)


async def live_states(held: HeldLine | FollowedLine, preset: units.Preset) -> AsyncIterator[LiveState]:
    """What a line says, each time that samples came, and once a second while none do."""
    async with aclosing(held.watch()) as samples:  # type: ignore[type-var]  # a generator, typed by what it yields
        async for new in samples:
            yield live_state(held, new, preset)


def live_state(held: HeldLine | FollowedLine, new: list[LiveSample], preset: units.Preset) -> LiveState:
    """What a line says now."""
    condition = held.condition
    if condition != "speaking":
        return LiveState(condition, _unheard(held, condition))
    count = held.line.samples
    last = held.last(2 * count)
    if not last:
        return LiveState("speaking", "", new)
    if min(sample.flow_cfm for sample in last[-count:]) <= 0:
        return _at_rest(new, last[-count:])
    return _forming(new, last, count, preset)


def _unheard(held: HeldLine | FollowedLine, condition: str) -> str:
    return {
        "gone": f"No bench at {held.line.where}. Switch it on; retrying.",
        "refused": f"{held.line.where} is not opened: lines lead to a serial port, or into the shop's own network.",
        "silent": "Bench connected but sending nothing.",
        "garbage": "Bench data doesn't match the line format. Fix it in bench settings (B).",
    }[condition]


def _forming(new: list[LiveSample], last: Sequence[LiveSample], count: int, preset: units.Preset) -> LiveState:
    flows = [sample.flow_cfm for sample in last]
    depressions = [sample.depression_inh2o * INCH_OF_WATER for sample in last]
    taken = flows[-count:]
    series = series_of(taken)
    pulled = sum(depressions[-count:]) / len(depressions[-count:])
    used = last[-1].range_percent
    return LiveState(
        "speaking",
        "",
        new,
        series.count,
        _shown(series.mean, pulled, preset),
        _shown(series.scatter, pulled, preset) if series.scatter else None,
        Taken(taken, pulled / INCH_OF_WATER, used, settled(flows, depressions, count)),
        [finding.text for finding in range_findings(used / 100)] if used is not None else [],
    )


def _at_rest(new: list[LiveSample], last: Sequence[LiveSample]) -> LiveState:
    """Nothing flows: there is no figure, and yet a zero to take."""
    flows = [sample.flow_cfm for sample in last]
    pulled = sum(sample.depression_inh2o for sample in last) / len(last)
    return LiveState("speaking", "", new, len(flows), taken=Taken(flows, max(pulled, 0.0)))


def _shown(flow_cfm: float, depression: float, preset: units.Preset) -> units.Shown:
    """A flow at the depression that was pulled, as it is at the reference."""
    flow = flow_cfm * CUBIC_FOOT_PER_MINUTE
    return units.show(flow_at_depression(flow, max(depression, 1.0), REFERENCE_DEPRESSION), "flow", preset)
