"""What the bores of a throttle or adapter say: what holds the air back, where metal stays, what is to be checked."""

from collections.abc import Iterator

from elvarn import units
from elvarn.core.finding import Grade
from elvarn.core.gas.discharge import round_area
from elvarn.core.path.plausible import SAME_BORE
from elvarn.core.port.bore_map import (
    LEAST_LAND,
    Barrel,
    Change,
    Worth,
    closed_gap,
    hidden_from,
    out_of_round,
    seals_at,
)
from elvarn.service.kernel.sentences import Sentence, listed, sentence
from elvarn.service.port.barrels import Bored

TITLES = {
    Change.STOP: "Set the stop",
    Change.BLADE: "Thin the shaft to half",
    Change.ENTRY: "Radius the entry",
    Change.NARROW: "Open it",
}
NOTES = {
    Change.STOP: "no metal; learn the closed stop again",
    Change.BLADE: "new screws, locked: a loose one is swallowed",
    Change.ENTRY: "as round as this, more gives nothing",
    Change.NARROW: "not where the blade seals",
}
NEEDED = {
    "shaft": "the shaft",
    "plate": "the blade",
    "plate_at": "how deep the shaft lies",
    "wide_open_angle": "the angle wide open",
    "entry_radius": "the entry's radius",
}
SAME_BORE_AREA = 0.01  # of the area: less than that is no difference to tell
ROUND = 1e-4  # m out of round where a blade closes: from there on it leaks; common practice, no source
LEAKS = 3e-6  # m²


def limit_of(worth: Worth, bored: Bored) -> str:
    """What ends a change, beside what its note says."""
    last = len(bored.depths(bored.leading)) - 1
    land = {0: "land_in", last: "land_out"}.get(worth.place if worth.place is not None else -1)
    land = "land_in" if worth.change is Change.ENTRY else land
    grown = worth.becomes - (worth.was if worth.change is Change.NARROW else 0.0)
    each_side = grown / 2 if worth.change is Change.NARROW else grown
    held = land and (size := bored.size(land)) is not None and size - LEAST_LAND <= each_side + 1e-6
    if held:
        return "the land to the seal's groove ends it"
    return "a straight taper between both ends" if not bored.has_plate else NOTES[worth.change]


def title_of(worth: Worth, bored: Bored) -> str:
    """What is done, and at which depth."""
    if worth.place is None:
        return TITLES[worth.change]
    return f"{TITLES[worth.change]} {1000 * bored.depths(bored.leading)[worth.place].place:g} mm in"


def headline(bored: Bored, showable: float | None) -> tuple[str, bool]:
    """The answer in a few words, and whether it is the best of the changes; nothing is called done while sizes lack."""
    if bored.barrel(bored.leading) is None:
        return "Gauge the bore", False
    if not bored.worths:
        return ("Measure the rest first" if lacking_sizes(bored) else "Nothing to take off"), False
    flow, _ = bored.flow
    best = bored.worths[0]
    if flow is not None and showable is not None and best.gain * flow < showable:
        return "Leave it: less than the bench shows", False
    return title_of(best, bored), True


def lacking_sizes(bored: Bored) -> list[str]:
    """What nobody measured of a part that decides what can be done to it."""
    wanted = NEEDED if bored.has_plate else {"entry_radius": NEEDED["entry_radius"]}
    return [words for quantity, words in wanted.items() if bored.size(quantity) is None]


def barrel_margin(bored: Bored, showable: float | None, preset: units.Preset) -> list[Sentence]:
    """The answer first, then what it rests on and what must stay."""
    barrel = bored.barrel(bored.leading)
    if barrel is None:
        text = f"The bore of the {bored.part.name} was not gauged."
        return [sentence(text, Grade.MEASURED, "next", "", "Press A and gauge it at three depths, both ways across.")]
    return [
        *_answer(bored, showable, preset),
        *_apart(bored),
        *_open(barrel, preset),
        *_advertised(bored, barrel),
        *_stop(barrel),
        *_round(bored, barrel),
        *_meets(bored, barrel),
        *_lands(bored),
        *_groove(bored),
        *_closure(bored),
        *_unknown(bored),
    ]


