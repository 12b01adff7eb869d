"""What designs' pulls say, in shop words: the answer for the use first, then its price, then what it rests on."""

from collections.abc import Iterator, Sequence

from elvarn import units
from elvarn.core.dyno.compare import Traces, named_judged, over_band
from elvarn.core.dyno.correction import Standard
from elvarn.core.dyno.curves import Stretch
from elvarn.core.dyno.pairing import WEATHER
from elvarn.core.finding import Grade
from elvarn.core.verdict import Verdict
from elvarn.service.dyno.designs import Against, Designs
from elvarn.service.dyno.judged import Standing, over_of, peak_view
from elvarn.service.dyno.uses import Use
from elvarn.service.kernel.sentences import Sentence, first_up, from_finding, listed, sentence, what_would_tell
from elvarn.service.record.job import JobRecord

WEATHER_TELLS = "Enter the weather of each day and compare corrected, or pull both on one day."
ALIKE_TELLS = "Pull both alike, or mend what was noted wrongly: click the pull."
LEAST_STRETCH_RPM = 100.0  # of which an average is worth a word; choice, no source
FURTHER = "Pull further to see its peak."
TRUSTED = {"trusted_torque": "torque", "trusted_power": "power"}


def about_designs(
    designs: Designs, chosen: Standing | None, found: Sequence[Standing], preset: units.Preset
) -> list[Sentence]:
    """The verdict for the chosen use, what it costs elsewhere, and who leads the other uses."""
    said = list(_unlike(designs))
    if chosen is None:
        return said
    said += _verdict(designs, chosen, preset)
    said += _not_reached(chosen)
    if chosen.best is not None:
        said += _gears(chosen)
        said += _price(designs, chosen, preset)
        said += _peaks(designs, chosen, preset)
    for standing in found:
        if standing is not chosen:
            said += _leader(designs, standing, preset)
    return said


def about_trust(designs: Designs) -> list[Sentence]:
    """How far the comparison can be trusted."""
    return list(_trust(designs))


def line(one: Against) -> str:
    """A design's name, that lights its curve."""
    return f"[{first_up(one.design.name)}](line-{one.design.build_id})"


def _unlike(designs: Designs) -> Iterator[Sentence]:
    for one in designs.others:
        if one.unlike:
            answer = f"{line(one)} and {designs.reference.name}: {one.unlike}."
            weather = one.compared is not None and one.compared.pairing.unlike == (WEATHER,)
            action = WEATHER_TELLS if weather else ALIKE_TELLS
            yield sentence(answer, Grade.MEASURED, "harm", action=action, paper=True)


def _not_reached(chosen: Standing) -> Iterator[Sentence]:
    low, high = chosen.use.band
    for one in chosen.without:
        if one.compared is not None and one.compared.traces is not None:
            grid = one.compared.traces.grid
            reach = f"{grid[0]:.0f} to {grid[-1]:.0f} rpm"
            text = (
                f"{line(one)}: {low:.0f} to {high:.0f} rpm was not pulled, or less than half of it; both reach {reach}."
            )
            yield sentence(text, Grade.MEASURED, "doubt", paper=True)
    if chosen.best is not None:
        band = chosen.best[1]
        if band.low > low + 1 or band.high < high - 1:
            share = "" if chosen.use.by == "band" else f", {100 * band.reached:.0f} % of the time"
            text = (
                f"Of {low:.0f} to {high:.0f} rpm only {band.low:.0f} to {band.high:.0f} rpm was pulled{share}: that is "
                "judged."
            )
            yield sentence(text, Grade.MEASURED, "doubt", paper=True)


