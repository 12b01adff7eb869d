"""What the port sheet says: the answer first, then what it rests on, then what stops it."""

from collections.abc import Iterator, Sequence
from itertools import pairwise
from math import ceil, floor

from elvarn import units
from elvarn.core.constants import ZERO_CELSIUS
from elvarn.core.finding import Grade
from elvarn.core.port.level import LevelCut
from elvarn.core.port.lubricant import bottle, usual
from elvarn.core.port.next_cut import Bar, Cell, Head, Rest
from elvarn.core.port.plausible import walls_apart
from elvarn.core.port.wall import Material
from elvarn.core.port.worth import STATES_TO_PROVE
from elvarn.service.kernel.sentences import Sentence, listed, sentence
from elvarn.service.port.grid import CellFacts, Grid
from elvarn.service.port.other_words import beside_the_cut
from elvarn.service.port.typed import section_of
from elvarn.service.port.volumes import VolumeView

BARS = {
    Bar.LAND: "seal land: no metal off",
    Bar.BOSS: "boss: no metal off",
    Bar.WELD: "weld up outside first",
    Bar.REACH: "out of the tool's reach from either end",
    Bar.MOULDED: "moulded wall: smooth seams only",
}
SIDES = {12: "roof", 3: "right side", 6: "floor", 9: "left side"}
DUST = {
    Material.ALUMINIUM: "Aluminium dust burns: keep the swarf wet, no steel sparks near it.",
    Material.MAGNESIUM: (
        "Magnesium burns violently: no water on it, no sparks, swarf collected apart and carried out, class D "
        "extinguisher at hand."
    ),
    Material.IRON: "Iron sparks: no alcohol and no light-metal dust near the tool.",
    Material.COMPOSITE: "Fibre dust harms the lungs: mask on, extract it, smooth seams only.",
}
MOST_WALL_WORDS = 3
HALF_A_ROUND = 6.01  # h
NEARLY = 3e-6  # m²: short of the target by less is on it
USUAL_SHOP = 293.15  # K where nobody noted the air


def side_of_clock(cut: LevelCut) -> str:
    """Where a cut is deepest, as it is called."""
    return SIDES[min(SIDES, key=lambda hour: min(abs(cut.hour - hour) % 12, 12 - abs(cut.hour - hour) % 12))]


def clock_words(cut: LevelCut) -> str:
    """From where to where round the clock a cut is more than half as deep as at its deepest, in whole hours."""
    if cut.first == cut.last:
        return "all round"
    first, last = ceil(cut.first - 0.25) % 12 or 12, floor(cut.last + 0.25) % 12 or 12
    return f"at {first} o'clock" if first == last else f"{first} to {last} o'clock"


def gain_text(rest: Rest, preset: units.Preset) -> str:
    """What the rest of a runner's work is worth: in flow where it was read, else in percent."""
    if rest.flow_gain is None:
        return units.percent_text(rest.gain)
    shown = units.show_difference(rest.flow_gain, "flow", preset)
    return f"{shown.text} {shown.unit}"


def half_text(rest: Rest, preset: units.Preset) -> str:
    """Its half-range."""
    if rest.flow_half is None:
        return f"±{100 * rest.half:.1f} %"
    shown = units.show(rest.flow_half, "flow", preset)
    return f"±{shown.text} {shown.unit}"


def estimate_words(grid: Grid) -> str:
    """By what a gain is reckoned, and on what its half-range rests."""
    if grid.proof.states < STATES_TO_PROVE:
        return "estimate, ±50 %"
    return f"estimate, from {grid.proof.states} states of this casting"


def margin(grid: Grid, volumes: Sequence[VolumeView], preset: units.Preset) -> list[Sentence]:
    """What is concluded."""
    said = [*_safety(grid), *_answer(grid, preset), *_rests(grid, preset), *_core_shift(grid, preset)]
    said += [*_walls(grid), *_bars(grid), *_volumes(grid, volumes), *beside_the_cut(grid, preset)]
    said += _next(grid)
    return said


def _safety(grid: Grid) -> Iterator[Sentence]:
    yield sentence(DUST[grid.plan.material], Grade.RULE, "harm")
    if not grid.plan.material_stated:
        text = "The material is not stated: taken as aluminium."
        yield sentence(f"{text} Make sure it isn't magnesium before the first spark.", Grade.RULE, "harm")
    if grid.state.in_work and grid.plan.material is not Material.COMPOSITE:
        yield _bottle(grid)


