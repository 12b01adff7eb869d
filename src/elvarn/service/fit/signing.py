"""Whether a swap was signed off, and what keeps it from being so."""

from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.service.fit.state import PlanState, state_of
from elvarn.store import queries


def refusals(state: PlanState) -> list[str]:
    """What keeps a swap from being signed off, in words; nothing where it may be."""
    found = ["it is a mock-up"] if state.plan.mock_up else []
    found += [f"safety: {task.title}" for task in state.safety_open]
    found += [f"not decided: {one.off}" for one in state.strands if one.question]
    found += [f"mended for now only: {words}" for words in state.for_now]
    found += [f"fault code {code}" for code in state.codes_back]
    found += [f"changed since: {words}" for words in state.changes]
    return found


def not_signed_off(session: Session, job_id: UUID) -> str:
    """What has to be said wherever a vehicle is handed over with its swap not signed off; nothing else."""
    plan = queries.fit_plan_of(session, job_id)
    if plan is None:
        return ""
    state = state_of(session, plan)
    found = refusals(state)
    if not state.strands or (state.done("sign off") and not found):
        return ""
    checks = len(state.safety_open)
    open_ones = f" {checks} safety check{'s are' if checks > 1 else ' is'} open." if checks else ""
    others = [one for one in found if not one.startswith("safety: ")]
    more = f" {others[0][0].upper()}{others[0][1:]}." if others else ""
    return f"Fitting is not signed off: not to be driven.{open_ones}{more}"
