"""What a solved path says, in shop words."""

from collections.abc import Iterator
from math import isfinite

from elvarn import units
from elvarn.core.bench.reference import is_far_conversion
from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.engine import demand, tuning
from elvarn.core.engine.strokes import drawing_factor, steady_equivalent
from elvarn.core.finding import Grade
from elvarn.core.gas.discharge import round_area, volume_flow_of
from elvarn.core.path.conflict import Severity
from elvarn.core.path.conflicts import conflicts
from elvarn.core.path.engine_losses import EngineLosses, RowLoss
from elvarn.core.path.pinch import pinch, pinch_before_runners
from elvarn.core.path.tree import ElementKind
from elvarn.service.kernel.sentences import Sentence, first_up, listed, sentence
from elvarn.service.path.charge_words import about_charge
from elvarn.service.path.figures import favoured_speeds
from elvarn.service.path.logged_words import about_logged_drop
from elvarn.service.path.nitrous_words import about_nitrous
from elvarn.service.record.engine import charge_density
from elvarn.service.record.places import features_of, kinds_in, place_in, surroundings_of
from elvarn.service.record.said import combination_sentences, rule_of_thumb
from elvarn.service.record.solved import SolvedPath, absolute_at_plenum, air_gained

SAME_DEPRESSION = 0.02
SAME_DROP = 0.01  # of average and full flow, to be told as one
POINTLESS_GAIN = 0.001  # of the air


def solution_margin(as_is: SolvedPath, path: SolvedPath, preset: units.Preset) -> list[Sentence]:
    """The sentences, the most important first and what to do last."""
    said: list[Sentence] = []
    if path is not as_is:
        said += _about_change(as_is, path)
    if path.losses is not None:
        said += _about_drop(path)
        said += about_logged_drop(path)
        said += _about_pinch(path, preset)
        said += _about_manifold(path, preset)
    said += _about_port(path, preset)
    said += _about_directions(path)
    said += _about_need(path, preset)
    said += _about_conflicts(path)
    said += about_nitrous(path)
    said += _about_trust(path)
    said += combination_sentences(path.record, preset)
    said += _next(path)
    return said


def _about_change(as_is: SolvedPath, path: SolvedPath) -> Iterator[Sentence]:
    gained = air_gained(as_is, path)
    if gained is None:
        return
    low, high = (100 * end for end in gained)
    if max(abs(low), abs(high)) < 100 * POINTLESS_GAIN:
        text = "What-if: [no worthwhile gain](gained). The restriction is elsewhere."
        yield sentence(text, Grade.ESTIMATED, "doubt")
        return
    ends = [units.percent_text(end / 100) for end in (low, high)]
    span = ends[1] if ends[0] == ends[1] else f"{ends[0].removesuffix(' %')} to {ends[1]}"
    answer = "What-if: no clear gain:" if low < 0 < high else "What-if:"
    yield sentence(
        f"{answer} [{span} air](gained) at {path.rpm} rpm (estimate).", Grade.ESTIMATED, action="Confirm with a pull."
    )


def _about_drop(path: SolvedPath) -> Iterator[Sentence]:
    losses, limit = path.losses, path.settings.plenum_drop_kpa
    assert losses is not None
    if losses.choked:
        names = listed([path.routes.elements[place].label for place in losses.choked[:3]])
        more = " and others" if len(losses.choked) > 3 else ""
        answer = f"{names}{more} would choke at {path.rpm} rpm: the engine can't get this much air."
        yield sentence(answer, Grade.COMPUTED, "harm")
        return
    if not losses.to_plenum and not any(not row.row.each and row.row.kind != ElementKind.PLENUM for row in losses.rows):
        return
    if not losses.to_plenum:
        text = f"Drop to {path.ends_at} not known: nothing ahead of it is measured."
        yield sentence(text, Grade.RULE, "doubt")
        return
    drop = losses.to_plenum / 1000
    share = 100 * demand.drop_share(losses.to_plenum, absolute_at_plenum(path))
    power = demand.power_share(share)
    least = "at least " if losses.unknown else ""
    over = f", over your {limit:g} kPa limit" if drop > limit else ""
    words = (
        f"Pressure drop to {path.ends_at} is {least}[{drop:.1f} kPa](plenum) at {path.rpm} rpm{over}. That is {least}"
    )
    words += f"{share:.1f} % of the air; at most about {power:.0f} % power if all of it were gone."
    grade = Grade.COMPUTED if _all_measured(path) else Grade.ESTIMATED
    yield sentence(words, grade, "doubt" if drop > limit else "plain", reason=_height_of_strokes(path, losses))


