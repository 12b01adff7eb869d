"""What is said of the sets of parts for a job."""

from collections.abc import Iterator, Sequence

from elvarn.core.finding import Grade
from elvarn.core.path.choice import Suits
from elvarn.service.kernel.sentences import Sentence, listed, sentence
from elvarn.service.path.candidate_words import span
from elvarn.service.path.pool import PULLS_EACH, band_of
from elvarn.service.path.set_views import Reckoner, SetView
from elvarn.service.path.sets import Sets


def sets_margin(sets: Sets, reckoner: Reckoner, views: Sequence[SetView]) -> list[Sentence]:
    """The sentences, the choice first and what to do last."""
    chosen = [view for view in views if view.parts]
    return [
        *_about_first(sets, chosen),
        *_about_money(reckoner, chosen),
        *_about_steps(chosen),
        *_about_tuning(sets, chosen),
        *_about_unchecked(chosen),
        *_about_work(chosen),
        *_next(chosen),
    ]


def _about_first(sets: Sets, chosen: Sequence[SetView]) -> Iterator[Sentence]:
    if not chosen:
        yield sentence("Leave it as it is: no set that fits gains air.", Grade.ESTIMATED, "doubt")
        return
    first = chosen[0]
    gain = f"{_gain(first)} air over the band"
    if first.gain_low_percent is None:
        yield sentence("No ranking yet: what the engine draws isn't known.", Grade.RULE, "doubt")
    elif first.suits is Suits.TOO_SMALL:
        text = f"No set that fits gains what {PULLS_EACH} pulls of each would show ({100 * sets.first.shown:.1f} %). "
        yield sentence(f"{text}Most by your priorities: {first.name}, {gain}.", Grade.ESTIMATED, "doubt")
    elif first.over_budget or first.late:
        text = f"As it is, or move a limit: {first.name} gives {gain} and is {_beyond(first)}."
        yield sentence(text, Grade.ESTIMATED, "doubt")
    elif first.suits is Suits.UNCHECKED:
        yield sentence(f"First to check: {first.name}. About {gain} (estimate).", Grade.ESTIMATED, "doubt")
    else:
        yield sentence(f"Top of your priorities: {first.name}. About {gain} (estimate).", Grade.ESTIMATED)


def _about_money(reckoner: Reckoner, chosen: Sequence[SetView]) -> Iterator[Sentence]:
    money = reckoner.sets.first.settings.currency
    first = chosen[0] if chosen else None
    if first and first.over_budget and first.cost is not None and reckoner.budget is not None:
        text = f"{first.name}: {first.cost - reckoner.budget:.0f} {money} over budget."
        yield sentence(text, Grade.COMPUTED, "doubt")
    if first and first.late and first.ready_on is not None and reckoner.due_on is not None:
        which = "None of these" if all(view.late for view in chosen) else f"{first.name} can't"
        soonest = min(view.ready_on for view in chosen if view.ready_on is not None)
        at = soonest if which == "None of these" else first.ready_on
        text = f"{which} be here by {reckoner.due_on:%d %b}, when the job is due: {at:%d %b} at the soonest."
        yield sentence(text.replace("these be", "these can be"), Grade.COMPUTED, "doubt")
    unknown = [part.name for view in chosen[:1] for part in view.parts if part.price is None]
    if unknown:
        yield sentence(f"Not in the sum: {listed(unknown)} has no price.", Grade.RULE, "doubt")
    slow = [part.name for view in chosen[:1] for part in view.parts if part.lead_days is None]
    if slow:
        yield sentence(f"When it is here isn't known: {listed(slow)} has no lead time.", Grade.RULE, "doubt")


def _about_steps(chosen: Sequence[SetView]) -> Iterator[Sentence]:
    for step in chosen[0].steps if chosen else ():
        if len(step.names) > 1:
            text = f"{listed(step.names)} come together: one alone doesn't fit."
            yield sentence(text, Grade.COMPUTED)
        if step.only_for_now:
            text = f"Paid for twice: {listed(step.only_for_now)} for {listed(step.names)} is of no use after the next "
            yield sentence(f"{text}step.", Grade.COMPUTED, "doubt", action="Fit both at once to save it.")


def _about_tuning(sets: Sets, chosen: Sequence[SetView]) -> Iterator[Sentence]:
    """Flow alone says nothing of the speed that runners are tuned for."""
    low, high = band_of(sets.first.path)
    parts = {part.part_id: part for view in chosen for part in view.parts if part.tuned}
    for part in parts.values():
        text = f"{part.name}: its runners favour {part.favours}, {part.tuned} your {low} to {high} rpm band."
        yield sentence(text, Grade.ESTIMATED, "plain" if part.tuned == "inside" else "doubt")


def _about_unchecked(chosen: Sequence[SetView]) -> Iterator[Sentence]:
    for view in chosen[:1]:
        asks = [f"{part.name}: {listed(part.unchecked[:3])}" for part in view.parts if part.unchecked]
        if asks and view.suits is Suits.UNCHECKED:
            yield sentence(f"Ask before it is ordered. {'; '.join(asks)}.", Grade.RULE, "doubt")


def _about_work(chosen: Sequence[SetView]) -> Iterator[Sentence]:
    for view in chosen[:1]:
        if view.buys:
            text = f"To be bought besides, not in the sum: {listed(view.buys)}."
            yield sentence(text, Grade.RULE)


def _next(chosen: Sequence[SetView]) -> Iterator[Sentence]:
    if chosen:
        yield sentence("Press B to make the marked set a build. Confirm with a pull.", Grade.RULE, "next")
    else:
        yield sentence("Put parts on the shelf, with price, lead time and a flow or bore.", Grade.RULE, "next")


def _gain(view: SetView) -> str:
    return span(view.gain_low_percent or 0.0, view.gain_high_percent or 0.0)


def _beyond(view: SetView) -> str:
    return listed([word for word, beyond in (("over budget", view.over_budget), ("late", view.late)) if beyond])
