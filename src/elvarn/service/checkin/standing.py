"""How a job stands at check-in: whether what decides was answered."""

from elvarn.core.rail import Step
from elvarn.service.job.standing import Standing, Todo
from elvarn.service.kernel.sentences import listed
from elvarn.service.record.job import JobRecord


def standing(record: JobRecord) -> Standing:
    """Check-in is done once all that the kind of job needs is answered; it holds up no work that was begun."""
    asked = _asked(record)
    unanswered = [words for words, answered in asked.items() if not answered]
    begun = bool(record.flows or record.pulls)
    todo = (Todo(f"Answer at check-in: {listed(unanswered)}"),) if unanswered and not begun else ()
    status = f"{len(asked) - len(unanswered)} of {len(asked)}" if asked else ""
    return Standing(not unanswered, status, todo)


def _asked(record: JobRecord) -> dict[str, bool]:
    """What decides, and whether it was answered: nothing of a part that needs no engine."""
    job, engine = record.job, record.job.engine
    if not {Step.PATH, Step.DYNO} & set(job.kind.rail):
        return {}
    boost = {"boost": engine.boost_kpa is not None} if engine is not None and engine.boosted else {}
    return {
        "bore and stroke": engine is not None and bool(engine.bore_mm and engine.stroke_mm),
        "rev limit": engine is not None and engine.limit_rpm is not None,
        "rpm band": job.band_high_rpm is not None,
        **boost,
    }
