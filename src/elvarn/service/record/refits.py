"""Refits of runners: what belongs to one, and what it passed, with the drift of its series taken out."""

from collections.abc import Mapping, Sequence
from itertools import groupby
from statistics import fmean

from elvarn.core.bench.drift import Drift, drift_of
from elvarn.core.bench.pairs import Refit
from elvarn.service.record.plates import ONE_SESSION
from elvarn.service.record.setup import declared
from elvarn.service.record.stated import at_reference
from elvarn.service.record.trust import Sessions, known_beside, sessions_of
from elvarn.store.models import FlowReading

Refits = list[tuple[list[FlowReading], float]]
Side = Mapping[int, Sequence[FlowReading]]


def sides_of(*sides: Side) -> list[dict[int, list[Refit]]]:
    """Each side's refits by runner, for the core: with their session, counted over all sides, and what was declared."""
    sessions = sessions_of([reading for side in sides for rows in side.values() for reading in rows])
    return [side_of(side, sessions) for side in sides]


def side_of(side: Side, sessions: Sessions) -> dict[int, list[Refit]]:
    """One side's refits by runner, whose sessions are known."""
    return {
        runner: [Refit(flow, sessions[group[0].id], declared(group[0].setup)) for group, flow in refits]
        for runner, refits in refits_by_runner(side).items()
    }


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
        drift = drift_of(times, [at_reference(r) for r in first], known_beside(series[0]))
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