def _height_of_strokes(path: SolvedPath, losses: EngineLosses) -> str:
    """The average that is told beside the drop when most flows."""
    least = "at least " if losses.unknown else ""
    if losses.peak_to_plenum < losses.to_plenum * (1 + SAME_DROP):
        steadied = "The plenum steadies the air ahead of it" if path.ends_at == "the plenum" else "The air is steady"
        front = f"{steadied}: average and full flow are one."
    else:
        full = f"{least}{_kpa(losses.peak_to_plenum)}" if isfinite(losses.peak_to_plenum) else "it would choke"
        front = f"That is averaged over the air drawn; at full flow {full}."
    full = f"{least}{_kpa(losses.peak)} at full flow" if isfinite(losses.peak) else "at full flow it would choke"
    return f"{front} To the ports: {least}{_kpa(losses.total)} on average, {full}."


def _kpa(pascal: float) -> str:
    return f"{pascal / 1000:.1f} kPa"


def _about_pinch(path: SolvedPath, preset: units.Preset) -> Iterator[Sentence]:
    losses = path.losses
    if losses is None or losses.choked:
        return
    worst, before = pinch(losses), pinch_before_runners(losses)
    runners = [row for row in losses.rows if row.row.kind == ElementKind.RUNNER]
    if before is None:
        return
    if worst is before:
        text = f"Biggest restriction: {_the(before).lower()}, {_share(before)} of all the drop. "
        text += f"It costs more than the runners. Fix it before porting.{_per_millimetre(before)}"
        yield sentence(text, _grade(path, before), "doubt")
    else:
        upstream = (before.drop or 0) / losses.to_plenum if losses.to_plenum else 0
        verb = "take" if worst and len(worst.row.places) > 1 else "takes"
        lead = f"{_the(worst)} {verb} {_share(worst)} of all the drop. " if worst in runners else ""
        known = " that is known" if losses.unknown else ""
        share = f"[{100 * upstream:.0f} %](row-{before.row.label}) of the drop to {path.ends_at}{known}"
        ahead = f"Ahead of {'them' if worst in runners else 'the manifold'} {_the(before).lower()} is"
        text = f"{lead}{ahead} the biggest restriction, {share}.{_per_millimetre(before)}"
        yield sentence(text, _grade(path, before))
    for row in losses.rows:
        if row.wanted_area is not None and row.row.kind != ElementKind.RUNNER:
            flow = units.show(volume_flow_of(row.wanted_area, REFERENCE_DEPRESSION), "flow", preset, 0)
            limit = f"your {path.settings.share_limit_percent:g} % limit"
            need = "they need to flow" if row.row.each else "it needs to flow"
            each = " each" if row.row.each else ""
            text = f"To get {_the(row).lower()} under {limit}, {need} {flow.text} {flow.unit}{each}."
            yield sentence(text, Grade.ESTIMATED)


def _about_manifold(path: SolvedPath, preset: units.Preset) -> Iterator[Sentence]:
    """Everything in front has to flow more than the manifold: compared as whole-engine figures, never straight."""
    rows = path.losses.rows if path.losses else ()
    runners = next((row.row for row in rows if row.row.kind == ElementKind.RUNNER), None)
    if path.engine is None or runners is None or not runners.area:
        return
    factor = drawing_factor(path.engine.strokes, (path.nodes[runners.places[0]].cylinder or 1,))
    each = volume_flow_of(runners.area, REFERENCE_DEPRESSION)
    manifold = steady_equivalent(each, len(runners.places), factor)
    front = [row.row for row in rows if not row.row.each and row.row.area and isfinite(row.row.area)]
    less = [row for row in front if volume_flow_of(row.area or 0.0, REFERENCE_DEPRESSION) < manifold]
    shown = units.show(manifold, "flow", preset, 0)
    if less:
        names = listed([row.label.lower() for row in less])
        text = f"The {names} flow{'s' if len(less) == 1 else ''} less than the manifold ({shown.text} {shown.unit} for "
        yield sentence(f"{text}all runners together).", Grade.COMPUTED, "doubt", action="Open that up first.")
    elif front:
        text = "The manifold is tighter than everything measured ahead of it: "
        figure = f"[{shown.text} {shown.unit}](row-{runners.label}) for all runners together."
        yield sentence(f"{text}{figure}", Grade.COMPUTED, reason=_not_measured(path))


