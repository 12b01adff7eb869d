"""Reasons for and against the candidates of a place, in words."""

from collections.abc import Iterator, Sequence
from itertools import islice

from elvarn.core.finding import Grade
from elvarn.core.path.choice import Suits
from elvarn.core.path.pinch import pinch, pinch_before_runners
from elvarn.service.kernel.sentences import Sentence, listed, sentence
from elvarn.service.path.candidates import Candidate
from elvarn.service.path.charging import stated_charge
from elvarn.service.path.low_words import about_low_opening
from elvarn.service.path.pool import PULLS_EACH, Pool, band_of, main_passage
from elvarn.service.record.part import main_element
from elvarn.service.record.solved import CHARGING, COMPRESSOR

NOTHING = 0.05  # percent of the air


def candidates_margin(pool: Pool, rows: Sequence[Candidate]) -> list[Sentence]:
    """The sentences, the choice first and what to do last."""
    others = [row for row in rows if not row.there_now]
    fitting = [row for row in others if not row.hard]
    return [
        *_about_first(pool, fitting),
        *_about_place(pool),
        *_about_nothing_gained(pool, fitting),
        *_about_tuning(pool, fitting),
        *_about_first_opening(pool, fitting),
        *_about_castings(pool, others),
        *_about_claims(others),
        *islice(_about_sources(pool), 2),
        *_about_hard(others),
        *_next(fitting),
    ]


def _about_place(pool: Pool) -> Iterator[Sentence]:
    losses = pool.path.losses
    if pool.place.kind in CHARGING:
        yield from _about_charging(pool)
        return
    if losses is None or losses.choked or not losses.to_plenum:
        return
    rows = [row for row in losses.rows if row.row.kind in (pool.place.kind, _main(pool)) and row.drop is not None]
    drop = sum(row.drop or 0 for row in rows)
    own = any(row.row.each for row in rows)  # each cylinder has its own: it is no part of what lies in front of it
    worst = pinch(losses) if own else pinch_before_runners(losses)
    if not rows or pool.place.kind == "manifold":
        return
    share = 100 * drop / (losses.total if own else losses.to_plenum)
    fitted = f"The {pool.place.kind}s fitted now take" if own else f"The {pool.place.kind} fitted now takes"
    text = f"{fitted} {drop / 1000:.1f} kPa at {pool.path.rpm} rpm, {share:.0f} % of the "
    text += f"drop to {'the ports' if own else pool.path.ends_at}."
    if worst is not None and worst.row.kind != pool.place.kind:
        verb = "are" if worst.row.each else "is"
        text = f"The {worst.row.label.lower()} {verb} the bigger restriction: look there first. {text}"
    yield sentence(
        text, Grade.COMPUTED, "doubt" if worst is not None and worst.row.kind != pool.place.kind else "plain"
    )


def _about_charging(pool: Pool) -> Iterator[Sentence]:
    """What the compressor or cooler that is fitted now makes of the air, or that nobody stated it."""
    path, kind = pool.path, pool.place.kind
    draw, losses = path.draw, path.losses
    if draw is None or draw.charge is None or losses is None:
        text = "No boost noted at Check-in: what a compressor or cooler gains can't be told."
        yield sentence(text, Grade.RULE, "doubt")
        return
    charge = stated_charge(kind, path.known, draw, losses.ratio)
    if charge is None:
        what = "efficiency or map" if kind == COMPRESSOR else "effectiveness"
        text = f"The {kind} fitted now has no {what} at {path.rpm} rpm: no gain against it can be told."
        yield sentence(text, Grade.RULE, "doubt", action="State it on its part.")
        return
    share = charge.efficiency if kind == COMPRESSOR else charge.cooling
    word = "efficient" if kind == COMPRESSOR else "effective"
    text = f"The {kind} fitted now is {100 * share:.0f} % {word} at {losses.ratio:.2f} to 1 and {path.rpm} rpm."
    held = "Gains are at this ratio: by how warm each leaves the air, and by what it loses."
    yield sentence(text, Grade.ESTIMATED, reason=held)


