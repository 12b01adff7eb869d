"""What is said of a part, and of its history."""

from collections.abc import Iterator, Sequence

from elvarn import units
from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.finding import Grade
from elvarn.core.gas.discharge import round_area, volume_flow_of
from elvarn.core.path.areas import smallest_bore
from elvarn.service.kernel.sentences import Sentence, sentence
from elvarn.service.record.features import Claim
from elvarn.service.record.part import PartFacts, main_element, main_flow
from elvarn.service.record.said import offset_sentences
from elvarn.service.shelf.dimensions import Dimension
from elvarn.store.models import FlowReading

BOXES = ("filter", "cooler")  # what they pass isn't a matter of their bore


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
    said += _of_its_bore(facts, flow, preset)
    for claim in claims:
        needs = f" Needs {claim.needs}." if claim.needs else ""
        text = f"Claim, not measured here: {claim.words.rstrip('.')}.{needs}"
        said.append(sentence(text, Grade.RULE))
    passage = facts.passage(main_element(facts.part.kind), 1 if facts.part.kind == "manifold" else None)
    if passage is not None and passage.grade is not Grade.MEASURED:
        said += [sentence(f"Its estimate: {one.text}.", Grade.ESTIMATED, "doubt") for one in passage.findings]
    if not facts.flows:
        said.append(sentence("Flow it on your bench: press F.", Grade.RULE, "next"))
    return said


def _of_its_bore(facts: PartFacts, flow: float | None, preset: units.Preset) -> Iterator[Sentence]:
    """How near a part comes to an ideal nozzle of its narrowest bore: what there is left to find in it."""
    passage = facts.passage(main_element(facts.part.kind), 1 if facts.part.kind == "manifold" else None)
    bore = smallest_bore(passage)
    if flow is None or bore is None or facts.part.kind in BOXES:
        return
    most = volume_flow_of(round_area(bore), REFERENCE_DEPRESSION)
    limit, wide = units.show(most, "flow", preset, 0), units.show(bore, "length", preset)
    text = f"Passes {100 * flow / most:.0f} % of the most that {wide.text} {wide.unit} can "
    over = flow > most
    yield sentence(
        f"{text}({limit.text} {limit.unit}).", Grade.COMPUTED, "doubt" if over else "plain",
        action="Check bench and bore." if over else "",
    )  # fmt: skip


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
