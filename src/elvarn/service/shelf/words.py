"""What is said of a part, and of its history."""

from collections.abc import Iterator, Sequence

from elvarn import units
from elvarn.core.finding import Grade
from elvarn.service.kernel.sentences import Sentence, sentence
from elvarn.service.record.features import Claim
from elvarn.service.record.part import PartFacts, main_flow
from elvarn.service.record.said import offset_sentences
from elvarn.service.shelf.dimensions import Dimension
from elvarn.store.models import FlowReading


def part_words(
    facts: PartFacts, dimensions: Sequence[Dimension], claims: Sequence[Claim], preset: units.Preset
) -> list[Sentence]:
    """What is advertised against what was measured, and what nobody has measured."""
    said = []
    for one in dimensions:
        if one.difference and one.advertised and one.measured:
            text = f"{one.name}: advertised {one.advertised.text} {one.advertised.unit}, measured here "
            text += f"[{one.measured.text} {one.measured.unit}](dimension-{one.name}) ({one.difference})."
            said.append(sentence(text, Grade.MEASURED, "doubt"))
    flow, stated = main_flow(facts), facts.advertised.flow_cfm
    if stated:
        shown = units.show(units.to_si(stated, "cfm", "flow"), "flow", preset, 0)
        text = f"Its maker says {shown.text} {shown.unit}"
        if flow:
            here, apart = units.show(flow, "flow", preset), flow / units.to_si(stated, "cfm", "flow") - 1
            text += f"; this bench read {here.text} {here.unit}, {units.percent_text(apart)}"
        text += ". Two benches differ; a ratio on one bench does not."
        said.append(sentence(text, Grade.MEASURED if flow else Grade.RULE, "doubt" if flow else "plain"))
    for claim in claims:
        needs = f" It needs {claim.needs} for that." if claim.needs else ""
        text = f"Its seller says: {claim.words.rstrip('.')}.{needs} Nobody has measured that here."
        said.append(sentence(text, Grade.RULE))
    if not facts.flows:
        said.append(sentence("Flow it on your bench: press F.", Grade.RULE, "next"))
    return said


def history_words(readings: Sequence[FlowReading], gains: Sequence[float], flowed: int) -> list[Sentence]:
    """What cutting gave, how other shops' benches read, and how many parts of the casting were flowed."""
    said = [*_gained(gains), *offset_sentences(readings)]
    if flowed > 1:
        said.append(sentence(f"{flowed} parts of this casting were on the bench.", Grade.MEASURED))
    if not readings:
        said.append(sentence("Nothing of it was flowed yet.", Grade.MEASURED, "next"))
    return said


def _gained(gains: Sequence[float]) -> Iterator[Sentence]:
    if len(gains) == 1:
        change = units.percent_text(gains[0])
        yield sentence(f"Cut, it reads {change} against as it came, set up alike.", Grade.COMPUTED)
    elif gains:
        low, high = units.percent_text(min(gains)), units.percent_text(max(gains))
        text = f"Cut, {len(gains)} parts read from {low} to {high} against as they came, each set up alike."
        yield sentence(text, Grade.COMPUTED)
