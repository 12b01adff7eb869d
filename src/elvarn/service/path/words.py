"""What a solved path says, in shop words."""

from collections.abc import Iterator
from math import isfinite

from elvarn import units
from elvarn.core.bench.reference import conversion_findings
from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.engine import demand, tuning
from elvarn.core.engine.strokes import drawing_factor, steady_equivalent
from elvarn.core.finding import Grade
from elvarn.core.gas.air import STANDARD_AIR, density_ideal
from elvarn.core.gas.discharge import round_area, volume_flow_of
from elvarn.core.path.conflicts import Severity, conflicts
from elvarn.core.path.engine_losses import RowLoss
from elvarn.core.path.pinch import pinch, pinch_before_runners
from elvarn.core.path.tree import ElementKind
from elvarn.service.kernel.sentences import Sentence, first_up, listed, sentence
from elvarn.service.path.figures import favoured_speeds
from elvarn.service.record.places import features_of, kinds_in, place_in, surroundings_of
from elvarn.service.record.said import combination_sentences
from elvarn.service.record.solved import SolvedPath, air_gained

SAME_DEPRESSION = 0.02
POINTLESS_GAIN = 0.001  # of the air


def solution_margin(as_is: SolvedPath, path: SolvedPath, preset: units.Preset) -> list[Sentence]:
    """The sentences, the most important first and what to do last."""
    said: list[Sentence] = []
    if path is not as_is:
        said += _about_change(as_is, path)
    if path.losses is not None:
        said += _about_drop(path)
        said += _about_pinch(path, preset)
        said += _about_manifold(path, preset)
    said += _about_port(path, preset)
    said += _about_directions(path)
    said += _about_need(path, preset)
    said += _about_conflicts(path)
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
        text = "In thought: [nothing to speak of](gained). The restriction is elsewhere."
        yield sentence(text, Grade.ESTIMATED, "doubt")
        return
    span = f"{low:.1f} to {high:.1f}" if f"{low:.1f}" != f"{high:.1f}" else f"{high:.1f}"
    verb = "gains" if high > 0 else "costs"
    text = f"In thought: it {verb} [{span.replace('-', '')} % of the air](gained) at {path.rpm} rpm."
    yield sentence(text, Grade.ESTIMATED)


def _about_drop(path: SolvedPath) -> Iterator[Sentence]:
    losses, limit = path.losses, path.settings.plenum_drop_kpa
    assert losses is not None
    if losses.choked:
        names = listed([path.routes.elements[place].label for place in losses.choked[:3]])
        more = " and others" if len(losses.choked) > 3 else ""
        yield sentence(f"The engine can't draw this air: {names}{more} would choke.", Grade.COMPUTED, "harm")
        return
    if not losses.to_plenum and not any(not row.row.each and row.row.kind != ElementKind.PLENUM for row in losses.rows):
        return
    if not losses.to_plenum:
        yield sentence(
            "Nothing in front of the plenum is known: what is lost there can't be told.", Grade.RULE, "doubt"
        )
        return
    drop = losses.to_plenum / 1000
    share = 100 * demand.drop_share(losses.to_plenum, STANDARD_AIR.pressure)
    power = demand.power_share(share)
    least = "at least " if losses.unknown else ""
    words = f"At {path.rpm} rpm {least}[{drop:.1f} kPa](plenum) are lost up to the plenum: {least}{share:.1f} % of the "
    words += f"air, about {power:.0f} % of the power."
    if drop > limit:
        words += f" The shop's line is {limit:g} kPa."
    yield sentence(
        words, Grade.COMPUTED if _all_measured(path) else Grade.ESTIMATED, "doubt" if drop > limit else "plain"
    )


def _about_pinch(path: SolvedPath, preset: units.Preset) -> Iterator[Sentence]:
    losses = path.losses
    if losses is None or losses.choked:
        return
    worst, before = pinch(losses), pinch_before_runners(losses)
    runners = [row for row in losses.rows if row.row.kind == ElementKind.RUNNER]
    if before is None:
        return
    if worst is before:
        text = f"{_the(before)} is the pinch: {_share(before)} of the whole loss, more than the runners. "
        text += f"Everything in front of the manifold should flow more than it does.{_per_millimetre(before)}"
        yield sentence(text, _grade(path, before), "doubt")
    else:
        upstream = (before.drop or 0) / losses.to_plenum if losses.to_plenum else 0
        verb = "take" if worst and len(worst.row.places) > 1 else "takes"
        lead = f"{_the(worst)} {verb} {_share(worst)} of the loss. " if worst in runners else ""
        share = f"[{100 * upstream:.0f} %](row-{before.row.label}) of the drop up to the plenum"
        text = f"{lead}In front of them {_the(before).lower()} is the pinch: {share}.{_per_millimetre(before)}"
        yield sentence(text, _grade(path, before))
    for row in losses.rows:
        if row.wanted_area is not None and row.row.kind != ElementKind.RUNNER:
            flow = units.show(volume_flow_of(row.wanted_area, REFERENCE_DEPRESSION), "flow", preset, 0)
            text = (
                f"For its share to fall to {path.settings.share_limit_percent:g} % {_the(row).lower()} would have to "
            )
            yield sentence(f"{text}flow {flow.text} {flow.unit}.", Grade.ESTIMATED)


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
        text = f"The {names} flow{'s' if len(less) == 1 else ''} less than the manifold, whose runners drawing in turn "
        yield sentence(f"{text}are as one of {shown.text} {shown.unit}.", Grade.COMPUTED, "doubt")
    elif front:
        text = "All that is known in front flows more than the manifold: its runners, drawing in turn, are as one of "
        yield sentence(f"{text}[{shown.text} {shown.unit}](row-{runners.label}).", Grade.COMPUTED)


