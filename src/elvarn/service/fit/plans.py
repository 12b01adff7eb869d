"""Plans of a swap: begun from two builds or two names, said anew, and their tasks written."""

from dataclasses import asdict
from datetime import UTC, datetime
from typing import Any
from uuid import UUID

from pydantic_core import to_jsonable_python
from sqlalchemy.orm import Session

from elvarn.core.fit.interface import Verb
from elvarn.core.fit.schools import OF_CODE, SEALS
from elvarn.core.fit.swap import worth_renewing
from elvarn.given import given
from elvarn.service.fit.families import remember
from elvarn.service.fit.said import NewFitPlan, SwapPlan
from elvarn.service.fit.state import state_of
from elvarn.service.fit.two_builds import two_builds
from elvarn.service.fit.written import write_tasks
from elvarn.service.kernel.errors import Invalid, Offer, Question
from elvarn.service.kernel.find import find
from elvarn.service.kernel.writes import edit, find_for_edit, write_once
from elvarn.store import queries
from elvarn.store.models import Build, FitPlan, Job

CHANGED = "changed"


@given
class FitPlanEdit:
    """A plan said anew on the version that was seen; `take_over` writes what changed of the builds since."""

    version: int
    person_id: UUID
    plan: SwapPlan
    on_build_id: UUID | None = None
    take_over: bool = False


@given
class PutPlanAway:
    version: int
    person_id: UUID


def begin_plan(session: Session, identifier: UUID, new: NewFitPlan) -> FitPlan:
    """Begin a swap. What is in the way and worth renewing comes from the engine's family. Raises Invalid where two
    builds are lacking or are the same."""
    job = find(session, Job, new.job_id, "job")
    family = " ".join(new.family.split())
    known = session.get(FitPlan, identifier)
    off, on = (known.off_build_id, known.on_build_id) if known else two_builds(session, identifier, job, new)

    def make(digest: str) -> FitPlan:
        of = queries.family_named(session, family) if family else None
        return FitPlan(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            job_id=job.id,
            off_build_id=off,
            on_build_id=on,
            family=family,
            in_the_way=list(of.in_the_way) if of else [],
            renewals=[{**one, "taken": False} for one in of.renewals] if of else [],
        )

    plan = write_once(session, FitPlan, identifier, new, make)
    if known is None:
        state = state_of(session, plan)
        there = {one["words"].lower() for one in plan.renewals}
        worth = [one.words for one in worth_renewing(state.strands) if one.words.lower() not in there]
        plan.renewals = [*plan.renewals, *({"words": words, "taken": False} for words in worth)]
        write_tasks(session, state_of(session, plan), new.person_id)
        session.flush()
    return plan


def edit_plan(session: Session, identifier: UUID, change: FitPlanEdit) -> FitPlan:
    """Say a plan anew and write its tasks; what is done stays done. Raises Question where the builds changed since and
    nobody took that over."""
    plan = find_for_edit(session, FitPlan, identifier, "plan")
    changed = state_of(session, plan).changes
    if changed and not change.take_over and change.on_build_id is None:
        text = f"Since the tasks were written: {'; '.join(changed)}. Take that over first; what is done stays done."
        raise Question(CHANGED, text, [Offer("Take it over", {"take_over": True})], path="plan")
    _check(change.plan)
    said: dict[str, Any] = to_jsonable_python(asdict(change.plan))
    said["family"] = " ".join(change.plan.family.split())
    if change.on_build_id is not None:
        build = find(session, Build, change.on_build_id, "build")
        if build.job_id != plan.job_id or build.id == plan.off_build_id:
            raise Invalid(f"'{build.name}' can't go on here. Choose another build of this job.", path="on_build_id")
        said["on_build_id"] = build.id
    edit(plan, change.version, said, "plan")
    session.flush()
    write_tasks(session, state_of(session, plan), change.person_id)
    remember(session, plan, change.person_id)
    session.flush()
    return plan


def put_plan_away(session: Session, identifier: UUID, put: PutPlanAway) -> FitPlan:
    """Put a plan away, so that another swap can begin; its tasks stay in the story of the job."""
    plan = find_for_edit(session, FitPlan, identifier, "plan")
    edit(plan, put.version, {"put_away_at": datetime.now(UTC)}, "plan")
    for key, row in queries.tasks_of_plan(session, plan.id).items():
        if key and row.state == "open" and not row.readings:
            session.delete(row)
    session.flush()
    return plan


def _check(body: SwapPlan) -> None:
    if body.seal and body.seal not in SEALS:
        raise Invalid(f"'{body.seal}' is no seal known here: {', '.join(SEALS)}.", path="plan.seal")
    for code, word in body.schools.items():
        school = OF_CODE.get(code)
        if school is None or word not in {way.word for way in school.ways}:
            raise Invalid(f"'{word}' is no way of '{code}'.", path=f"plan.schools.{code}")
    for key, said in body.said.items():
        if said.verb is Verb.LOOK:
            raise Invalid("Choose what is done.", path=f"plan.said.{key}")
    lists = {
        "steps": [one.title for one in body.steps],
        "in_the_way": [one.words for one in body.in_the_way],
        "renewals": [one.words for one in body.renewals],
        "extras": [one.words for one in body.extras],
    }
    for place, listed in lists.items():
        plain = [words.strip().lower() for words in listed]
        if not all(plain):
            raise Invalid("A line is empty. Type what it is.", path=f"plan.{place}")
        twice = next((words for n, words in enumerate(plain) if words in plain[:n]), None)
        if twice:
            raise Invalid(f"'{twice}' stands twice. Name them apart: left, right.", path=f"plan.{place}")
    for words, count in body.kit.items():
        if not 0 <= count <= 10_000:
            raise Invalid(f"{count} of '{words}' can't be. Enter what you counted.", path=f"plan.kit.{words}")