def _about_first(pool: Pool, fitting: Sequence[Candidate]) -> Iterator[Sentence]:
    if not fitting:
        return
    first = fitting[0]
    name = f"[{_name(first)}](candidate-{first.part_id})"
    if first.suits is Suits.NOT_KNOWN:
        text = f"No ranking yet: the gain of {name} is not known. Flow it or measure its bore."
        yield sentence(text, Grade.RULE, "doubt")
    elif first.suits in (Suits.NO_GAIN, Suits.WORSE):
        yield sentence("Keep the part you have. No candidate that fits gains air.", Grade.ESTIMATED)
    elif first.suits is Suits.TOO_SMALL:
        known = " and whose gain is known" if any(row.suits is Suits.NOT_KNOWN for row in fitting) else ""
        text = f"No candidate that fits{known} gains what {PULLS_EACH} pulls of each would show "
        text += f"({100 * pool.shown:.1f} %). "
        text += f"Most by estimate: {name}, {_gain(first)}{_cost(pool, first)}."
        yield sentence(text, Grade.ESTIMATED, "doubt")
    else:
        yield from _about_best(pool, first, name)
        second = next((row for row in fitting[1:] if row.pareto), None)
        if second is not None:
            yield sentence(f"Alternative: {_name(second)} ({_why(first, second)}).", Grade.ESTIMATED)


def _about_best(pool: Pool, first: Candidate, name: str) -> Iterator[Sentence]:
    over = f" Over budget ({pool.budget:.0f} {pool.settings.currency})." if first.over_budget else ""
    said = f"About {_gain(first)} air over the band{_cost(pool, first)} (estimate).{over}"
    if first.suits is Suits.FITS:
        yield sentence(f"Top of your priorities: {name}. {said}", Grade.ESTIMATED)
    else:
        asks = f"Ask before it is ordered: {listed(first.unchecked[: first.could_rule_out])}."
        yield sentence(f"First to check: {name}. {said}", Grade.ESTIMATED, "doubt", reason=asks)
    now = pool.path.passages[pool.place.places[0]]
    if pool.place.kind in CHARGING:
        return
    if now is not None and now.area is not None and (now.grade is Grade.MEASURED) != (first.flow_grade == "measured"):
        one, other = ("it was read", "the part fitted now") if first.flow_grade == "measured" else (
            "the part fitted now was read", "it"
        )  # fmt: skip
        yield sentence(f"Its span is that of an estimate: {one}, {other} is reckoned from its size.", Grade.ESTIMATED)


def _gain(row: Candidate) -> str:
    return span(row.gain_low_percent or 0.0, row.gain_high_percent or 0.0)


def _cost(pool: Pool, row: Candidate) -> str:
    price = f" for {row.price:.0f} {pool.settings.currency}" if row.price is not None else ""
    return f"{price}{f' plus {row.work_minutes:.0f} min fitting' if row.work_minutes else ''}"


def _about_nothing_gained(pool: Pool, fitting: Sequence[Candidate]) -> Iterator[Sentence]:
    """What is worse than the part fitted now is said to be worse, each with its own reason."""
    for row in [row for row in fitting if row.suits is Suits.WORSE][:2]:
        text = f"Worse than the part fitted now: {_name(row)}, {_gain(row)}."
        yield sentence(text, Grade.ESTIMATED, "doubt", reason=_why_not(pool, row))
    none = [row for row in fitting if row.suits is Suits.NO_GAIN]
    if none:
        yield sentence(f"No gain: {listed([_name(row) for row in none[:3]])}.", Grade.ESTIMATED, "doubt")


def _why_not(pool: Pool, row: Candidate) -> str:
    if pool.place.kind in CHARGING:
        return "It leaves the air warmer, or loses more pressure."
    now = pool.path.passages[pool.place.places[0]]
    held = pool.by_part[row.part_id]
    passage = main_passage(held.facts, main_element(pool.place.kind))
    if passage and now and passage.area is not None and now.area is not None and passage.area < now.area:
        return "It passes less than the part fitted now."
    steps = {one.code for one in row.conflicts}
    return "Its outlet meets a smaller opening." if "opening_steps_in" in steps else "What it meets costs more."


def _about_tuning(pool: Pool, fitting: Sequence[Candidate]) -> Iterator[Sentence]:
    """Where the runners of the first are tuned, and that this counted by a closed form."""
    tuned = [row for row in fitting if row.tuned]
    if pool.place.kind != "manifold" or not fitting:
        return
    if not tuned:
        text = "Runner length is not counted: no runner here has a length, or the compression isn't noted."
        yield sentence(text, Grade.RULE, "doubt")
        return
    low, high = band_of(pool.path)
    for row in tuned[:2]:
        text = f"{_name(row)}: its runners favour {row.favours}, {row.tuned} your {low} to {high} rpm band."
        yield sentence(text, Grade.ESTIMATED, "plain" if row.tuned == "inside" else "doubt")


def _about_first_opening(pool: Pool, fitting: Sequence[Candidate]) -> Iterator[Sentence]:
    for row in fitting[:1]:
        yield from about_low_opening(pool, pool.part_ids.index(row.part_id))


