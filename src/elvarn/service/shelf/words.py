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
        text = f"Advertised {shown.text} {shown.unit}; not flowed here."
        if flow:
            here, apart = units.show(flow, "flow", preset), flow / units.to_si(stated, "cfm", "flow") - 1
            text = f"Reads {here.text} {here.unit} here, advertised {shown.text} {shown.unit} "
            text += f"({units.percent_text(apart)})."
        text += " Benches differ, so compare parts on your own bench only."
        said.append(sentence(text, Grade.MEASURED if flow else Grade.RULE, "doubt" if flow else "plain"))
    for claim in claims:
        needs = f" Needs {claim.needs}." if claim.needs else ""
        text = f"Claim, not measured here: {claim.words.rstrip('.')}.{needs}"
        said.append(sentence(text, Grade.RULE))
    if not facts.flows:
        said.append(sentence("Flow it on your bench: press F.", Grade.RULE, "next"))
    return said


def history_words(readings: Sequence[FlowReading], gains: Sequence[float], flowed: int) -> list[Sentence]:
    """What cutting gave, how other shops' benches read, and how many parts of the casting were flowed."""
    said = [*_gained(gains), *offset_sentences(readings)]
    if flowed > 1:
        said.append(sentence(f"{flowed} parts of this casting flowed.", Grade.MEASURED))
    if not readings:
        said.append(sentence("Not flowed yet.", Grade.MEASURED, "next"))
    return said


def _gained(gains: Sequence[float]) -> Iterator[Sentence]:
    if len(gains) == 1:
        change = units.percent_text(gains[0])
        yield sentence(f"Porting gained {change}, same set-up.", Grade.COMPUTED)
    elif gains:
        low, high = units.percent_text(min(gains)), units.percent_text(max(gains))
        text = f"Porting gained {low} to {high} on {len(gains)} parts, each with the same set-up."
        yield sentence(text, Grade.COMPUTED)
