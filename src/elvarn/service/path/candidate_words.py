"""Reasons for and against the candidates of a place, in words."""

from collections.abc import Iterator, Sequence

from elvarn.core.finding import Grade
from elvarn.core.path.pinch import pinch_before_runners
from elvarn.service.kernel.sentences import Sentence, listed, sentence
from elvarn.service.path.candidates import Candidate
from elvarn.service.path.pool import Pool

NOTHING = 0.05  # percent of the air


def candidates_margin(pool: Pool, rows: Sequence[Candidate]) -> list[Sentence]:
    """The sentences, the choice first and what to do last."""
    fitting = [row for row in rows if not row.hard]
    return [
        *_about_place(pool),
        *_about_first(pool, fitting),
        *_about_nothing_gained(fitting),
        *_about_claims(rows),
        *_about_hard(rows),
        *_next(fitting),
    ]


def _about_place(pool: Pool) -> Iterator[Sentence]:
    losses = pool.path.losses
    if losses is None or losses.choked or not losses.to_plenum:
        return
    rows = [row for row in losses.rows if row.row.kind in (pool.place.kind, _main(pool)) and row.drop is not None]
    drop = sum(row.drop or 0 for row in rows)
    worst = pinch_before_runners(losses)
    if not rows or pool.place.kind == "manifold":
        return
    share = 100 * drop / losses.to_plenum
    text = f"The {pool.place.kind} fitted now takes {drop / 1000:.1f} kPa at {pool.path.rpm} rpm, {share:.0f} % of the "
    text += "drop to the plenum."
    if worst is not None and worst.row.kind != pool.place.kind:
        text = f"The {worst.row.label.lower()} is the bigger restriction: look there first. {text}"
    yield sentence(
        text, Grade.COMPUTED, "doubt" if worst is not None and worst.row.kind != pool.place.kind else "plain"
    )


def _about_first(pool: Pool, fitting: Sequence[Candidate]) -> Iterator[Sentence]:
    if not fitting:
        return
    first = fitting[0]
    name = f"[{_name(first)}](candidate-{first.part_id})"
    if first.gain_low_percent is None or first.gain_high_percent is None:
        yield sentence(
            f"No ranking yet: the gain of {name} is not known. Flow it or measure its bore.", Grade.RULE, "doubt"
        )
        return
    if first.idle:
        text = "Keep the part you have. No candidate that fits gains air."
        yield sentence(text, Grade.ESTIMATED)
        return
    gain = _span(first.gain_low_percent, first.gain_high_percent)
    price = f" for {first.price:.0f} {pool.settings.currency}" if first.price is not None else ""
    work = f" plus {first.work_minutes:.0f} min fitting" if first.work_minutes else ""
    text = f"Top of your priorities: {name}. About {gain} air over the band{price}{work} (estimate)."
    if first.over_budget:
        text += f" Over budget ({pool.budget:.0f} {pool.settings.currency})."
    yield sentence(text, Grade.ESTIMATED)
    second = next((row for row in fitting[1:] if row.pareto), None)
    if second is not None:
        yield sentence(f"Alternative: {_name(second)} ({_why(first, second)}).", Grade.ESTIMATED)


def _about_nothing_gained(fitting: Sequence[Candidate]) -> Iterator[Sentence]:
    idle = [row for row in fitting if row.idle and not row.there_now]
    if not idle:
        return
    names = listed([_name(row) for row in idle[:3]])
    steps = [one.code for row in idle for one in row.conflicts]
    why = (
        "Its outlet meets a smaller opening."
        if "opening_steps_in" in steps
        else "Flows no more than the part fitted now."
    )
    yield sentence(f"No gain: {names}.", Grade.ESTIMATED, "doubt", reason=why)


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


def _about_hard(rows: Sequence[Candidate]) -> Iterator[Sentence]:
    for row in [row for row in rows if row.hard][:3]:
        first = next(one for one in row.conflicts if one.severity == "hard")
        yield sentence(f"[{_name(row)}](candidate-{row.part_id}) needs work: {first.text}", Grade.COMPUTED, "doubt")


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


def _span(low: float, high: float) -> str:
    if f"{low:.1f}" == f"{high:.1f}":
        return f"{high:.1f} %"
    return f"{low:.1f} to {high:.1f} %"


def _name(row: Candidate) -> str:
    return " ".join(word for word in (row.maker, row.name) if word)


def _main(pool: Pool) -> str:
    return "runner" if pool.place.kind == "manifold" else pool.place.kind
