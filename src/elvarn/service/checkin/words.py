"""What is said at check-in."""

from elvarn.core.finding import Grade
from elvarn.service.checkin.received import Item
from elvarn.service.job.photos import PhotoView
from elvarn.service.kernel.sentences import Sentence, listed, sentence
from elvarn.service.record.job import JobRecord

CAME = {
    "missing": ("Did not come", "Tell the customer before anything is cut."),
    "broken": ("Came broken", "Tell the customer before anything is cut."),
    "worked_on": ("Worked on before", "A gain here starts from that, not from stock."),
}


def checkin_words(record: JobRecord, items: list[Item], photos: list[PhotoView]) -> list[Sentence]:
    """What did not come or came broken, what must happen before anything comes off, and what is next."""
    said, job = [], record.job
    for state, (words, then) in CAME.items():
        names = [item.words for item in items if item.condition == state and item.returned_on is None]
        if names:
            said.append(sentence(f"{words}: {listed(names[:4])}. {then}", Grade.MEASURED, "doubt"))
    stock = record.stock_build
    if "dyno" in job.kind.rail and stock is not None and not record.valid_pulls(stock):
        text = "No stock pull yet: once something comes off there is no stock to compare with."
        said.append(sentence(text, Grade.RULE, "doubt"))
    waiting = [item.words for item in items if item.returned_on is None and item.condition != "missing"]
    if job.closed_at is not None and waiting:
        said.append(sentence(f"{listed(waiting[:4])} still here: the job is closed.", Grade.MEASURED, "doubt"))
    said.append(sentence(_next(record, items, photos), Grade.RULE, "next"))
    return said


def _next(record: JobRecord, items: list[Item], photos: list[PhotoView]) -> str:
    engine, rail = record.job.engine, record.job.kind.rail
    if not photos:
        return "Take a picture of what came, before it is cleaned."
    if not items:
        return "List what came, so that all of it goes back."
    if "path" in rail and (engine is None or not engine.bore_mm):
        return "Enter the engine's bore and stroke: the air path needs them."
    if "path" in rail and engine is not None and engine.inlet_opens_deg is None:
        return "Enter the cam's events: they decide what the runners lose."
    return "Go on to the next step of the rail."