def _about_port(path: SolvedPath, preset: units.Preset) -> Iterator[Sentence]:
    port = path.port
    if port is None:
        return
    weakest = units.show(port.weakest, "flow", preset)
    series, carried = (units.show(q, "flow", preset, 0) for q in (port.series, port.carried))
    label = path.routes.elements[port.weakest_place].label
    if port.unknown:
        names = listed(sorted({path.routes.elements[place].label for place in port.unknown}))
        answer = f"Port {port.cylinder} through the whole intake: at most [{series.text} {series.unit}](port)."
        yield sentence(answer, Grade.ESTIMATED, "doubt", reason=f"Not measured: {names}.")
        return
    if port.weakest < port.series * 1.01:
        return
    span = f"about [{series.text}](port) to {carried.text} {carried.unit} on the bench"
    answer = f"Port {port.cylinder} through the whole intake: {span}, worked out from the parts in line."
    reason = f"{label} alone flows {weakest.text} {weakest.unit}; it can't beat that. "
    reason += rule_of_thumb(port.by_rule, port.series, preset)
    yield sentence(answer, Grade.ESTIMATED, reason=reason)


def _about_directions(path: SolvedPath) -> Iterator[Sentence]:
    band = _band(path)
    found = favoured_speeds(path)
    runner = next((one for one in found if one.by.startswith("runner")), None)
    cam = next((one for one in found if one.by == "inlet cam"), None)
    if runner and cam and tuning.pull_apart(runner, cam):
        text = f"Runner and cam are tuned for different speeds: [{units.to_fifty(runner.speed_rpm)}](tuning) and "
        text += f"{units.to_fifty(cam.speed_rpm)} rpm. Match them to one band."
        yield sentence(text, Grade.RULE, "doubt")
    if band is None:
        return
    for one in (runner, cam):
        if one is None:
            continue
        where = tuning.against_band(one, *band)
        if where != "inside":
            speeds = f"[{units.to_fifty(one.low_rpm)} to {units.to_fifty(one.high_rpm)} rpm](tuning)"
            text = f"{first_up(one.by)} is tuned for {speeds}, {where} your {band[0]} to {band[1]} rpm band."
            yield sentence(text, Grade.RULE if one is cam else Grade.ESTIMATED, "doubt")


def _about_need(path: SolvedPath, preset: units.Preset) -> Iterator[Sentence]:
    engine, wanted = path.engine, path.record.job.power_wanted_kw
    if engine is None or wanted is None:
        return
    shown = units.show(wanted * 1000, "power", preset, 0)
    factor = drawing_factor(engine.strokes, (1,))
    limit = path.settings.runner_drop_kpa * 1000
    density = charge_density(path.draw.charge if path.draw else None)
    need = demand.runner_need(wanted * 1000, engine.row.cylinder_count, density, factor, limit, engine.fuel_for_work)
    rule, low, high, physical = (
        units.show(q, "flow", preset, 0) for q in (need.rule, need.rule_low, need.rule_high, need.physical)
    )
    answer = f"Each runner needs about {physical.text} {physical.unit} for {shown.text} {shown.unit} (engine)."
    held = f"That holds its drop to your {path.settings.runner_drop_kpa:g} kPa limit."
    yield sentence(answer, Grade.ESTIMATED, reason=held)
    if not engine.row.boosted:
        text = f"Rule of thumb: at least {rule.text} {rule.unit} ({low.text} to {high.text}) through head and manifold "
        fully = "Only a fully sorted race engine gets by with that."
        yield sentence(f"{text}together.", Grade.RULE, reason=fully)


def _about_conflicts(path: SolvedPath) -> Iterator[Sentence]:
    """What stands against a part at its place in this build, the hard things only: the rest is with the candidates."""
    around = surroundings_of(path.record)
    for kind in kinds_in(path):
        place = place_in(path, kind)
        if place.now is None:
            continue
        for one in conflicts(features_of(place.now), place.neighbours, around):
            if one.severity is Severity.HARD:
                name = place.now.part.name
                yield sentence(f"{name}: {one.text} {one.remedy.words}.", Grade.COMPUTED, "harm")


