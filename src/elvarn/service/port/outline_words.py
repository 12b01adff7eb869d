"""What the outlines say: the lip first, what it costs, how well it is known, what to do."""

from collections.abc import Sequence

from elvarn import units
from elvarn.core.finding import Grade
from elvarn.core.port.meeting import NAMES, Of
from elvarn.core.port.overlay import SEEN, Lip
from elvarn.service.kernel.sentences import Sentence, listed, sentence
from elvarn.service.port.meetings import Meeting, NoMeeting
from elvarn.store.models import OutlineReading, PartState

LEFT_ALONE = 0.0003  # m: a lip that most shops leave; common practice, no source
HARDLY = 0.02  # velocity heads: less than a bench shows; choice, no source
NOTED = 0.02  # share by which an opening behind is larger before it is said
MOST_OTHERS = 3
OPEN_UP = {Of.GASKET: "the gasket", Of.HEAD: "the head's port", Of.OPENING: "the plenum's opening"}


def hour_text(hour: float) -> str:
    """An hour of the clock as it is read: 3:46."""
    minutes = round(hour * 60) % 720
    return f"{minutes // 60 or 12}:{minutes % 60:02d}"


def oclock(hour: float) -> str:
    """The whole hour nearest: 4 o'clock."""
    return f"{round(hour) % 12 or 12} o'clock"


def headline(meeting: Meeting, preset: units.Preset) -> str:
    """The answer in words, beside its figure."""
    lip = meeting.found.lip
    if lip is None or not meeting.lip_told:
        told = f"no lip above {least_told([meeting], preset)}"
        return told if meeting.apart is not None else f"{told}, if centred"
    return "lip in the stream" if meeting.apart is not None else "lip in the stream, if centred"


def least_told(meetings: Sequence[Meeting], preset: units.Preset) -> str:
    """The least lip that these outlines could tell, in words."""
    least = units.show(max(SEEN, *(one.within for one in meetings)), "length", preset)
    return f"{least.text} {least.unit}"


def name_of(row: OutlineReading) -> str:
    """What an outline is of, for people."""
    of = Of(row.of)
    if of is Of.RUNNER:
        return f"runner {row.cylinder}, {1000 * row.place_m:.0f} mm in"
    return NAMES[of] + (f" {row.cylinder}" if row.cylinder else "")


def where(lip: Lip) -> str:
    """Where a lip stands, in words."""
    return "all round" if lip.all_round else f"at {oclock(lip.hour)}"


def outline_margin(
    meetings: Sequence[Meeting | NoMeeting], rows: Sequence[OutlineReading], state: PartState, preset: units.Preset
) -> list[Sentence]:
    """What follows from all outlines, the worst lip first."""
    if not rows:
        text = "No outline is traced yet. Drop a scan or a photo with a ruler in it, a DXF or an SVG."
        return [sentence(text, Grade.MEASURED, "next")]
    told = [one for one in meetings if isinstance(one, Meeting)]
    said = [_not_laid(one) for one in meetings if isinstance(one, NoMeeting)]
    lips = sorted((one for one in told if one.lip_told), key=lambda one: -(one.found.lip.depth if one.found.lip else 0))
    if lips:
        said += [_lip(lips[0], preset), _loss(lips[0])]
        said += [_also(one, preset) for one in lips[1 : 1 + MOST_OTHERS]]
    elif told:
        sure = all(one.apart is not None for one in told)
        text = f"No lip above {least_told(told, preset)} stands in the stream where {_pairs(told)} meet"
        said.append(sentence(f"{text}{'' if sure else ', if centred'}.", Grade.MEASURED if sure else Grade.ESTIMATED))
    said += _larger(told) + _old(told, state)
    if any(one.apart is None for one in told):
        text = "Laid centre on centre: where they really sit is not known. Mark the same two bolt holes on both."
        said.append(sentence(text, Grade.ESTIMATED, "doubt"))
    said += _entries(rows)
    return said + _how_known(rows, told, preset) + [_next(lips, told)]


def _not_laid(one: NoMeeting) -> Sentence:
    text = f"{name_of(one.front).capitalize()} and {name_of(one.behind)} are not laid on each other. {one.why}"
    return sentence(text, Grade.MEASURED, "doubt")


def _lip(one: Meeting, preset: units.Preset) -> Sentence:
    lip = one.found.lip
    assert lip is not None
    depth = units.show(lip.depth, "length", preset)
    front, behind = NAMES[Of(one.front.of)], NAMES[Of(one.behind.of)]
    whose = f" of runner {one.runner}" if one.runner else ""
    why = f"The {front} was opened too far there, or the {behind} is not the one in the picture."
    if lip.all_round:
        why = f"The {front} is the larger one."
    text = f"The {behind}{whose} stands [{depth.text} {depth.unit}](lip) in the stream {where(lip)}."
    return sentence(text, Grade.MEASURED if one.apart is not None else Grade.ESTIMATED, "doubt", why)


