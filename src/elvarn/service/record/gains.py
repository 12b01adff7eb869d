"""What a job gained on the bench: pairs of what was set up alike before and after."""

from collections.abc import Mapping, Sequence

from elvarn.core.bench.gain import Pairs, Refit, alike_with_last, pairs_of
from elvarn.service.record.job import JobRecord
from elvarn.service.record.setup import declared
from elvarn.service.record.stated import refits_by_runner
from elvarn.service.record.trust import Sessions, sessions_of
from elvarn.store.models import FlowReading

Side = Mapping[int, Sequence[FlowReading]]


def pairs_of_job(record: JobRecord) -> Pairs:
    """A job's runners before and after."""
    return pairs_between(*(record.runner_readings(state) for state in (record.before_state, record.after_state)))


def means_of_sides(record: JobRecord, pairs: Pairs) -> tuple[dict[int, float], dict[int, float]]:
    """Mean flow of each runner before and after: of what was set up alike, else of what was set up as the last one."""
    found = [as_set_up_last(record.runner_readings(state)) for state in (record.before_state, record.after_state)]
    for pair in pairs.alike:
        found[0][pair.runner], found[1][pair.runner] = pair.before, pair.after
    return found[0], found[1]


def pairs_between(before: Side, after: Side) -> Pairs:
    """Runners on two sides, with the session of each reading over both."""
    sessions = sessions_of([reading for side in (before, after) for rows in side.values() for reading in rows])
    return pairs_of(refits_of_side(before, sessions), refits_of_side(after, sessions))


def as_set_up_last(side: Side) -> dict[int, float]:
    """Mean flow of each runner on one side, of what was set up as its last refit was."""
    refits = refits_of_side(side, sessions_of([reading for rows in side.values() for reading in rows]))
    return {runner: alike_with_last(found) for runner, found in refits.items()}


def refits_of_side(side: Side, sessions: Sessions) -> dict[int, list[Refit]]:
    """Each runner's refits, with their session and what was declared of them."""
    return {
        runner: [Refit(flow, sessions[group[0].id], declared(group[0].setup)) for group, flow in refits]
        for runner, refits in refits_by_runner(side).items()
    }
