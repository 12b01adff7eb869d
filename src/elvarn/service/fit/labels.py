"""Labels for plugs, hoses and bolt places: short codes that find their task."""

from dataclasses import dataclass
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.service.fit.state import state_of
from elvarn.service.kernel.errors import NotFound
from elvarn.service.kernel.find import find
from elvarn.service.kernel.sentences import first_up
from elvarn.store import queries
from elvarn.store.models import Job

UNKNOWN = 6  # labels without a name: an unknown plug is labelled too
PER_LABEL = 2  # one for each end


@dataclass(frozen=True)
class Label:
    """One label: its code, what it is on, and what becomes of it."""

    code: str
    words: str
    what: str


@dataclass(frozen=True)
class LabelSheet:
    """A sheet of labels for a job."""

    title: str
    says: str
    labels: list[Label]
    basis: str


def label_sheet(session: Session, job_id: UUID) -> LabelSheet:
    """Labels of the swap of a job, two of each, and some for what nobody knows. Raises NotFound without a swap."""
    job = find(session, Job, job_id, "job")
    plan = queries.fit_plan_of(session, job_id)
    if plan is None:
        raise NotFound("No swap was begun. Choose what comes off and what goes on first.")
    state = state_of(session, plan)
    labels = [
        Label(code, first_up(one.off), one.verb)
        for one in state.strands
        if (code := plan.codes.get(one.key))
        for _ in range(PER_LABEL)
    ]
    numbers = [int(code[1:]) for code in plan.codes.values() if code[0] == "U"]
    first = max(numbers, default=0) + 1
    labels += [Label(f"U{first + n}", "Unknown", "look, then name it") for n in range(UNKNOWN)]
    says = "One on the plug or hose end, one where it belongs. Type the code on the swap sheet to find its task."
    return LabelSheet(job.title, says, labels, f"swap begun {plan.created_at:%Y-%m-%d}")
