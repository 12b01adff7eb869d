"""What stands in the way of a part at its place: each conflict with its reason, its remedy and what that costs."""

from collections.abc import Callable, Iterator

from elvarn.core.path.conflict import Case, Conflict, Remedy, Severity, all_of, millimetres
from elvarn.core.path.engine_fit import made_for, within_rules
from elvarn.core.path.features import Features, HazardKind, Joint, Neighbours, Surroundings
from elvarn.core.path.steps import openings_that_meet

SAME_BOLT = 0.0015  # m: slotted or drilled clearance holes take this; common practice, no source
BLADE_CLEARANCE = 0.001  # m each side; common practice, no source
HOME_FIT = 0.0003  # m between a sensor's bore and its home: beyond it an O-ring leaks; common practice, no source
COUPLER_REACH = 0.012  # m that a coupler takes up by itself; common practice, no source


def conflicts(features: Features, neighbours: Neighbours, surroundings: Surroundings) -> tuple[Conflict, ...]:
    """Everything that stands in the way of a part at a place, the hard ones first.

    What nobody stated is not judged.
    Arguments: features: of the part; neighbours: of the place; surroundings: of the vehicle and job.
    Returns: conflicts.
    Raises: nothing.
    Source: common practice, no source; losses of steps by Borda and Carnot, Crane and Rennels.
    """
    case = Case(features, neighbours, surroundings)
    found = [one for rule in RULES for one in rule(case)]
    found += within_rules(case, tuple(found))
    order = list(Severity)
    return tuple(sorted(found, key=lambda one: order.index(one.severity)))


def _blade(case: Case) -> Iterator[Conflict]:
    part, at = case.part, case.at
    throttle, behind, name = part, at.behind, at.behind_name
    if throttle.swing is None and at.before and at.before.swing is not None:
        throttle, behind, name = at.before, part, "it"
    if not throttle.swing or not throttle.outlet or not throttle.outlet.opening or not behind or not behind.inlet:
        return
    opening = behind.inlet.opening
    if opening is None or opening >= throttle.outlet.opening - 2 * BLADE_CLEARANCE:
        return
    text = (
        f"Wide open, the blade reaches {millimetres(throttle.swing)} past the face and swings into {name}, whose "
        f"opening is {millimetres(opening)} against the blade's {millimetres(throttle.outlet.opening)}."
    )
    spacer = throttle.swing + 0.003
    words = f"A spacer of {millimetres(spacer)}, or open {name} (by a qualified person); "
    words += "the plate must sweep and snap shut from every angle"
    yield Conflict(
        "blade_swings_into", Severity.HARD, text, Remedy(words, 90, f"spacer of {millimetres(spacer)}", "spacer")
    )


def _bolts(case: Case) -> Iterator[Conflict]:
    part, at = case.part, case.at
    pairs = (
        (part.outlet, at.behind.inlet if at.behind else None, at.behind_name),
        (at.before.outlet if at.before else None, part.inlet, at.before_name),
    )
    for one, other, name in pairs:
        if one is None or other is None:
            continue
        yield from _bolt_pattern(one, other, name)
        if one.outside and other.outside and abs(one.outside - other.outside) > 0.002:
            text = f"Spigots differ: {millimetres(one.outside)}, and {millimetres(other.outside)} at {name}."
            remedy = Remedy("Use a stepped coupler", 15, "stepped coupler")
            yield Conflict("clamp_diameter", Severity.SOFT, text, remedy)


def _bolt_pattern(one: Joint, other: Joint, name: str) -> Iterator[Conflict]:
    adapter = Remedy("Fit an adapter plate with gaskets, no lip inside", 150, "adapter plate", "spacer")
    if one.bolt_count and other.bolt_count and one.bolt_count != other.bolt_count:
        text = f"{one.bolt_count} bolts; {name} has {other.bolt_count}."
        yield Conflict("bolt_count", Severity.HARD, text, adapter)
    elif one.bolt_spacing and other.bolt_spacing:
        apart = max(abs(a - b) for a, b in zip(one.bolt_spacing, other.bolt_spacing, strict=True))
        if apart > SAME_BOLT:
            text = f"Bolt pattern {_pattern(one)}; {name} has {_pattern(other)}."
            slotted = Remedy("Slot the holes (by a qualified person); cover with washers, check the seal", 45)
            hard = apart > 2.5 * SAME_BOLT
            severity = Severity.HARD if hard else Severity.SOFT
            yield Conflict("bolt_pattern", severity, text, adapter if hard else slotted)