def _about_trust(path: SolvedPath) -> Iterator[Sentence]:
    if path.engine is not None and path.engine.boost:
        yield from about_charge(path, path.engine.boost)
    if path.engine is not None and path.engine.cam is None:
        answer = "Cam timing missing; 220° intake duration assumed."
        yield sentence(answer, Grade.RULE, reason="Runner losses depend on it.", action="Enter it at Check-in.")
    far, converted, above = [], [], []
    for place, node in enumerate(path.nodes):
        facts = path.known[place]
        readings = facts.readings(node.element_kind or "", node.cylinder) if facts else []
        if any(is_far_conversion(r.pulled_pa, REFERENCE_DEPRESSION) for r in readings):
            far.append(node.label)
        elif any(abs(r.pulled_pa / REFERENCE_DEPRESSION - 1) > SAME_DEPRESSION for r in readings):
            converted.append(node.label)
        passage = path.passages[place]
        bores = [b for b in (passage.bore_in, passage.bore_out) if b] if passage else []
        if readings and bores and passage and passage.area and passage.area > round_area(min(bores)) * 1.01:
            above.append(node.label)
    yield from _beyond_sources(path)
    if far:
        text = f"{listed(far)}: converted from a very different depression (more than 4 times)."
        yield sentence(text, Grade.COMPUTED, "doubt", action="Flow it again near 28 inH2O.")
    if above:
        answer = f"{listed(above)} read{'s' if len(above) == 1 else ''} more than the bore can pass."
        check = "Check bench calibration and bore before you use the number."
        yield sentence(answer, Grade.MEASURED, "doubt", action=check)


def _beyond_sources(path: SolvedPath) -> Iterator[Sentence]:
    """Estimates of shapes that the sources of their losses don't cover: each part once."""
    said: dict[str, None] = {}
    for place, passage in enumerate(path.passages):
        for finding in passage.findings if passage and passage.grade is not Grade.MEASURED else ():
            facts, label = path.known[place], path.routes.elements[place].label
            said[f"{facts.part.name if facts else label}: {finding.text}"] = None
    for words in list(said)[:3]:
        yield sentence(f"{words}.", Grade.ESTIMATED, "doubt", action="Flow it.")


def _not_measured(path: SolvedPath) -> str:
    """What stands ahead of the manifold and could not be held against it."""
    names = sorted(
        {
            path.routes.elements[place].label
            for place, passage in enumerate(path.passages)
            if (passage is None or passage.area is None)
            and path.routes.elements[place].kind not in (ElementKind.RUNNER, ElementKind.PLENUM)
        }
    )
    return f"Not measured: {listed(names)}." if names else ""


def _next(path: SolvedPath) -> Iterator[Sentence]:
    unknown = [
        path.routes.elements[place].label
        for place, passage in enumerate(path.passages)
        if passage is None or passage.area is None
    ]
    if unknown:
        yield sentence(f"Flow or measure {listed(unknown[:3])}.", Grade.RULE, "next")
    elif path.engine is None:
        yield sentence("Enter bore and stroke at Check-in to see engine losses.", Grade.RULE, "next")


def _band(path: SolvedPath) -> tuple[int, int] | None:
    job = path.record.job
    return (job.band_low_rpm, job.band_high_rpm) if job.band_low_rpm and job.band_high_rpm else None


def _all_measured(path: SolvedPath) -> bool:
    counted = [
        p
        for p, element in zip(path.passages, path.routes.elements, strict=True)
        if element.kind is not ElementKind.PLENUM
    ]
    return all(passage is not None and passage.grade is Grade.MEASURED for passage in counted)


def _grade(path: SolvedPath, row: RowLoss) -> Grade:
    passages = [path.passages[place] for place in row.row.places]
    measured = all(passage is not None and passage.grade is Grade.MEASURED for passage in passages)
    return Grade.COMPUTED if measured else Grade.ESTIMATED


def _the(row: RowLoss | None) -> str:
    if row is None:
        return ""
    label = row.row.label
    return f"The {label[0].lower()}{label[1:]}"


def _share(row: RowLoss | None) -> str:
    if row is None:
        return ""
    return f"[{100 * (row.share or 0):.0f} %](row-{row.row.label})"


def _per_millimetre(row: RowLoss) -> str:
    if row.per_millimetre is None or row.per_millimetre < POINTLESS_GAIN / 2:  # said in tenths of a percent
        return ""
    return f" +1 mm bore there: about {100 * row.per_millimetre:.1f} % air."
