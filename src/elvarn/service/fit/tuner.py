"""What the tuner must know: what the engine computer can't know by itself of what was changed."""

from collections.abc import Mapping
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.core.finding import Grade
from elvarn.core.fit.interface import Verb
from elvarn.core.path.tree import ElementKind
from elvarn.service.fit.injectors import injector_sentences
from elvarn.service.fit.state import PlanState
from elvarn.service.fit.strands import MANIFOLD, Pair, paired, places_of, touched
from elvarn.service.kernel.sentences import Sentence, first_up, sentence
from elvarn.service.record.part import PartFacts, load_facts, main_dimension
from elvarn.store.models import Build

# kind of element, dimension, its words, unit, factor, digits
SIZES: tuple[tuple[str, str, str, str, float, int], ...] = (
    (ElementKind.METER, "bore", "air meter's bore", "mm", 1e3, 1),
    (ElementKind.THROTTLE, "bore", "throttle's bore", "mm", 1e3, 1),
    (ElementKind.TUBE, "bore", "tube's bore", "mm", 1e3, 1),
    (MANIFOLD, "volume", "plenum's volume", "L", 1e3, 2),
    (MANIFOLD, "length", "runner length", "mm", 1e3, 0),
    (MANIFOLD, "bore", "runner's bore at its entry", "mm", 1e3, 1),
)
MEANS = {
    (ElementKind.METER, "bore"): "its calibration goes with its area",
    (ElementKind.THROTTLE, "bore"): "the same angle passes other air; closed and open are to be learned",
    (MANIFOLD, "volume"): "the charge answers the throttle later or sooner",
    (MANIFOLD, "length"): "filling peaks at another speed",
}
LEAST = 0.002  # of a size: below it nobody changed anything


def tuner_page(session: Session, state: PlanState, off: Build, on: Build) -> list[Sentence]:
    """Everything that a tuner has to know of this swap, sizes first."""
    pairs = touched(paired(places_of(off), places_of(on)))
    facts = load_facts(session, [p.state_id for pair in pairs for p in (pair.off, pair.on) if p and p.state_id])
    found = [one for pair in pairs for one in _sizes(pair, facts)]
    for strand in state.strands:
        kind = strand.kind
        if strand.question:
            found.append(sentence(f"{first_up(strand.off)}: not decided yet.", Grade.RULE, "doubt"))
        elif kind and kind.tuner and strand.verb is not Verb.TRANSFER:
            found.append(sentence(f"{first_up(strand.off)}, {strand.verb}: {kind.tuner}.", Grade.MEASURED))
    found += injector_sentences(state.job)
    found.append(sentence(f"The tune: {state.at.way('retune')}.", Grade.RULE))
    return found


def _sizes(pair: Pair, facts: Mapping[UUID, PartFacts]) -> list[Sentence]:
    before = facts.get(pair.off.state_id) if pair.off and pair.off.state_id else None
    after = facts.get(pair.on.state_id) if pair.on and pair.on.state_id else None
    if before is None or after is None or before is after:
        return []
    found = []
    for kind, quantity, words, unit, factor, digits in SIZES:
        if kind != pair.kind:
            continue
        was, now = main_dimension(before, quantity), main_dimension(after, quantity)
        if was is None or now is None:
            if not pair.same and (kind, quantity) in MEANS:
                found.append(sentence(f"{first_up(words)}: not measured on both.", Grade.RULE, "doubt"))
            continue
        if abs(now / was - 1) < LEAST:
            continue
        text = f"{first_up(words)} {was * factor:.{digits}f} → {now * factor:.{digits}f} {unit}"
        area = f", area {100 * ((now / was) ** 2 - 1):+.0f} %" if "bore" in quantity else ""
        means = MEANS.get((kind, quantity), "")
        found.append(sentence(f"{text}{area}{f': {means}' if means else ''}.", Grade.MEASURED))
    return found
