"""Steps between openings that meet: which way, what they cost, and what can be done about them."""

from collections.abc import Iterator
from dataclasses import replace

from elvarn.core.gas.discharge import round_area
from elvarn.core.path.conflict import Case, Conflict, Remedy, Severity, millimetres
from elvarn.core.path.features import Features, Joint
from elvarn.core.path.losses import sudden_contraction, sudden_expansion

SAME_BORE = 0.0005  # m: a step below this is not felt; common practice, no source
COUPLED_STEP_PERCENT = 10.0  # of the area; common practice, no source
LAND_STEP = 2.0  # mm of step above which a flange may run out of land; common practice, no source
LAND_LEFT = 0.003  # m of flange that has to stay beside an opening; common practice, no source
NOT_OPENED = ("throttle", "meter", "filter")  # a plate, a calibration or a box goes with the bore


def openings_that_meet(case: Case) -> Iterator[Conflict]:
    """The steps in front of and behind a part at its place.

    Arguments: case.
    Returns: conflicts.
    Raises: nothing.
    Source: as `step_between`.
    """
    part, at = case.part, case.at
    if part.outlet and at.behind and at.behind.inlet:
        step = step_between(part.outlet, at.behind.inlet, ("it", part.kind), (at.behind_name, at.behind.kind))
        if step is not None:
            yield _with_land(step, part.outlet, at.behind)
    if part.inlet and at.before and at.before.outlet:
        step = step_between(at.before.outlet, part.inlet, (at.before_name, at.before.kind), ("it", part.kind))
        if step is not None:
            yield replace(_with_land(step, at.before.outlet, part), in_front=True)


def step_between(
    before: Joint, behind: Joint, part_before: tuple[str, str], part_behind: tuple[str, str]
) -> Conflict | None:
    """The step between two openings that meet.

    Arguments: before, behind: the joints that meet; part_before, part_behind: names of their parts, as in a sentence,
    and their kinds.
    Returns: the conflict, or None where they match within half a millimetre or are not known.
    Raises: nothing.
    Source: Borda and Carnot for a step out, Crane and Rennels for a step in; on the velocity in the smaller bore.
    """
    if before.opening is None or behind.opening is None or abs(before.opening - behind.opening) < SAME_BORE:
        return None
    (before_name, before_kind), (behind_name, behind_kind) = part_before, part_behind
    if before.outside or behind.outside:
        return _coupled(before.opening, behind.opening, before_name, behind_name)
    first, second = round_area(before.opening), round_area(behind.opening)
    step = abs(before.opening - behind.opening)
    meets = f"{_end(before_name, before.opening)} {{}} {_end(behind_name, behind.opening)}. "
    if first < second:
        gone, loss = (1 - first / second) * 100, sudden_expansion(first, second).value
        text = f"Step out {step * 1000:.1f} mm: {meets.format('into')}{gone:.0f} % of the area is lost (K {loss:.2f})."
        return Conflict("opening_steps_out", Severity.SOFT, text, _widened(before_name, before_kind, behind), step)
    loss = sudden_contraction(first, second).value
    text = f"Step in {step * 1000:.1f} mm: {meets.format('onto')}"
    text += f"The larger bore gains nothing and the lip costs flow (K {loss:.2f})."
    return Conflict(
        "opening_steps_in", Severity.SOFT, text, _matched(behind_name, behind_kind, before.opening, step), step
    )


def _widened(name: str, kind: str, behind: Joint) -> Remedy:
    """The bore in front brought to the larger one behind it, where that can be done."""
    if kind in NOT_OPENED:
        return Remedy("A conical adapter, or leave it if it isn't the restriction", 40, "conical adapter")
    opening = millimetres(behind.opening or 0.0)
    return Remedy(f"Bore {name} to {opening}, or leave it if it isn't the restriction", 40)


def _matched(name: str, kind: str, opening: float, step: float) -> Remedy:
    """The bore behind brought to the larger one in front of it, where that can be done."""
    if kind in NOT_OPENED:
        return Remedy("A conical adapter: its bore can't be opened", 60, "conical adapter")
    wide = step * 1000 >= LAND_STEP
    words = f"Port match {name} to {millimetres(opening)}" + (", if enough flange is left" if wide else "")
    return Remedy(words, 60 if wide else 30)


def _coupled(before: float, behind: float, before_name: str, behind_name: str) -> Conflict | None:
    """Ends joined by a coupler: it takes up the step, if it tapers."""
    gone = abs(1 - (min(before, behind) / max(before, behind)) ** 2) * 100
    if gone < COUPLED_STEP_PERCENT:
        return None
    text = f"Sizes differ: {_end(before_name, before)} and {_end(behind_name, behind)} ({gone:.0f} % of the area)."
    remedy = Remedy("Use a tapered coupler", 15, "tapered coupler")
    return Conflict("coupled_step", Severity.INFORMATION, text, remedy, abs(before - behind))


def _with_land(step: Conflict, before: Joint, behind: Features) -> Conflict:
    """A step in that can't be opened: the flange has not metal enough."""
    opening = behind.inlet.opening if behind.inlet else None
    if step.code != "opening_steps_in" or behind.flange_metal is None or not before.opening or opening is None:
        return step
    left = behind.flange_metal - (before.opening - opening) / 2
    if left >= LAND_LEFT:
        return step
    text = f"{step.text} Port matching would leave only {left * 1000:.1f} mm of flange."
    if behind.weldable is False:
        remedy = Remedy("Fit a conical adapter: it can't be welded", 90, "conical adapter")
    else:
        remedy = Remedy("Build the flange up with weld first, or fit an adapter", 180, "plate")
    return Conflict(step.code, step.severity, text, remedy, step.step)


def _end(name: str, opening: float) -> str:
    """An opening by whose it is; the part's own needs no name."""
    return millimetres(opening) if name == "it" else f"{name}'s {millimetres(opening)}"