def _also(one: Meeting, preset: units.Preset) -> Sentence:
    lip = one.found.lip
    assert lip is not None
    depth = units.show(lip.depth, "length", preset)
    whose = f"Runner {one.runner}" if one.runner else "The throttle"
    left = " Most shops leave that." if lip.depth <= LEFT_ALONE else ""
    text = f"{whose}: the {NAMES[Of(one.behind.of)]} stands {depth.text} {depth.unit} in it {where(lip)}.{left}"
    return sentence(text, Grade.MEASURED if one.apart is not None else Grade.ESTIMATED)


def _loss(one: Meeting) -> Sentence:
    loss = one.found.loss
    if loss.high < HARDLY:
        text = f"Its loss is small: under {max(loss.high, 0.01):.2f} velocity heads. The bench will hardly show it."
    else:
        text = f"It costs about {loss.value:.2f} velocity heads, {loss.low:.2f} to {loss.high:.2f}."
    return sentence(text, Grade.ESTIMATED)


def _larger(told: Sequence[Meeting]) -> list[Sentence]:
    """How much the openings behind step back: harmless, and no gain either."""
    shares = [one.found.behind / one.found.front - 1 for one in told if one.front.of == Of.RUNNER]
    if not shares or max(shares) < NOTED:
        return []
    least, most = (f"{100 * share:.0f}" for share in (min(shares), max(shares)))
    text = f"Behind the runners it is {most if least == most else f'{least} to {most}'} % larger."
    return [sentence(text, Grade.MEASURED, "plain", "Stepping back is harmless; matching alone adds next to nothing.")]


def _old(told: Sequence[Meeting], state: PartState) -> list[Sentence]:
    """Which runners were cut since they were traced, as far as the stages tell."""
    old = [str(one.runner) for one in told if one.front.of == Of.RUNNER and one.front.part_state_id != state.id]
    if not old:
        return []
    text = f"Runner{'s' if len(old) > 1 else ''} {listed(old)}: traced before {state.label}."
    return [sentence(text, Grade.MEASURED, "doubt", "", "Trace what was cut since again.")]


def _entries(rows: Sequence[OutlineReading]) -> list[Sentence]:
    """Perimeters of the entries: they are to be alike."""
    latest = {row.cylinder: row for row in rows if row.of == Of.RUNNER and row.place_m < LEFT_ALONE}
    if len(latest) < 2:
        return []
    around = {number: 1000 * row.perimeter_m for number, row in latest.items()}
    most = max(around, key=lambda number: around[number])
    text = f"Round the entries: {min(around.values()):.1f} to {around[most]:.1f} mm."
    return [sentence(text, Grade.MEASURED, "plain", "", f"Scribe runner {most}'s on the others.")]


def _how_known(rows: Sequence[OutlineReading], told: Sequence[Meeting], preset: units.Preset) -> list[Sentence]:
    said = []
    seen = [row for row in rows if row.edge_m is not None]
    if seen:
        share = max((row.edge_m or 0.0) * row.perimeter_m / row.area_m2 for row in seen)
        said.append(sentence(f"From pictures: areas are good to ±{100 * share:.1f} %.", Grade.MEASURED))
        if any(_one_length(row) for row in seen):
            text = "One known length alone: whether the picture was taken straight from above is not checked."
            said.append(sentence(text, Grade.ESTIMATED, "doubt", "", "Mark a second one across it."))
    apart = [one.apart for one in told if one.apart is not None]
    if apart:
        shown = units.show(max(*apart, 0.00005), "length", preset)
        said.append(sentence(f"Laid on two bolt holes, ±{shown.text} {shown.unit}.", Grade.MEASURED))
    return said


def _one_length(row: OutlineReading) -> bool:
    scale = row.scale or {}
    return not scale.get("corners") and len(scale.get("lengths", [])) < 2


def _next(lips: Sequence[Meeting], told: Sequence[Meeting]) -> Sentence:
    if not told:
        text = "Trace what it meets: runner's exit, gasket, head's port; throttle, opening of the plenum."
        return sentence(text, Grade.MEASURED, "next")
    if not lips and any(one.apart is None for one in told):
        text = "Mark two bolt holes on both: centre on centre, a lip on one side does not show."
        return sentence(text, Grade.ESTIMATED, "next")
    if not lips:
        return sentence("Nothing to open here. Clean edges, no burr.", Grade.MEASURED, "next")
    worst = lips[0]
    assert worst.found.lip is not None
    what = OPEN_UP[Of(worst.behind.of)]
    if worst.apart is None:
        text = f"Mark two bolt holes on both before {what} is opened: centred, the lip is a guess."
        return sentence(text, Grade.ESTIMATED, "next")
    text = f"Open {what} {where(worst.found.lip)}, or make one from this outline; take nothing more off in front."
    return sentence(text, Grade.COMPUTED, "next")


def _pairs(told: Sequence[Meeting]) -> str:
    pairs = dict.fromkeys(f"{NAMES[Of(one.front.of)]} and {NAMES[Of(one.behind.of)]}" for one in told)
    return ", ".join(pairs)