def _answer(bored: Bored, showable: float | None, preset: units.Preset) -> Iterator[Sentence]:
    flow, grade = bored.flow
    if not bored.worths or flow is None:
        return
    best = bored.worths[0]
    gain = units.show_difference(best.gain * flow, "flow", preset)
    half = units.show(best.half * flow, "flow", preset)
    which = f" of barrel {bored.leading}" if bored.count > 1 else ""
    text = f"{title_of(best, bored)}{which}: [{gain.text} {gain.unit} ±{half.text}](change {best.change})"
    base = units.show(flow, "flow", preset)
    of = "that it was read to pass" if grade is Grade.MEASURED else "that it is reckoned to pass"
    action = "Path tells what of it reaches the engine." if bored.behind else ""
    where = f", behind the {bored.front.label}" if bored.front and bored.front.bore else ""
    reason = (
        f"of the {base.text} {base.unit} {of} alone at {units.reference_depression(preset)}{where}; series of "
        "sections, the jet behind the blade recovered and not."
    )
    if showable is not None and best.gain * flow < showable:
        least = units.show(showable, "flow", preset)
        action = f"The bench shows {least.text} {least.unit} at least: leave it."
        yield sentence(f"{text},", Grade.ESTIMATED, "doubt", reason, action)
        return
    yield sentence(f"{text},", Grade.ESTIMATED, "next", reason, action)


def _apart(bored: Bored) -> Iterator[Sentence]:
    """By how much the barrels differ where they are narrowest."""
    least = {n: min(d.mean for d in depths) for n in range(1, bored.count + 1) if (depths := bored.depths(n))}
    if bored.count == 1 or not least:
        return
    missing = [str(n) for n in range(1, bored.count + 1) if n not in least]
    if missing:
        yield sentence(f"Not gauged: barrel {listed(missing)}.", Grade.MEASURED, "doubt", "It may be the narrowest.")
    apart = max(least.values()) - min(least.values())
    if apart > SAME_BORE:
        text = f"Barrel {bored.leading} is the narrowest, by {1000 * apart:.2f} mm:"
        share = (min(least.values()) / max(least.values())) ** 2 - 1
        yield sentence(text, Grade.MEASURED, "doubt", f"{units.percent_text(share)} of area against the widest.")


def _open(barrel: Barrel, preset: units.Preset) -> Iterator[Sentence]:
    if barrel.shaft is None:
        return
    thick = max(barrel.shaft, barrel.plate or 0.0)
    parts = [f"{_mm(thick)} mm {'shaft' if thick == barrel.shaft else 'blade'}"]
    if abs(90 - barrel.wide_open_deg) > 0.5:
        parts.append(f"open to {barrel.wide_open_deg:g}°")
    area = units.show(round_area(barrel.at_plate) * barrel.open_fraction, "area", preset)
    text = f"It leaves [{100 * barrel.open_fraction:.0f} %](open) of its bore open, {area.text} {area.unit}:"
    yield sentence(text, Grade.COMPUTED, "plain", f"{listed(parts)} in {_mm(barrel.at_plate)} mm.")


def _advertised(bored: Bored, barrel: Barrel) -> Iterator[Sentence]:
    stated = bored.facts.advertised.bore_mm
    least = min(barrel.bores)
    if stated is None or abs((least * 1000 / stated) ** 2 - 1) < SAME_BORE_AREA:
        return
    share = (least * 1000 / stated) ** 2 - 1
    text = f"Sold as {stated:g} mm, it measures {_mm(least)} mm where it is narrowest:"
    yield sentence(text, Grade.MEASURED, "doubt", f"{units.percent_text(share, 0)} of area.")


def _stop(barrel: Barrel) -> Iterator[Sentence]:
    if barrel.shaft is None or abs(90 - barrel.wide_open_deg) <= 0.5:
        return
    hidden = hidden_from(barrel.at_plate, barrel.shaft, barrel.closed_deg)
    short = 90 - abs(90 - barrel.wide_open_deg)
    if short >= hidden:
        text = f"Its stop at {barrel.wide_open_deg:g}° costs no area:"
        yield sentence(text, Grade.COMPUTED, "plain", f"from {hidden:.0f}° on the blade stands behind its shaft.")
        return
    text = f"It stops at {barrel.wide_open_deg:g}°, short of wide open:"
    reason = f"up to {hidden:.0f}° the blade stands beside its shaft in the air."
    yield sentence(text, Grade.COMPUTED, "doubt", reason, "Check pedal and cable first.")


