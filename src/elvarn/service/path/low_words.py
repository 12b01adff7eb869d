"""What a throttle does hardly open, in words: beside the one that is fitted now."""

from collections.abc import Iterator

from elvarn import units
from elvarn.core.finding import Grade
from elvarn.core.path.tree import ElementKind
from elvarn.service.kernel.sentences import Sentence, sentence
from elvarn.service.path.pool import Pool
from elvarn.service.record.low_opening import LOW_PERCENT, LowOpening
from elvarn.service.record.specs import BoreForm

ALIKE = 0.10  # of the flow hardly open, that a foot doesn't tell apart; choice, no source
SHAPED = (BoreForm.TAPERED, BoreForm.LOBED)


def low_opening_words(pool: Pool, index: int, preset: units.Preset) -> str:
    """A candidate's flow at a quarter of the travel, where that is read or can be reckoned; nothing for other kinds."""
    if pool.place.kind != ElementKind.THROTTLE:
        return ""
    found, form = pool.low_openings[index], pool.held[index].facts.features.bore_form
    if found is None:
        shape = f"{form.value.capitalize()} bore: slower at first; flow" if form in SHAPED else "Flow"
        return f"At {LOW_PERCENT:g} % open: not known. {shape} it at openings."
    now = None if pool.held[index].there_now else pool.low_opening_now
    return f"At {LOW_PERCENT:g} % open: {_flow(found, preset)}.{_beside(found, now)}"


def about_low_opening(pool: Pool, index: int) -> Iterator[Sentence]:
    """That a throttle comes in more sharply, or more softly, than the one fitted now."""
    found, now = pool.low_openings[index], pool.low_opening_now
    beside = found.over(now) if found and now else None
    if beside is None or abs(beside[0] - 1) <= ALIKE:
        return
    over, read = beside
    manner = "sharper off idle" if over > 1 else "softer off idle"
    text = f"{pool.held[index].facts.part.name} is {manner}: at {LOW_PERCENT:g} % open {over:.1f} times the flow."
    yield sentence(text, Grade.MEASURED if read else Grade.ESTIMATED, reason="It does not count in the score.")


def _flow(found: LowOpening, preset: units.Preset) -> str:
    shown = units.show(found.read or found.computed or 0.0, "flow", preset, 0)
    how = "read" if found.read else "by its plate in a plain bore"
    return f"{'' if found.read else 'about '}{shown.text} {shown.unit}, {how}"


def _beside(found: LowOpening, now: LowOpening | None) -> str:
    if now is None:
        return ""
    over = found.over(now)
    if over is None:
        return " The fitted one isn't known alike."
    plates = "By their plates " if found.read and not over[1] else ""
    return f" {plates}{over[0]:.1f} times the fitted one."
