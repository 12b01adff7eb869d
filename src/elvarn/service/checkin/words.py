"""What is said at check-in."""

from elvarn.core.finding import Grade
from elvarn.service.checkin.received import Item
from elvarn.service.job.photos import PhotoView
from elvarn.service.kernel.sentences import Sentence, listed, sentence
from elvarn.service.record.job import JobRecord

CAME = {
    "missing": ("Missing", "Tell the customer before you port anything."),
    "broken": ("Arrived broken", "Tell the customer before you port anything."),
    "worked_on": (
        "Modified before",
        "Any gain you measure starts from them, not from stock. The sheet says so.",
    ),
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
        text = "No stock pull yet. Once you take parts off, there is nothing to compare with. Pull it now."
        said.append(sentence(text, Grade.RULE, "doubt"))
    waiting = [item.words for item in items if item.returned_on is None and item.condition != "missing"]
    if job.closed_at is not None and waiting:
        said.append(
            sentence(f"Not returned: {listed(waiting[:4])}. The job is closed already.", Grade.MEASURED, "doubt")
        )
    said.append(sentence(_next(record, items, photos), Grade.RULE, "next"))
    return said


def _next(record: JobRecord, items: list[Item], photos: list[PhotoView]) -> str:
    engine, rail = record.job.engine, record.job.kind.rail
    if not photos:
        return "Photograph the parts before cleaning."
    if not items:
        return "List what arrived, so everything goes back."
    if "path" in rail and (engine is None or not engine.bore_mm):
        return "Enter bore and stroke; the air path needs them."
    if "path" in rail and engine is not None and engine.inlet_opens_deg is None:
        return "Enter the cam timing; runner losses depend on it."
    return "Check-in is complete. Go on to the next step."
