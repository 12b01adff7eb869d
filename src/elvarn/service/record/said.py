"""Sentences on what is on record that more than one screen says."""

from collections.abc import Iterator, Sequence

from elvarn import units
from elvarn.core.bench.pairs import Pairs
from elvarn.core.finding import Grade
from elvarn.core.path.backsolve import agreement
from elvarn.service.kernel.sentences import Sentence, listed, not_comparable, sentence
from elvarn.service.record.combinations import combinations
from elvarn.service.record.job import JobRecord
from elvarn.service.record.offsets import offsets_of
from elvarn.store.models import FlowReading


def no_figure(pairs: Pairs, runner: int | None = None) -> str:
    """Why there is no figure for the gain, of one runner or of all: the two sides, or the gains of several set-ups,
    are not alike. Nothing where they are."""
    if pairs.depends_on:
        words = f"gain depends on {listed(list(pairs.depends_on))}"
        return words if runner is not None else f"{words}: no joint figure"
    return not_comparable(pairs.differing if runner is None else pairs.unlike.get(runner, ()))


def offset_sentences(readings: Sequence[FlowReading]) -> Iterator[Sentence]:
    """What is said of other shops' figures."""
    for offset in offsets_of(readings):
        text = f"Readings from {offset.shop}'s bench are not averaged in"
        if offset.fraction is None:
            yield sentence(f"{text}: nothing was read alike on both benches.", Grade.MEASURED, "doubt")
            continue
        over = f"{offset.ports} port{'s' if offset.ports > 1 else ''} on both"
        percent = units.percent_text(offset.fraction)
        yield sentence(f"{text}: it reads {percent} compared with ours ({over}).", Grade.COMPUTED)


def rule_of_thumb(flow: float, computed: float, preset: units.Preset) -> str:
    """What the 1/Q² sum gives beside the figure computed with the air expanding, and its difference."""
    shown = units.show(flow, "flow", preset, 0)
    return f"Rule of thumb 1/Q²: {shown.text} {shown.unit}, {units.percent_text(flow / computed - 1)}."


def combination_sentences(record: JobRecord, preset: units.Preset) -> Iterator[Sentence]:
    """What the combinations say of the runners alone."""
    found, against = combinations(record)
    for words in against:
        yield sentence(words, Grade.MEASURED, "doubt")
    for cylinder in sorted({one.cylinder for one in found}):
        mine = [one for one in found if one.cylinder == cylinder]
        for one in mine:
            shown = units.show(one.runner_alone, "flow", preset)
            answer = f"Runner {cylinder} alone: about {shown.text} {shown.unit},"
            answer += f" worked out from the reading with the throttle {one.throttle}."
            yield sentence(answer, Grade.COMPUTED, reason=rule_of_thumb(one.by_rule, one.runner_alone, preset))
        doubt = agreement([one.runner_alone for one in mine])
        if doubt is not None:
            yield sentence(f"Runner {cylinder}: {doubt.text}", Grade.COMPUTED, "doubt")
