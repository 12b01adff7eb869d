"""Flow readings as the flow that they mean: zero, leak, calibration, the bench's meter, and the depression."""

from collections.abc import Sequence

from elvarn.core.bench.reference import flow_at_depression
from elvarn.core.bench.stated import BenchState, MeterKind, stated_flow
from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.errors import OutOfRange
from elvarn.service.kernel.once import once
from elvarn.service.record.air import weather_of
from elvarn.service.record.plates import air_beside, correction_at
from elvarn.store.models import CheckReading, FlowReading


def at_reference(reading: FlowReading) -> float:
    """A flow reading in m³/s of standard air at the reference depression; worked out once for each session."""
    return once(
        reading,
        "at reference",
        lambda: flow_at_depression(flow_of(reading), reading.pulled_pa, REFERENCE_DEPRESSION),
    )


def flow_of(reading: FlowReading) -> float:
    """A flow reading in m³/s of standard air at the depression at which it was read. Where zero and leak leave nothing
    of it, it stands as it was read: the margin doubts it."""
    try:
        return stated_flow(reading.flow_m3_s, reading.pulled_pa, state_of(reading))
    except OutOfRange:
        return reading.flow_m3_s


def state_of(reading: FlowReading) -> BenchState:
    """What is known of the bench at the time of a reading; worked out once for each session."""
    return once(reading, "bench state", lambda: _state_of(reading))


def counts(reading: FlowReading) -> bool:
    """Whether a reading says what the part itself passes here: on our own bench, in the direction of the air, nothing
    half shut, and no point of a test plan."""
    setup = reading.setup
    wide_open = setup.opening_percent in (None, 100.0)
    return reading.plan_id is None and not setup.bench.shop and wide_open and setup.direction == "in"


def by_port(readings: Sequence[FlowReading]) -> dict[int, list[FlowReading]]:
    """Readings by the runner that they are of; those of a whole element stand under 0."""
    ports: dict[int, list[FlowReading]] = {}
    for reading in readings:
        ports.setdefault(reading.cylinder or 0, []).append(reading)
    return ports


def _last(checks: Sequence[CheckReading], kind: str) -> CheckReading | None:
    fitting = [check for check in checks if check.check_kind == kind and check.valid]
    return fitting[-1] if fitting else None


def _state_of(reading: FlowReading) -> BenchState:
    setup = reading.setup
    zero, leak = (_last(setup.checks, kind) for kind in ("zero", "leak"))
    air = weather_of(setup) or air_beside(setup.bench, reading.taken_at)
    at_rest = zero.flow_m3_s if zero else 0.0
    return BenchState(
        MeterKind(setup.bench.meter),
        air,
        zero=at_rest,
        leak=max(leak.flow_m3_s - at_rest, 0.0) if leak else 0.0,
        leak_depression=leak.depression_pa if leak else None,
        correction=correction_at(setup.bench, reading.taken_at, air),
    )
