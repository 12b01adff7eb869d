"""What was done to a job so far, day by day."""

from dataclasses import dataclass
from datetime import date

from elvarn.service.record.job import JobRecord


@dataclass(frozen=True)
class Event:
    """Something that happened to the job, on a day."""

    day: date
    words: str


def story_of(record: JobRecord) -> list[Event]:
    """What was done to the job so far, day by day."""
    told = [Event(record.job.received_on, "came in")] if record.job.received_on else []
    for state, words in ((record.before_state, "before cutting"), (record.after_state, "after cutting")):
        readings = [r for rows in record.runner_readings(state).values() for r in rows]
        days = sorted({r.taken_at.date() for r in readings})
        told += [Event(d, f"flowed {sum(r.taken_at.date() == d for r in readings)} runners {words}") for d in days]
    names = {build.id: build.name for build in record.builds}
    pulled = sorted({(p.card.pulled_at.date(), names[p.card.build_id]) for p in record.pulls if p.strike is None})
    told += [Event(d, f"pulled {name}") for d, name in pulled]
    cut = sum(step.minutes or 0 for step in record.tasks if step.rail_step == "port")
    done = [step.done_at.date() for step in record.tasks if step.rail_step == "port" and step.done_at]
    if cut and done:
        told.append(Event(max(done), f"{cut:.0f} minutes of port work noted"))
    return sorted(told, key=lambda event: event.day)