def _verdict(designs: Designs, chosen: Standing, preset: units.Preset) -> Iterator[Sentence]:
    if chosen.best is None:
        return
    best, band = chosen.best
    verdict = band.power.verdict
    figure, where = _figure(verdict, f"cell-{best.design.build_id}", preset), f"averaged {over_of(chosen.use, band)}"
    percent, basis = (
        units.percent_text(band.power.fraction),
        ", with an assumed repeatability" if verdict.assumed else "",
    )
    width = _width(verdict, preset)
    if not verdict.real:
        word = f"No difference larger than {verdict.matters:g} %" if verdict.no_larger else "Too close to call"
        answer = f"{word}: {line(best)} vs {designs.reference.name} {figure}, {where}."
        yield sentence(answer, Grade.MEASURED, reason=f"The ± is {width}{basis}.", action=_would(verdict), paper=True)
    elif verdict.change > 0:
        answer = f"{line(best)} makes {figure} more than {designs.reference.name}, {where} ({percent})."
        yield sentence(answer, Grade.MEASURED, reason=f"Clear: the ± is {width}{basis}.", paper=True)
        yield from _next_best(designs, chosen, preset)
    else:
        answer = (
            f"Keep {designs.reference.name} for {chosen.use.name}: {line(best)}, best of the others, makes {figure}."
        )
        yield sentence(answer, Grade.MEASURED, reason=f"Clear: the ± is {width}{basis}.", paper=True)


def _next_best(designs: Designs, chosen: Standing, preset: units.Preset) -> Iterator[Sentence]:
    """Whether the best is clearly ahead of the next one, where that gains, too."""
    if len(chosen.figures) < 2 or chosen.figures[1][1].power.verdict.change <= 0:
        return
    (best, _), (after, _) = chosen.figures[:2]
    band = designs.between(after.design, best.design).over(chosen.use.profile)
    if band is None:
        return
    verdict = band.power.verdict
    figure = _figure(verdict, f"cell-{after.design.build_id}", preset)
    if verdict.real:
        yield sentence(f"It is ahead of {line(after)} by {figure}, clearly.", Grade.MEASURED, paper=True)
    else:
        answer = f"Too close to call: {line(best)} against {line(after)}, {figure}, inside ±{_width(verdict, preset)}."
        yield sentence(answer, Grade.MEASURED, "doubt", action=_would(verdict), paper=True)


def _gears(chosen: Standing) -> Iterator[Sentence]:
    """Where the engine stands after each shift."""
    after = chosen.use.after_shifts
    if after:
        falls = listed([units.to_fifty(speed) for speed in after])
        answer = f"A shift at {units.to_fifty(chosen.use.band[1])} rpm falls to {falls} rpm."
        reason = f"Below {units.to_fifty(min(after))} rpm the engine stands only when it pulls away in its first gear."
        yield sentence(answer, Grade.COMPUTED, reason=reason, paper=True)


def _only_pulling_away(use: Use, stretch: Stretch) -> str:
    """Said of a loss that is met in the first gear alone."""
    if not use.after_shifts or stretch.high > min(use.after_shifts):
        return ""
    return "With these gears that is met only when pulling away."


def _price(designs: Designs, chosen: Standing, preset: units.Preset) -> Iterator[Sentence]:
    if chosen.best is None:
        return
    best = chosen.best[0]
    found = best.compared.traces if best.compared else None
    if found is None:
        return
    if found.power.lost:
        worst = _worst(found.power.lost)
        reason = f"{_on_average(best, worst, preset)} {_only_pulling_away(chosen.use, worst)}".strip()
        yield sentence(_stretch(best, "loses", worst, preset), Grade.MEASURED, "doubt", reason=reason, paper=True)
    if found.power.gained:
        most = _worst(found.power.gained)
        yield sentence(_stretch(best, "gains", most, preset), Grade.MEASURED, reason=_on_average(best, most, preset))
    clear = [c for c in found.crossings if c.clear]
    if clear:
        at = listed([f"[{units.to_fifty(c.engine_speed_rpm)}](crossing-{i})" for i, c in enumerate(clear[:3])])
        span = f"between {units.to_fifty(clear[0].low)} and {units.to_fifty(clear[0].high)} rpm"
        reason = f"The first lies somewhere {span}." if len(clear) > 1 else f"It lies somewhere {span}."
        yield sentence(f"The curves cross at {at} rpm.", Grade.MEASURED, reason=reason)
    yield from _climbing(designs, best, found)


