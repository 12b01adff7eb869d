"""Flow readings as the flow that they mean: zero, leak, calibration, the bench's meter, and the depression."""

from collections.abc import Mapping, Sequence
from itertools import groupby
from statistics import fmean

from elvarn.core.bench.assumed import BENCH_REPEATABILITY
from elvarn.core.bench.drift import Drift, drift_of
from elvarn.core.bench.reference import flow_at_depression
from elvarn.core.bench.stated import BenchState, MeterKind, stated_flow
from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.errors import OutOfRange
from elvarn.service.kernel.once import once
from elvarn.service.record.air import weather_of
from elvarn.service.record.plates import ONE_SESSION, correction_of, plates_for
from elvarn.store.models import Bench, CheckReading, FlowReading

Refits = list[tuple[list[FlowReading], float]]


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


def repeatability_of(bench: Bench) -> float:
    """A bench's repeatability as a fraction: what the shop states, or what is assumed."""
    return bench.repeatability_percent / 100 if bench.repeatability_percent else BENCH_REPEATABILITY


def drifts_of(readings: Mapping[int, Sequence[FlowReading]]) -> list[tuple[list[FlowReading], Drift]]:
    """Series whose first runner was read again at the end, with their drift. A series is what was read in one set-up
    within a session."""
    found = []
    for series in _series(readings):
        first = [reading for reading in series if reading.cylinder == series[0].cylinder]
        between = {r.cylinder for r in series if first[0].taken_at < r.taken_at < first[-1].taken_at}
        if len(first) < 2 or between <= {series[0].cylinder}:
            continue
        times = [reading.taken_at.timestamp() for reading in first]
        drift = drift_of(times, [at_reference(r) for r in first], repeatability_of(series[0].setup.bench))
        found.append((series, drift))
    return found


def refits_by_runner(readings: Mapping[int, Sequence[FlowReading]]) -> dict[int, Refits]:
    """Each refit of each runner that was read: its readings and its flow in m³/s at the reference depression, drift
    taken out where it is real. What was read again with nothing touched is averaged into its refit."""
    removed = {r.id: drift for series, drift in drifts_of(readings) for r in series}

    def flow(reading: FlowReading) -> float:
        drift = removed.get(reading.id)
        stated = at_reference(reading)
        return drift.removed(stated, reading.taken_at.timestamp()) if drift else stated

    return {
        number: [(refit, fmean(flow(reading) for reading in refit)) for refit in refits_of(rows)]
        for number, rows in readings.items()
        if rows
    }


def flows_by_runner(readings: Mapping[int, Sequence[FlowReading]]) -> dict[int, list[float]]:
    """Flow of each refit of each runner that was read."""
    return {number: [flow for _, flow in refits] for number, refits in refits_by_runner(readings).items()}


def by_port(readings: Sequence[FlowReading]) -> dict[int, list[FlowReading]]:
    """Readings by the runner that they are of; those of a whole element stand under 0."""
    ports: dict[int, list[FlowReading]] = {}
    for reading in readings:
        ports.setdefault(reading.cylinder or 0, []).append(reading)
    return ports


def refits_of(readings: Sequence[FlowReading]) -> list[list[FlowReading]]:
    """Readings by refit: those that were read again with nothing touched belong to the one before."""
    refits: list[list[FlowReading]] = []
    for reading in readings:
        if refits and not reading.refitted:
            refits[-1].append(reading)
        else:
            refits.append([reading])
    return refits


def _series(readings: Mapping[int, Sequence[FlowReading]]) -> list[list[FlowReading]]:
    rows = sorted((r for side in readings.values() for r in side), key=lambda r: (str(r.setup_id), r.taken_at))
    found: list[list[FlowReading]] = []
    for _, group in groupby(rows, key=lambda r: r.setup_id):
        for reading in group:
            same = found and found[-1][0].setup_id == reading.setup_id
            if same and reading.taken_at - found[-1][0].taken_at <= ONE_SESSION:
                found[-1].append(reading)
            else:
                found.append([reading])
    return found


def _last(checks: Sequence[CheckReading], kind: str) -> CheckReading | None:
    fitting = [check for check in checks if check.check_kind == kind and check.valid]
    return fitting[-1] if fitting else None


def _state_of(reading: FlowReading) -> BenchState:
    setup = reading.setup
    zero, leak = (_last(setup.checks, kind) for kind in ("zero", "leak"))
    plates = plates_for(setup.bench, reading.taken_at)
    at_rest = zero.flow_m3_s if zero else 0.0
    return BenchState(
        MeterKind(setup.bench.meter),
        weather_of(setup),
        zero=at_rest,
        leak=max(leak.flow_m3_s - at_rest, 0.0) if leak else 0.0,
        leak_depression=leak.depression_pa if leak else None,
        correction=correction_of(setup.bench, plates) if plates else 1.0,
    )