def _bottle(grid: Grid) -> Sentence:
    """What keeps the abrasive wet today, and from when its vapour ignites."""
    if grid.plan.material is Material.IRON:
        return sentence("Lubricant: soapy water alone; iron sparks ignite alcohol.", Grade.RULE, "harm")
    noted = grid.shop_temperature
    mix = bottle(usual(noted if noted is not None else USUAL_SHOP))
    low, high = (temperature - ZERO_CELSIUS for temperature in (mix.lowest, mix.highest))
    at = f"{noted - ZERO_CELSIUS:.0f} °C in the shop" if noted is not None else "shop temperature not noted"
    answer = f"Lubricant, {at}: {100 * mix.alcohol:.0f} % alcohol in soapy water."
    what = "highly flammable" if mix.highly else "its vapour ignites on a hot day"
    action = "Small bottle, fresh air, no sparks."
    return sentence(
        answer, Grade.RULE, "harm", f"It ignites from {low:.0f} to {high:.0f} °C, by source: {what}.", action
    )


def _answer(grid: Grid, preset: units.Preset) -> Iterator[Sentence]:
    found = grid.next
    if grid.why is not None:
        yield sentence(f"{grid.why.message} {grid.why.remedy} Press T.", Grade.COMPUTED, "doubt")
    elif found.head is Head.MEASURE:
        what = f"Runner {found.runner} is not known yet" if found.runner else "No section is measured yet"
        which = "it" if found.runner else "each runner"
        yield sentence(f"{what}: measure {which} at two stations or more.", Grade.COMPUTED, "doubt")
    elif found.head is Head.TARGET:
        yield sentence("The law says nothing of the stations that were measured. Press T.", Grade.COMPUTED, "doubt")
    elif found.head is Head.GAUGE:
        yield sentence(
            "No depth is given where no wall was gauged.",
            Grade.COMPUTED,
            "doubt",
            f"[Runner {found.runner}](runner-{found.runner}) at {_at(grid)} is worth most.",
        )
    elif found.head is Head.WALLS:
        yield sentence("What is short of the target can't come off: walls, lands or reach end it.", Grade.COMPUTED)
    elif found.head is Head.STOP:
        yield _stop(grid, preset)
    elif found.runner is not None and found.station is not None:
        rest = found.rests[found.runner - 1]
        short = sum(cell.station.short for cell in rest.cells)
        others = [sum(c.station.short for c in one.cells) for one in found.rests if one.number != rest.number]
        text = f"Runner {rest.number} is {1e6 * short:.0f} mm² short, summed over {_stations(rest.cells)}"
        yield sentence(f"{text}; the others at most {1e6 * max(others, default=0):.0f}.", Grade.COMPUTED)


def _at(grid: Grid) -> str:
    return f"{1000 * grid.plan.stations[grid.next.station or 0]:.0f} mm"


def _stations(cells: Sequence[Cell]) -> str:
    count = sum(cell.station.now is not None for cell in cells)
    return f"{count} stations" if count != 1 else "1 station"


def _stop(grid: Grid, preset: units.Preset) -> Sentence:
    unseen = [rest for rest in grid.next.rests if rest.unseen]
    if not unseen or grid.showable is None:
        return sentence("Every measured station is on its target. Stop: polish and reflow.", Grade.COMPUTED)
    least = units.show(grid.showable, "flow", preset)
    most = max(unseen, key=lambda rest: rest.flow_gain or 0)
    text = f"The rest is worth at most {gain_text(most, preset)} a runner, less than the ±{least.text} {least.unit}"
    return sentence(f"{text} of a comparison in one session here. Stop: polish and reflow.", Grade.ESTIMATED)


def _rests(grid: Grid, preset: units.Preset) -> Iterator[Sentence]:
    found = grid.next
    if found.head not in (Head.CUT, Head.GAUGE) or found.runner is None:
        return
    rest = found.rests[found.runner - 1]
    lead = (
        f"The whole rest of runner {rest.number} is worth about [{gain_text(rest, preset)} {half_text(rest, preset)}]"
    )
    why = f"Half of it is unsure until {STATES_TO_PROVE} states of this casting are logged; so far {grid.proof.states}."
    if grid.proof.states >= STATES_TO_PROVE:
        why = (
            f"The ± is what {grid.proof.states} states of this casting show; they gained {grid.proof.factor:.2f} times"
        )
        why += " what the sections say."
    yield sentence(f"{lead}(runner-{rest.number}).", Grade.ESTIMATED, reason=f"By the series of sections. {why}")
    done = [rest.number for rest in found.rests if rest.unseen]
    if done and grid.showable is not None:
        least = units.show(grid.showable, "flow", preset)
        text = f"Runner{'s' if len(done) > 1 else ''} {listed([str(n) for n in done])}: the rest is worth less than the"
        yield sentence(
            f"{text} ±{least.text} {least.unit} of a comparison in one session. Stop there.", Grade.ESTIMATED
        )