def _climbing(designs: Designs, best: Against, found: Traces) -> Iterator[Sentence]:
    if found.other_climbs:
        answer = f"{line(best)} was still climbing when the pull ended."
        yield sentence(answer, Grade.MEASURED, "doubt", action=FURTHER, paper=True)
    elif found.stock_climbs:
        answer = f"{first_up(designs.reference.name)} was still climbing when the pull ended."
        yield sentence(answer, Grade.MEASURED, "doubt", action=FURTHER, paper=True)


def _peaks(designs: Designs, chosen: Standing, preset: units.Preset) -> Iterator[Sentence]:
    if chosen.best is None:
        return
    power = chosen.best[1].power
    (other, at), (stock, stock_at) = (
        (f"{view.value.text} {view.value.unit}", units.to_fifty(view.engine_speed_rpm))
        for view in (peak_view(power, side, preset) for side in (True, False))
    )
    yield sentence(
        f"Peak power in band: [{other}](peak-other) at {at} rpm; {designs.reference.name} [{stock}](peak-stock) at "
        f"{stock_at} rpm.",
        Grade.MEASURED,
    )


def _leader(designs: Designs, standing: Standing, preset: units.Preset) -> Iterator[Sentence]:
    """Who leads another use."""
    if standing.best is None:
        return
    use = first_up(standing.use.name)
    best, band = standing.best
    figure = _figure(band.power.verdict, f"cell-{best.design.build_id}", preset)
    if standing.leads:
        yield sentence(f"{use}: {line(best)} leads, {figure}.", Grade.MEASURED, paper=True)
    elif band.power.verdict.change > 0:
        yield sentence(f"{use}: too close to call, {line(best)} {figure}.", Grade.MEASURED, paper=True)
    else:
        less = "clearly" if band.power.verdict.real else "not clearly"
        answer = f"{use}: keep {designs.reference.name}. The best of the others makes {figure}, {less}."
        yield sentence(answer, Grade.MEASURED, paper=True)


def _trust(designs: Designs) -> Iterator[Sentence]:
    yield from _drifts(designs)
    if not designs.basis:
        yield sentence("Pulls stand on different corrections.", Grade.COMPUTED, "doubt", paper=True)
    elif designs.basis == Standard.OBSERVED.label:
        yield sentence("As observed: the weather is part of the difference.", Grade.COMPUTED, "doubt", paper=True)
    rows = [one for design in designs.every for one in design.pulls]
    if any(one.humidity for one in rows):
        most = max(one.humidity for one in rows)
        text = f"Humidity not known on {sum(one.humidity > 0 for one in rows)} of {len(rows)} pulls."
        yield sentence(
            text, Grade.COMPUTED, "doubt", reason=f"Between days that may make ±{most:.1f} %; it is in the ± there."
        )
    for mark, word in TRUSTED.items():
        if any(mark in one.row.marks for one in rows):
            text = f"Torque and power of a file disagreed; its {word} was taken."
            yield sentence(text, Grade.MEASURED, "doubt")
    for finding in dict.fromkeys(f for one in rows for f in one.findings):
        yield from_finding(finding, Grade.MEASURED)
    for finding in dict.fromkeys(f for design in designs.every for pull in design.curves for f in pull.curve.findings):
        yield from_finding(finding, Grade.MEASURED)
    if any(one.compared is not None and one.compared.pairing.left_out and not one.unlike for one in designs.others):
        text = "Pulls that have no like on the other side, or are of another day, are left out."
        yield sentence(text, Grade.COMPUTED)


