"""How long the rest of a stage takes, and what it wears out, from what the shop's own log says of its rounds."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import sqrt
from statistics import fmean, variance

from elvarn.core.statistics.student import student_quantile

LEAST = 3  # passes of one round from which their own spread counts; choice, no source
UNKNOWN = 0.5  # relative half-range of a planned or barely known time; choice, no source


@dataclass(frozen=True)
class Rest:
    """Time [s] or number of tools [-] that is left, and by which half-range it may differ; on how many logged passes it
    rests, and the rounds of which neither a plan nor a log says anything."""

    amount: float
    half: float
    logged: int
    unknown: tuple[str, ...]


def rest_of(missing: Mapping[str, int], logged: Mapping[str, Sequence[float]], planned: Mapping[str, float]) -> Rest:
    """The time that the passes still missing will take, or the tools that they will wear out.

    Arguments: missing [-]: how many runners still lack each round; logged [s]: what passes of a round took;
    planned [s]: for one runner, where the log says nothing.
    Returns: rest; of tools in tools, where their numbers are given for times.
    Raises: nothing.
    Source: derivation: the mean of each round for each of its passes; Student's t at 95 % for the sum of so many more;
    half of it where fewer than three were logged: choice, no source.
    """
    amount, squares, rough, count = 0.0, 0.0, 0.0, 0
    unknown = []
    for name, runners in missing.items():
        times = logged.get(name, ())
        if len(times) >= LEAST:
            more = student_quantile(len(times) - 1) ** 2 * variance(times)
            squares += more * (runners + runners**2 / len(times))
        expected = fmean(times) if times else planned.get(name)
        if expected is None:
            unknown += [name] if runners else []
            continue
        amount += runners * expected
        count += len(times)
        rough += UNKNOWN * runners * expected if len(times) < LEAST else 0.0
    return Rest(amount, sqrt(squares) + rough, count, tuple(unknown))