def _round(bored: Bored, barrel: Barrel) -> Iterator[Sentence]:
    for number in range(1, bored.count + 1):
        for depth in bored.depths(number):
            apart = out_of_round(depth.diameters)
            if not seals_at(barrel, depth.place) or apart < ROUND:
                continue
            gap = closed_gap(depth.diameters)
            which = f"Barrel {number} is" if bored.count > 1 else "It is"
            text = f"{which} {1000 * apart:.2f} mm out of round where the blade closes:"
            reason = f"up to {1e6 * gap:.1f} mm² stay open behind a round blade."
            if gap > LEAKS:
                yield sentence(text, Grade.MEASURED, "doubt", reason, "Look at idle and closure.")
            else:
                yield sentence(text, Grade.MEASURED, "plain", reason)


def _meets(bored: Bored, barrel: Barrel) -> Iterator[Sentence]:
    """The step to what follows, by diameters alone."""
    behind = bored.behind
    if behind is None or behind.bore is None or not bored.depths(bored.leading):
        return
    out = barrel.bores[-1]
    step = (behind.bore - out) / 2
    text = f"Behind it the {behind.label} has {_mm(behind.bore)} mm"
    if step < -SAME_BORE:
        lip = f"{1000 * -step:.1f} mm stand in the stream all round, if centred."
        yield sentence(f"{text}:", Grade.MEASURED, "doubt", lip, "Lay the outlines on each other.")
    else:
        back = "flush" if step <= SAME_BORE else f"it steps back {_mm(step)} mm all round"
        yield sentence(f"{text}:", Grade.MEASURED, "plain", f"{back}, if centred.")


def _lands(bored: Bored) -> Iterator[Sentence]:
    for quantity, where in (("land_in", "entry"), ("land_out", "outlet")):
        land = bored.size(quantity)
        if land is None:
            continue
        hand = land - LEAST_LAND
        text = f"Between bore and groove at the {where} stand {_mm(land)} mm:"
        if hand <= 0:
            yield sentence(text, Grade.MEASURED, "doubt", f"{1000 * LEAST_LAND:g} mm is the least: no metal off there.")
        else:
            reason = f"{_mm(hand)} mm in hand all round, {1000 * LEAST_LAND:g} mm being the least (common practice)."
            yield sentence(text, Grade.MEASURED, "plain", reason)


def _groove(bored: Bored) -> Iterator[Sentence]:
    rows = sorted(
        (d for d in bored.facts.dimensions if d.quantity == "groove_depth" and d.element_kind == bored.kind),
        key=lambda d: d.taken_at,
    )
    if len(rows) < 2 or rows[-1].value_si >= rows[0].value_si - 5e-5:
        return
    text = f"The seal's groove was {1000 * rows[0].value_si:.2f} mm deep, now {1000 * rows[-1].value_si:.2f} mm:"
    action = "Cut it to its depth again, or take a thinner ring."
    yield sentence(text, Grade.MEASURED, "doubt", "the ring is squeezed harder, the face may not close.", action)


def _closure(bored: Bored) -> Iterator[Sentence]:
    """After a cut idle and full closure are looked at anew."""
    if not bored.has_plate or bored.state.sequence == 1:
        return
    checked = bored.facts.measured(bored.kind, "closed_angle")
    if checked is not None and checked.part_state_id == bored.state.id:
        return
    text = f"Full closure was not checked since {bored.state.label}."
    action = "Close it against the light, snap it shut from every angle, then note the closed angle: C."
    yield sentence(text, Grade.RULE, "doubt", "A blade that hangs holds the throttle open.", action)


def _unknown(bored: Bored) -> Iterator[Sentence]:
    missing = lacking_sizes(bored)
    if missing:
        text = f"Not measured: {listed(missing)}."
        yield sentence(text, Grade.MEASURED, "plain", "What these would give is not told above.")


def _mm(value: float) -> str:
    return f"{1000 * value:.1f}"