def _core_shift(grid: Grid, preset: units.Preset) -> Iterator[Sentence]:
    """Where the walls of the next cell differ much: take it from the thick side."""
    found = grid.next
    if found.head is not Head.CUT or found.runner is None or found.station is None:
        return
    walls = grid.cells[found.runner - 1][found.station].walls
    if len(walls) < 2:
        text = "One wall only is gauged there: the cut stays at that side. Gauge the others too."
        yield sentence(text, Grade.COMPUTED, "doubt")
        return
    hours = sorted(wall.reading.hour % 12 for wall in walls)
    if max(second - first for first, second in pairwise([*hours, hours[0] + 12])) > HALF_A_ROUND:
        text = "Half the clock is not gauged there: no metal off on that side before it is."
        yield sentence(text, Grade.COMPUTED, "doubt")
    thin, thick = (pick(walls, key=lambda wall: wall.thickness) for pick in (min, max))
    if thick.thickness > 1.2 * thin.thickness:
        low, high = (units.show(wall.thickness, "length", preset) for wall in (thin, thick))
        text = f"The core is shifted: {low.text} {low.unit} at {thin.reading.hour:g} o'clock, {high.text} {high.unit}"
        yield sentence(f"{text} at {thick.reading.hour:g}. Take it from the thick side.", Grade.MEASURED, "doubt")


def _walls(grid: Grid) -> Iterator[Sentence]:
    """Walls that can't be what they are said to be, and walls that were not gauged since metal came off."""
    reckoned = [facts for row in grid.cells for facts in row if any(wall.reckoned for wall in facts.walls)]
    if reckoned:
        where = listed([f"runner {c.cylinder} at {1000 * c.place:.0f} mm" for c in reckoned[:MOST_WALL_WORDS]])
        more = f" and {len(reckoned) - MOST_WALL_WORDS} more" if len(reckoned) > MOST_WALL_WORDS else ""
        text = f"Metal came off after the wall was gauged: {where}{more}."
        yield sentence(text, Grade.COMPUTED, "doubt", "It counts as if all had come off that side.", "Gauge again.")
    for row in grid.cells:
        for facts in row:
            yield from _adds_up(facts)


def _adds_up(facts: CellFacts) -> Iterator[Sentence]:
    """Whether what the bore gained is what its opposite walls lost, where both were gauged before and after."""
    if len(facts.sections) < 2:
        return
    first, last = (section_of(row.shape, row.sizes) for row in (facts.sections[0], facts.sections[-1]))
    since = facts.sections[-1].taken_at
    old: dict[float, float] = {}
    new: dict[float, float] = {}
    for wall in facts.history:
        (new if wall.taken_at >= since else old)[wall.hour % 12] = wall.thickness_m
    for hour in sorted(set(old) & set(new)):
        other = (hour + 6) % 12
        if hour < other and other in old and other in new:
            apart = walls_apart(first, last, [(old[hour], new[hour]), (old[other], new[other])])
            if apart is not None:
                text = f"Runner {facts.cylinder} at {1000 * facts.place:.0f} mm: bore and walls don't add up by"
                yield sentence(f"{text} {1000 * abs(apart):.1f} mm. Gauge again.", Grade.COMPUTED, "doubt")


def _bars(grid: Grid) -> Iterator[Sentence]:
    """Stations that are short and may not be cut, by reason."""
    for bar in Bar:
        barred = [
            f"{rest.number} at {1000 * cell.station.place:.0f} mm"
            for rest in grid.next.rests
            for cell in rest.cells
            if cell.station.bar is bar and cell.station.short > NEARLY
        ]
        if barred:
            more = f" and {len(barred) - MOST_WALL_WORDS} more" if len(barred) > MOST_WALL_WORDS else ""
            words = ", ".join(barred[:MOST_WALL_WORDS])
            yield sentence(f"Short, but {BARS[bar]}: runner {words}{more}.", Grade.COMPUTED)


def _volumes(grid: Grid, volumes: Sequence[VolumeView]) -> Iterator[Sentence]:
    for row, volume in zip(grid.cells, volumes, strict=True):
        for words in volume.words:
            text = f"Runner {row[0].cylinder}: {words[0].lower()}{words[1:]}"
            yield sentence(text, Grade.COMPUTED, "doubt")


def _next(grid: Grid) -> Iterator[Sentence]:
    if grid.next.head in (Head.CUT, Head.GAUGE) and not grid.state.in_work:
        text = "Start the stage before the first cut: what is measured then belongs to it."
        yield sentence(text, Grade.RULE, "next")
    elif grid.next.head is Head.STOP and grid.state.in_work:
        yield sentence("Finish the stage, then read every runner on the bench.", Grade.RULE, "next")
