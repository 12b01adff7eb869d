"""What a boosted engine's compressor has to do, in words."""

from collections.abc import Iterator
from uuid import UUID

import numpy as np

from elvarn.core.constants import ZERO_CELSIUS
from elvarn.core.finding import Grade
from elvarn.core.gas.air import STANDARD_AIR
from elvarn.core.path.charge import charge_temperature
from elvarn.core.path.compressor_map import corrected_flow
from elvarn.core.path.tree import ElementKind
from elvarn.service.kernel.sentences import Sentence, listed, sentence
from elvarn.service.record.part import PartFacts
from elvarn.service.record.solved import COMPRESSOR, SolvedPath, compressor_maps, least_stated, mapped_efficiency


def about_charge(path: SolvedPath, boost: float) -> Iterator[Sentence]:
    """What the compressor has to make for the boost, whether it can, and how warm that is."""
    draw, losses = path.draw, path.losses
    if draw is None or draw.charge is None or losses is None or losses.choked:
        return
    charge, least = draw.charge, 1 + boost / STANDARD_AIR.pressure
    limit = least_stated(path.known, "ratio_limit")
    if limit is not None and losses.ratio > limit:
        answer = f"The compressor has to make {losses.ratio:.2f} to 1 for {boost / 1000:.0f} kPa; it can {limit:g}."
        yield sentence(answer, Grade.COMPUTED, "harm", action="Less boost, less drop, or another compressor.")
    warm = charge_temperature(charge, np.array([losses.ratio]), STANDARD_AIR.temperature)[0] - ZERO_CELSIUS
    makes = f"{'at least ' if losses.unknown else ''}{losses.ratio:.2f} to 1"
    answer = f"For {boost / 1000:.0f} kPa of boost at the plenum the compressor has to make {makes}."
    mapped = mapped_efficiency(path.known, draw, losses.ratio)
    told = " by its map" if mapped is not None else _if_assumed(path, "efficiency_percent")
    efficiency = f"{100 * charge.efficiency:.0f} %{told}"
    cooler = f"cooler {100 * charge.cooling:.0f} %{_if_assumed(path, 'cooling_percent')} effective"
    cooled = charge.cooling > 0
    reason = (
        f"Without the drops {least:.2f} would do. Behind it the air is counted at its own pressure, in the plenum at "
    )
    reason += f"{warm:.0f} °C: compressor {efficiency}, {cooler if cooled else 'no cooler'}."
    stated = (mapped is not None or not _if_assumed(path, "efficiency_percent")) and not (
        cooled and _if_assumed(path, "cooling_percent")
    )
    yield sentence(answer, Grade.ESTIMATED, "plain" if stated else "doubt", reason=reason)
    if mapped is None and compressor_maps(path.known):
        yield _beside_the_map(path, makes)
    yield from _what_ends_it(path, boost, losses.ratio)
    yield _knock(path, warm)


def _beside_the_map(path: SolvedPath, makes: str) -> Sentence:
    """The map says nothing there: whether it surges or chokes, or the map only ends, isn't known."""
    assert path.draw is not None
    flow = corrected_flow(path.draw.mass_flow, path.draw.weather)
    text = f"Beside its map at {path.rpm} rpm: {flow:.3f} kg/s in all at {makes}."
    reason = "Whether it surges or chokes there, or the map only ends, isn't known; the efficiency is not its map's."
    return sentence(text, Grade.COMPUTED, "doubt", reason=reason, action="Look at the map before it is run there.")


def _what_ends_it(path: SolvedPath, boost: float, ratio: float) -> Iterator[Sentence]:
    """Parts behind the compressor that are rated for less than stands in them, else the one that is rated for least;
    and those that nobody rated. In front of the plenum there stands more than the boost: the drops with it."""
    behind = _behind(path)
    rated = [(facts.features.boost_kpa, facts) for facts in behind if facts.features.boost_kpa is not None]
    unrated = sorted({facts.part.name for facts in behind if facts.features.boost_kpa is None})
    weak = False
    for rating, facts in rated:
        stands = boost if facts.part.kind == "manifold" else (ratio - 1) * STANDARD_AIR.pressure
        if rating * 1000 < stands:
            weak = True
            text = (
                f"{facts.part.name} is rated {rating:g} kPa; up to {stands / 1000:.0f} kPa stand in it. Don't run it."
            )
            yield sentence(text, Grade.COMPUTED, "harm", action="Another part, or less boost.")
    if rated and not weak:
        rating, facts = min(rated, key=lambda one: one[0])
        yield sentence(f"Of the parts that are rated, {facts.part.name} is for least: {rating:g} kPa.", Grade.RULE)
    if unrated:
        more = f" and {len(unrated) - 4} more" if len(unrated) > 4 else ""
        text = f"Not rated for pressure: {listed(unrated[:4])}{more}."
        yield sentence(text, Grade.RULE, "doubt", action="Ask the maker before it is pressurised.")


def _behind(path: SolvedPath) -> list[PartFacts]:
    """Parts that the compressor's pressure stands in, each once."""
    found: dict[UUID, PartFacts] = {}
    for stages in path.routes.stages.values():
        way = [place for stage in stages for duct in stage.ducts for place in duct]
        first = next((n for n, place in enumerate(way) if path.nodes[place].element_kind == COMPRESSOR), None)
        for place in way[first + 1 :] if first is not None else ():
            facts = path.known[place]
            if facts is not None and path.nodes[place].element_kind != ElementKind.HEAD:
                found[facts.part.id] = facts
    return list(found.values())


def _knock(path: SolvedPath, warm: float) -> Sentence:
    """Knock can't be computed here: what it hangs on, and how its limit is found."""
    engine = path.engine.row if path.engine else None
    ratio = engine.compression_ratio if engine else None
    octane = engine.card.get("octane") if engine else None
    known = f"compression {ratio:g}" if ratio else "compression not noted"
    fuel = f"{octane:g} octane" if octane else "octane not noted"
    answer = f"Where knock ends it isn't computed: {known}, {fuel}, {warm:.0f} °C in the plenum."
    action = "Find it on the dyno in small steps, with somebody who listens for knock."
    return sentence(answer, Grade.RULE, "doubt" if not (ratio and octane) else "plain", action=action)


def _if_assumed(path: SolvedPath, name: str) -> str:
    return " (assumed)" if least_stated(path.known, name) is None else ""