def _drifts(designs: Designs) -> Iterator[Sentence]:
    found = dict.fromkeys(drift for one in designs.others if one.compared for drift in one.compared.drifts)
    for drift in found:
        if not drift.verdict.real:
            continue
        percent = units.percent_text(drift.verdict.change / 100)
        name = first_up(designs.reference.name)
        if drift.spoils:
            answer = f"{name} came back {percent} off within the day."
            yield sentence(answer, Grade.MEASURED, "harm", action="Find out why, then pull both again.", paper=True)
        else:
            yield sentence(
                f"{name} came back {percent} off: the drift is taken out.", Grade.MEASURED, "doubt", paper=True
            )


def _stretch(one: Against, verb: str, stretch: Stretch, preset: units.Preset) -> str:
    shown = units.show(abs(stretch.extreme), "power", preset)
    low, high, most = (units.to_fifty(speed) for speed in (stretch.low, stretch.high, stretch.extreme_rpm))
    where = f"between {low} and {high} rpm, most at {most} rpm"
    return f"{line(one)} {verb} up to [{shown.text} {shown.unit}](strip) {where}."


def _on_average(one: Against, stretch: Stretch, preset: units.Preset) -> str:
    """The mean over a stretch, which is its area over its width. Where the stretch lies follows from the curves, so its
    ± allows for having looked at all speeds."""
    compared = one.compared
    if compared is None or compared.traces is None or stretch.high - stretch.low < LEAST_STRETCH_RPM:
        return ""
    grid = compared.traces.grid
    judged = named_judged(float(grid[0]), float(grid[-1]))
    verdict = over_band(compared, (stretch.low, stretch.high), judged).power.verdict
    mean = units.show_difference(verdict.change, "power", preset)
    return f"On average there {mean.text} ±{_width(verdict, preset)}."


def _worst(stretches: Sequence[Stretch]) -> Stretch:
    return max(stretches, key=lambda s: abs(s.mean) * (s.high - s.low))


def _figure(verdict: Verdict, target: str, preset: units.Preset) -> str:
    shown = units.show_difference(verdict.change, "power", preset)
    return f"[{shown.text} {shown.unit}]({target})"


def _width(verdict: Verdict, preset: units.Preset) -> str:
    shown = units.show(verdict.half_width, "power", preset)
    return f"{shown.text} {shown.unit}"


def _would(verdict: Verdict) -> str:
    would = what_would_tell(verdict, "pull")
    return f"{first_up(would)}." if would else ""


def about_flow(flow: float | None, power: float | None) -> list[Sentence]:
    """What the bench showed beside what the engine made of it, both as fractions."""
    if flow is None or power is None:
        return []
    shown, made = units.percent_text(flow), units.percent_text(power)
    answer = f"Flow {shown} on the bench, power {made} on the dyno."
    return [sentence(answer, Grade.COMPUTED, reason="Other changes in the build count too.", paper=True)]


def what_is_next(record: JobRecord, designs: Designs | None) -> Sentence:
    """The next pull, or what comes after the last."""
    stock = record.stock_build
    waiting = next((b for b in reversed(record.builds) if b is not stock and not record.valid_pulls(b)), None)
    if stock is not None and not record.valid_pulls(stock):
        text = "Pull stock before you take anything off; drop the file here."
    elif waiting is not None and not _others_pulled(record):
        text = f"Pull {waiting.name}, same fuel and day if you can; drop the file here."
    elif len(record.builds) < 2:
        text = "Stock is saved. Mark the part as ported at the bench, then pull it."
    elif designs is not None and _not_repeated(designs):
        text = f"Pull {designs.reference.name} again if you still have it, else the last: it shows what the day did."
    else:
        text = "Print the sheet for the customer."
    return sentence(text, Grade.RULE, "next")


def _others_pulled(record: JobRecord) -> bool:
    """Whether anything but stock was pulled."""
    return any(record.valid_pulls(build) for build in record.builds if build is not record.stock_build)


def _not_repeated(designs: Designs) -> bool:
    """Whether the reference was not pulled again after the others."""
    return bool(designs.others) and max(one.row.pulled_at for one in designs.reference.pulls) < max(
        one.row.pulled_at for other in designs.others for one in other.design.pulls
    )