def _about_castings(pool: Pool, rows: Sequence[Candidate]) -> Iterator[Sentence]:
    """A cheap part that is the shape of a dear one."""
    cast: dict[str, list[Candidate]] = {}
    for row in rows:
        casting = pool.by_part[row.part_id].facts.features.casting
        if casting and row.price is not None:
            cast.setdefault(" ".join(casting.lower().split()), []).append(row)
    for alike in cast.values():
        cheap, dear = (end(alike, key=lambda row: row.price or 0.0) for end in (min, max))
        if (dear.price or 0.0) > (cheap.price or 0.0):
            money = pool.settings.currency
            text = f"{_name(cheap)} ({cheap.price:.0f} {money}) shares its casting with {_name(dear)} "
            text += f"({dear.price:.0f} {money})."
            yield sentence(text, Grade.MEASURED, reason="Look for what else differs before the dear one is paid for.")


def _about_claims(rows: Sequence[Candidate]) -> Iterator[Sentence]:
    for row in rows:
        for claim in row.claims:
            if claim.gain_percent is None:
                continue
            here = "Not known here."
            if row.gain_high_percent is not None:
                here = f"Estimated here: at most {max(row.gain_high_percent, 0):.1f} % more air."
            needs = f" with {claim.needs}" if claim.needs else ""
            answer = f"{_name(row)}: claim {claim.gain_percent:g} % power{needs}."
            yield sentence(answer, Grade.ESTIMATED, "doubt", reason=here, action="Only a pull compares them.")
        if row.bore and row.advertised_bore and abs(row.bore.value - row.advertised_bore.value) > 0.5:
            text = f"{_name(row)}: advertised {row.advertised_bore.text} {row.advertised_bore.unit}, "
            yield sentence(f"{text}measured {row.bore.text} {row.bore.unit}.", Grade.MEASURED, "doubt")


def _about_sources(pool: Pool) -> Iterator[Sentence]:
    """Estimates that rest on shapes which the sources of their losses don't cover."""
    kind = main_element(pool.place.kind)
    for held in pool.held:
        passage = main_passage(held.facts, kind)
        if held.hard or passage is None or passage.grade is Grade.MEASURED or not passage.findings:
            continue
        yield sentence(
            f"{held.facts.part.name}: {passage.findings[0].text}.", Grade.ESTIMATED, "doubt", action="Flow it."
        )


def _about_hard(rows: Sequence[Candidate]) -> Iterator[Sentence]:
    """Which are ruled out; why stands in their rows."""
    hard = [f"[{_name(row)}](candidate-{row.part_id})" for row in rows if row.hard]
    if hard:
        more = f" and {len(hard) - 3} more" if len(hard) > 3 else ""
        yield sentence(f"Ruled out: {listed(hard[:3])}{more}.", Grade.COMPUTED, "doubt", reason="Each row says why.")


def _next(fitting: Sequence[Candidate]) -> Iterator[Sentence]:
    unknown = [row for row in fitting if row.gain_low_percent is None]
    if unknown:
        yield sentence(f"Flow {listed([_name(row) for row in unknown[:2]])} to rank it.", Grade.RULE, "next")
    elif fitting:
        yield sentence("Press T to try the selected part as a what-if. Confirm with a pull.", Grade.RULE, "next")
    else:
        yield sentence("Add parts of this type to the shelf.", Grade.RULE, "next")


def _why(first: Candidate, second: Candidate) -> str:
    found = []
    if first.price is not None and second.price is not None and second.price < first.price:
        found.append("cheaper")
    if (second.gain_high_percent or 0) > (first.gain_high_percent or 0) + NOTHING:
        found.append("more gain")
    if first.lead_days is not None and second.lead_days is not None and second.lead_days < first.lead_days:
        found.append("shorter lead time")
    if first.mass_kg is not None and second.mass_kg is not None and second.mass_kg < first.mass_kg:
        found.append("lighter")
    if second.work_minutes < first.work_minutes:
        found.append("quicker to fit")
    return listed(found) if found else "better on one count"


def span(low: float, high: float) -> str:
    """Two bounds [%] in words."""
    if f"{low:.1f}" == f"{high:.1f}":
        return f"{high:.1f} %".replace("-", "−")
    return f"{low:.1f} to {high:.1f} %".replace("-", "−")


def _name(row: Candidate) -> str:
    return " ".join(word for word in (row.maker, row.name) if word)


def _main(pool: Pool) -> str:
    return "runner" if pool.place.kind == "manifold" else pool.place.kind