def _plugs(case: Case) -> Iterator[Conflict]:
    part, around = case.part, case.around
    if part.plugs is None:
        return
    offered = {plug.purpose.lower(): plug for plug in part.plugs}
    for wanted in around.plugs:
        mine = offered.get(wanted.purpose.lower())
        if mine is None:
            continue
        if wanted.signal and mine.signal and wanted.signal.lower() != mine.signal.lower():
            text = f"Wrong signal: {wanted.purpose} gives '{mine.signal}', the ECU expects '{wanted.signal}'."
            words = "Fit the sensor that the ECU expects, or another ECU; otherwise limp mode is likely"
            yield Conflict("signal", Severity.HARD, text, Remedy(words, 240, "sensor or converter"))
        elif wanted.connector and mine.connector and wanted.connector.lower() != mine.connector.lower():
            text = f"Connector of the {wanted.purpose}: '{mine.connector}'; the harness has '{wanted.connector}'."
            yield Conflict("connector", Severity.SOFT, text, Remedy("Fit an adapter harness", 45, "adapter harness"))


def _homes(case: Case) -> Iterator[Conflict]:
    part, around = case.part, case.around
    if part.homes is None:
        return
    offered = {home.purpose.lower(): home for home in part.homes}
    for wanted in around.homes:
        mine = offered.get(wanted.purpose.lower())
        if mine is None:
            injector = "injector" in wanted.purpose.lower()
            severity = Severity.HARD if injector else Severity.SOFT
            text = f"No boss for the {wanted.purpose}."
            words = "Weld in bosses and rail posts" if injector else "Test-fit, drill and tap, or ream"
            words += " (by a qualified person, leak-checked)"
            remedy = Remedy(words, 300, takes="welding") if injector else Remedy(words, 60)
            yield Conflict("home_missing", severity, text, remedy)
        elif wanted.bore and mine.bore and mine.bore < wanted.bore - HOME_FIT:
            text = f"{_up(wanted.purpose)} {millimetres(wanted.bore)} is too big for its {millimetres(mine.bore)} boss."
            words = f"Ream to {millimetres(wanted.bore)} (by a qualified person, leak-checked)"
            yield Conflict("home_bore", Severity.SOFT, text, Remedy(words, 30, "reamer"))
        elif wanted.bore and mine.bore and mine.bore > wanted.bore + HOME_FIT:
            text = f"{_up(wanted.purpose)} {millimetres(wanted.bore)} is loose in its {millimetres(mine.bore)} boss"
            text += ": it will leak."
            yield Conflict("home_bore", Severity.SOFT, text, Remedy("Fit a sleeve with its own seal", 45, "sleeve"))


def _ports(case: Case) -> Iterator[Conflict]:
    part, around = case.part, case.around
    if part.ports is None:
        return
    offered = {port.lower() for port in part.ports}
    for wanted in around.ports:
        if wanted.lower() in offered:
            continue
        grave = any(word in wanted.lower() for word in ("servo", "brake"))
        text = f"No port for the {wanted}."
        if grave:
            text += " Without it the brakes lose their assistance."
        words = "Test-fit, drill, tap and fit a barb (by a qualified person, leak-checked)"
        severity = Severity.HARD if grave else Severity.SOFT
        yield Conflict("port_missing", severity, text, Remedy(words, 40, "barbed fitting"))
    spare = [port for port in part.ports if port.lower() not in {wanted.lower() for wanted in around.ports}]
    if spare and around.ports:
        text = f"Nothing connects to {all_of(spare)}: open, it is an air leak."
        yield Conflict("port_spare", Severity.INFORMATION, text, Remedy("Cap it", 5 * len(spare), "caps"))


def _room(case: Case) -> Iterator[Conflict]:
    part, around = case.part, case.around
    if part.height is not None and around.bonnet_height is not None:
        over = part.height - around.bonnet_height
        if over > 0:
            text = f"Too tall: {millimetres(part.height)}, bonnet clearance {millimetres(around.bonnet_height)}."
            words = "Bonnet bulge or scoop, or a lower part; check with clay"
            yield Conflict("bonnet", Severity.HARD, text, Remedy(words, 480))
        elif over > -0.010:
            text = f"Only {-over * 1000:.0f} mm under the bonnet; the engine can rock that much."
            remedy = Remedy("Check with clay on the highest point, bonnet shut", 20)
            yield Conflict("bonnet_close", Severity.SOFT, text, remedy)
    if part.front_length is not None and around.front_length is not None:
        change = part.front_length - around.front_length
        if abs(change) > COUPLER_REACH:
            way, need = ("longer", "shorter") if change > 0 else ("shorter", "longer")
            text = f"{abs(change) * 1000:.0f} mm {way} at the front."
            words = f"Fit a coupler {abs(change) * 1000:.0f} mm {need}, no corrugated hose"
            yield Conflict("front_length", Severity.SOFT, text, Remedy(words, 30, "coupler"))
    for accessory in part.fouls or ():
        if accessory.lower() in {there.lower() for there in around.accessories}:
            text = f"Fouls the {accessory}."
            yield Conflict("accessory", Severity.HARD, text, Remedy(f"Move the {accessory}", 180, "bracket"))


