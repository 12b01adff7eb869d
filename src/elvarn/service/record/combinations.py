"""Runners flowed with a throttle on: what the runner alone passes, and whether the combinations agree."""

from dataclasses import dataclass
from statistics import fmean

from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.errors import Inconsistent
from elvarn.core.path.backsolve import back_solved_flow, rule_of_thumb_alone
from elvarn.core.path.tree import ElementKind
from elvarn.service.record.job import JobRecord
from elvarn.service.record.stated import at_reference
from elvarn.store.models import PartState


@dataclass(frozen=True)
class Combination:
    """A runner with a throttle on, and the runner alone as it follows from that, with what the rule of thumb (1/Q²)
    gives beside it; flows in m³/s at 28 inH2O."""

    cylinder: int
    throttle: str
    together: float
    throttle_alone: float
    runner_alone: float
    by_rule: float


def combinations(record: JobRecord) -> tuple[list[Combination], list[str]]:
    """Every runner of the latest state that was flowed with a throttle whose own flow is known; and contradictions."""
    throttles = _throttles(record)
    found, against = [], []
    state = record.after_state or record.before_state
    for cylinder, readings in record.runner_readings(state).items():
        for which, alone in throttles.items():
            with_it = [at_reference(r) for r in readings if r.setup.throttle == which]
            if not with_it:
                continue
            words = "as sold" if which == "as_sold" else which
            try:
                together = fmean(with_it)
                runner = back_solved_flow(together, [alone], REFERENCE_DEPRESSION)
                rule = rule_of_thumb_alone(together, [alone])
            except Inconsistent as error:
                against.append(f"Runner {cylinder} with the throttle {words}: {error}")
                continue
            found.append(Combination(cylinder, words, together, alone, runner, rule))
    return found, against


def _throttles(record: JobRecord) -> dict[str, float]:
    """Flow of the throttle as sold and ported, where it was read alone."""
    states: list[PartState] = [s for part in record.parts if part.kind == "throttle" for s in part.states]
    found = {}
    for state in sorted(states, key=lambda s: s.sequence):
        facts = record.facts.get(state.id)
        readings = facts.readings(ElementKind.THROTTLE) if facts else []
        if readings:
            found["as_sold" if state.sequence == 1 else "ported"] = fmean(at_reference(r) for r in readings)
    return found
