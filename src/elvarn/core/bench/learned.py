"""What a bench's own readings teach of it: how well it repeats, and by how much sessions differ."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import log, sqrt
from statistics import fmean, variance

from elvarn.core.bench.assumed import BENCH_REPEATABILITY, SESSION_SHIFT
from elvarn.core.errors import require_positive

LEAST_FREEDOM = 5  # repeats from which a bench's own repeatability is used; common practice, no source
LEAST_SESSIONS = 4  # sessions with the plate from which the bench's own shift is used; common practice, no source


@dataclass(frozen=True)
class Learned:
    """A scatter as a fraction of the reading, the repeats behind it (degrees of freedom), and whether it is the bench's
    own rather than assumed."""

    value: float
    freedom: int
    own: bool


def learned_repeatability(groups: Sequence[Sequence[float]]) -> Learned:
    """A bench's repeatability from its own refits.

    Arguments: groups, each the refits of one thing in one set-up and session [any flow unit].
    Returns: pooled standard deviation as a fraction of each group's mean, from five degrees of freedom on; below that
    0.5 %.
    Raises: OutOfRange for a reading not above zero.
    Source: ISO 5725-2, 7.4.5.1, on relative deviations; from how many repeats on is common practice, no source.
    """
    total, freedom = 0.0, 0
    for group in groups:
        for reading in group:
            require_positive(flow=reading)
        if len(group) > 1:
            total += variance(group) / fmean(group) ** 2 * (len(group) - 1)
            freedom += len(group) - 1
    if freedom >= LEAST_FREEDOM and total > 0:
        return Learned(sqrt(total / freedom), freedom, own=True)
    return Learned(BENCH_REPEATABILITY, freedom, own=False)


def learned_session_shift(sessions: Sequence[Sequence[float]]) -> Learned:
    """By how much a bench's sessions differ, from its reference plate.

    Arguments: sessions, each the readings of one plate in one session [any flow unit].
    Returns: standard deviation of a session as a fraction, from four sessions on; below that 0.5 %.
    Raises: OutOfRange for a reading not above zero.
    Source: one-way analysis of variance: variance of the session means less what their own repeats explain (ISO 5725-2,
    7.4.5.3), never below zero.
    """
    read = [list(session) for session in sessions if session]
    for session in read:
        for reading in session:
            require_positive(flow=reading)
    if len(read) < LEAST_SESSIONS:
        return Learned(SESSION_SHIFT, max(len(read) - 1, 0), own=False)
    logs = [[log(reading) for reading in session] for session in read]
    between = variance(fmean(session) for session in logs)
    repeated = [session for session in logs if len(session) > 1]
    freedom = sum(len(session) - 1 for session in repeated)
    within = sum(variance(session) * (len(session) - 1) for session in repeated) / freedom if freedom else 0.0
    explained = within * fmean(1 / len(session) for session in logs)
    return Learned(sqrt(max(between - explained, 0.0)), len(read) - 1, own=True)