def _limits(case: Case) -> Iterator[Conflict]:
    part, around = case.part, case.around
    if around.boost:
        if part.boost_rating is None:
            text = f"Boost rating not known; you need {around.boost / 1000:.0f} kPa."
            remedy = Remedy("Don't pressurise it until the maker confirms")
            yield Conflict("boost_unknown", Severity.SOFT, text, remedy)
        elif part.boost_rating < around.boost:
            text = f"Rated {part.boost_rating / 1000:.0f} kPa; you need {around.boost / 1000:.0f} kPa. Don't run it."
            yield Conflict("boost", Severity.HARD, text, Remedy("Choose another part, or run less boost"))
    if part.heat_limit is not None and around.heat is not None and part.heat_limit < around.heat:
        text = f"Rated {part.heat_limit - 273.15:.0f} °C; nearby {around.heat - 273.15:.0f} °C."
        remedy = Remedy("Fit a heat shield and measure behind it", 90, "heat shield")
        yield Conflict("heat", Severity.HARD, text, remedy)
    if part.fuels is not None and around.fuel.lower() not in {fuel.lower() for fuel in part.fuels}:
        text = f"Not rated for {around.fuel}: seals suit {all_of(list(part.fuels))} only."
        yield Conflict("fuel", Severity.HARD, text, Remedy("Fit other seals, if the maker has them", 60, "seals"))
    if around.welding and part.weldable is False:
        remedy = Remedy("Plan without welding, or choose another part")
        yield Conflict("welding", Severity.HARD, "Can't be welded, and welding is planned.", remedy)
    if part.splits is False:
        text = "One-piece: the tool reaches about 150 mm from each end."
        yield Conflict("reach", Severity.INFORMATION, text, Remedy("Cut it open where that isn't enough", 240))


def _reach(case: Case) -> Iterator[Conflict]:
    for words, mine, room in (
        ("to the rear", case.part.rear, case.around.rear),
        ("to the side", case.part.side, case.around.side),
    ):
        if mine is not None and room is not None and mine > room:
            text = f"Reaches {millimetres(mine)} {words}; there is room for {millimetres(room)}."
            yield Conflict(
                "reach_" + words.split()[-1], Severity.HARD, text, Remedy("Choose another part; check with clay")
            )


def _plates(case: Case) -> Iterator[Conflict]:
    if not case.part.plates:
        return
    thick = sum(case.part.plates)
    number = len(case.part.plates)
    text = f"{number} plate{'s' if number > 1 else ''} under it: {millimetres(thick)} more height and runner."
    words = f"Bolts {millimetres(thick)} longer, {number + 1} gaskets; check cable, hoses and rail for reach"
    buy = f"bolts {millimetres(thick)} longer"
    yield Conflict("plates", Severity.SOFT, text, Remedy(words, 20 * number, buy, "spacer"))


def _known(case: Case) -> Iterator[Conflict]:
    """What is known of a part against it: a hazard is for a qualified person."""
    for hazard in case.part.hazards:
        grave = {HazardKind.STICKS: "can stick the throttle", HazardKind.SWALLOWED: "can be swallowed by the engine"}
        can = grave.get(hazard.kind)
        text = f"Known weakness: {hazard.words}{f', which {can}' if can else ''} ({hazard.source})."
        words = "Don't fit it before a qualified person has made it safe" if can else "Look at it before it is fitted"
        yield Conflict(
            "hazard" if can else "weakness", Severity.HARD if can else Severity.INFORMATION, text, Remedy(words)
        )
    if case.part.off_road_days:
        text = f"By exchange: the vehicle stands for {case.part.off_road_days} days."
        yield Conflict("exchange", Severity.INFORMATION, text, Remedy("Plan the days with the customer"))
    if case.part.no_longer_made:
        remedy = Remedy("Look for a used one and inspect it, or choose another part")
        yield Conflict("no_longer_made", Severity.SOFT, "No longer made.", remedy)


RULES: tuple[Callable[[Case], Iterator[Conflict]], ...] = (
    made_for,
    openings_that_meet,
    _blade,
    _bolts,
    _plugs,
    _homes,
    _ports,
    _room,
    _limits,
    _reach,
    _plates,
    _known,
)


def _up(words: str) -> str:
    return words[0].upper() + words[1:]


def _pattern(joint: Joint) -> str:
    across, along = joint.bolt_spacing or (0.0, 0.0)
    return f"{across * 1000:g} × {along * 1000:g} mm"