def _about_port(path: SolvedPath, preset: units.Preset) -> Iterator[Sentence]:
    port = path.port
    if port is None:
        return
    series, carried, weakest = (units.show(q, "flow", preset) for q in (port.series, port.carried, port.weakest))
    label = path.routes.elements[port.weakest_place].label
    if port.unknown:
        names = listed(sorted({path.routes.elements[place].label for place in port.unknown}))
        text = f"On the bench port {port.cylinder} would draw at most [{series.text} {series.unit}](port) through the "
        yield sentence(f"{text}whole path: {names} not known, so this is a bound.", Grade.ESTIMATED, "doubt")
        return
    if port.weakest < port.series * 1.01:
        return
    text = f"On the bench port {port.cylinder} would draw [{series.text} {series.unit}](port) through the whole path: "
    text += f"losses in series, usually low. Up to {carried.text} where each jet carries on; never more than the "
    yield sentence(f"{text}{weakest.text} of {label}, its weakest link.", Grade.ESTIMATED)


def _about_directions(path: SolvedPath) -> Iterator[Sentence]:
    band = _band(path)
    found = favoured_speeds(path)
    runner = next((one for one in found if one.by.startswith("runner")), None)
    cam = next((one for one in found if one.by == "inlet cam"), None)
    if runner and cam and tuning.pull_apart(runner, cam):
        text = f"Runner and cam pull in different directions: [{runner.speed_rpm:.0f}](tuning) against "
        text += f"{cam.speed_rpm:.0f} rpm. Build both for the same band."
        yield sentence(text, Grade.RULE, "doubt")
    if band is None:
        return
    for one in (runner, cam):
        if one is None:
            continue
        where = tuning.against_band(one, *band)
        if where != "inside":
            text = (
                f"{first_up(one.by)} favours [{one.low_rpm:.0f} to {one.high_rpm:.0f} rpm](tuning), {where} the band "
            )
            text += f"of {band[0]} to {band[1]}."
            yield sentence(text, Grade.RULE if one is cam else Grade.ESTIMATED, "doubt")


def _about_need(path: SolvedPath, preset: units.Preset) -> Iterator[Sentence]:
    engine, wanted = path.engine, path.record.job.power_wanted_kw
    if engine is None or wanted is None:
        return
    shown = units.show(wanted * 1000, "power", preset, 0)
    factor = drawing_factor(engine.strokes, (1,))
    limit = path.settings.runner_drop_kpa * 1000
    density = density_ideal(STANDARD_AIR) * (1 + engine.boost / STANDARD_AIR.pressure)
    need = demand.runner_need(wanted * 1000, engine.row.cylinder_count, density, factor, limit, engine.fuel_for_work)
    rule, low, high, physical = (
        units.show(q, "flow", preset, 0) for q in (need.rule, need.rule_low, need.rule_high, need.physical)
    )
    text = f"For {shown.text} {shown.unit} each runner has to pass about {physical.text} {physical.unit}, so that it "
    text += f"loses no more than {path.settings.runner_drop_kpa:g} kPa."
    yield sentence(text, Grade.ESTIMATED)
    if not engine.row.boosted:
        text = f"The rule of thumb says {rule.text} {rule.unit} for head and manifold together ({low.text} to "
        yield sentence(f"{text}{high.text}): race engines with everything right, an upper bound.", Grade.RULE)


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
        text = f"From the throttle on the air is counted at {path.engine.boost / 1000:.0f} kPa of boost; what the "
        yield sentence(f"{text}compressor itself loses is not in here.", Grade.ESTIMATED, "doubt")
    if path.engine is not None and path.engine.cam is None:
        text = "No cam events: the inlet is taken to be open for 220°, which decides what the runners lose."
        yield sentence(text, Grade.RULE)
    far, converted, above = [], [], []
    for place, node in enumerate(path.nodes):
        facts = path.known[place]
        readings = facts.readings(node.element_kind or "", node.cylinder) if facts else []
        if any(conversion_findings(r.pulled_pa, REFERENCE_DEPRESSION) for r in readings):
            far.append(node.label)
        elif any(abs(r.pulled_pa / REFERENCE_DEPRESSION - 1) > SAME_DEPRESSION for r in readings):
            converted.append(node.label)
        passage = path.passages[place]
        bores = [b for b in (passage.bore_in, passage.bore_out) if b] if passage else []
        if readings and bores and passage and passage.area and passage.area > round_area(min(bores)) * 1.01:
            above.append(node.label)
    if far:
        text = f"{listed(far)}: read at another depression and converted over a factor of more than 4."
        yield sentence(text, Grade.COMPUTED, "doubt")
    if above:
        text = (
            f"{listed(above)} read more than the bore can pass: that bench's scale is off, or a bore is. Ratios hold."
        )
        yield sentence(text, Grade.MEASURED, "doubt")


def _next(path: SolvedPath) -> Iterator[Sentence]:
    unknown = [
        path.routes.elements[place].label
        for place, passage in enumerate(path.passages)
        if passage is None or passage.area is None
    ]
    if unknown:
        yield sentence(f"Flow or measure {listed(unknown[:3])}.", Grade.RULE, "next")
    elif path.engine is None:
        yield sentence("Enter the engine's bore and stroke at check-in to see its losses.", Grade.RULE, "next")


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
    if row.per_millimetre is None or row.per_millimetre < POINTLESS_GAIN / 10:
        return ""
    return f" A millimetre more bore there gains {100 * row.per_millimetre:.1f} % of the air."
