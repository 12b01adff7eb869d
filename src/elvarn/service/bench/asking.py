"""What is asked before a flow figure is kept, the same on every surface: is it a repeat, can it be, does it fit?"""

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from typing import Any, Protocol

from elvarn import units
from elvarn.core.bench.gain import ASSUMED
from elvarn.core.bench.plausible import Doubt, far_repeat, flow_doubts
from elvarn.core.bench.reference import flow_at_depression
from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE, REFERENCE_DEPRESSION
from elvarn.service.bench.taken import Taken, TakenFigure
from elvarn.service.kernel.errors import Offer, Question
from elvarn.store.queries.capture import KeptFigure

SLIPS = {"ten_times": 0.1, "a_tenth": 10.0}
CLOCK_ROOM = timedelta(minutes=5)  # clocks of tablets and servers differ
OTHER_UNIT = {"cubic_metres_per_hour": "m3/h", "cubic_feet_per_minute": "cfm"}
ALREADY_READ, FAR_REPEAT = "already_read", "far_repeat"
ALL_DOUBTS = (
    "ten_times", "a_tenth", *OTHER_UNIT, "unlike_others", "above_ceiling", "over_range", "clock_ahead", "clock_back",
    ALREADY_READ, FAR_REPEAT,
)  # fmt: skip


class Asked(Protocol):
    """What a figure says of itself: under which doubts it is to be kept all the same, and how it came."""

    @property
    def accepted(self) -> list[str]: ...
    @property
    def taken(self) -> Taken | None: ...
    @property
    def taken_at(self) -> datetime: ...


@dataclass(frozen=True)
class Beside:
    """What is known beside a figure: of what it is, in words; what this thing read already; what others of its kind
    read [m³/s at the reference depression], and what they are; the smallest section [m²]; the bench; when the last
    figure of this set-up was taken."""

    subject: str
    kept: Sequence[KeptFigure] = ()
    others: Sequence[float] = ()
    others_are: str = "the other runners"
    depression: float = REFERENCE_DEPRESSION
    area: float | None = None
    ranges: Sequence[dict[str, Any]] = field(default_factory=list)
    repeatability_percent: float | None = None
    last_at: datetime | None = None


def ask(new: Asked, figure: TakenFigure, beside: Beside) -> list[str]:
    """The marks under which a figure is kept. Raises Question for the first doubt that is not accepted yet: a repeat, a
    slip of the pen, what the opening or the bench can't do, a clock."""
    doubts = [*_doubts(figure, beside), *_clock_doubts(new.taken_at, beside.last_at)]
    far = _far(figure, beside)
    if beside.kept and ALREADY_READ not in new.accepted:
        raise _already_read(new, figure, beside, far)
    if far is not None:
        doubts.insert(0, Doubt(FAR_REPEAT, _far_words(far)))
    open_doubts = [doubt for doubt in doubts if doubt.code not in new.accepted]
    if open_doubts:
        raise _question(open_doubts[0], new, figure, beside.subject)
    return [*figure.marks, *(doubt.code for doubt in doubts)]


def _already_read(new: Asked, figure: TakenFigure, beside: Beside, far: float | None) -> Question:
    """What another shop's bench read is no repeat of ours. A repeat that is far off is asked about as what it is."""
    was = _was(beside)
    both = {"accepted": [*new.accepted, ALREADY_READ]}
    instead = Offer(f"Replace {was} with {figure.words}", {"replaces": [str(one.id) for one in beside.kept]})
    text = f"{beside.subject} already reads {was}. What is {figure.words}?"
    if far is None:
        untouched = Offer("Re-read, nothing touched", {**both, "refitted": False})
        return Question(ALREADY_READ, text, [Offer("Refit: keep both", both), instead, untouched], path="typed")
    accepted = {"accepted": [*new.accepted, ALREADY_READ, FAR_REPEAT]}
    really = Offer("Really so, refitted: keep both", accepted)
    untouched = Offer("Re-read, nothing touched: keep both", {**accepted, "refitted": False})
    text = f"{beside.subject} read {was}; {figure.words} is {_far_words(far)}"
    return Question(FAR_REPEAT, text, [really, instead, untouched], path="typed")


def _far(figure: TakenFigure, beside: Beside) -> float | None:
    scatter = (beside.repeatability_percent or ASSUMED.refit.value) / 100
    return far_repeat(_stated(figure, beside), [one.flow for one in beside.kept if one.alike], scatter)


def _far_words(far: float) -> str:
    away = f"{abs(far) * 100:.0f} % {'above' if far > 0 else 'below'} what it read in this set-up"
    return f"{away}: a mis-trigger, another set-up, or really so?"


def _was(beside: Beside) -> str:
    last = beside.kept[-1]
    return f"{units.number_text(last.figure, 1)} {units.LABELS.get(last.unit, last.unit)}"


def _stated(figure: TakenFigure, beside: Beside) -> float:
    return flow_at_depression(figure.flow, figure.depression or beside.depression, REFERENCE_DEPRESSION)


def _doubts(figure: TakenFigure, beside: Beside) -> list[Doubt]:
    """A slip of the pen explains more than a range that is passed: it is asked first."""
    stated = _stated(figure, beside)
    doubts = flow_doubts(stated, beside.others, beside.area, REFERENCE_DEPRESSION, beside=beside.others_are)
    reach = max((one["full_scale_cfm"] for one in beside.ranges), default=None)
    if reach is not None and figure.flow > reach * CUBIC_FOOT_PER_MINUTE:
        doubts.append(Doubt("over_range", f"More than your largest range ({reach:g} CFM)."))
    return doubts


def _clock_doubts(taken_at: datetime, last_at: datetime | None) -> list[Doubt]:
    """A figure can't have been taken tomorrow, and hardly before the one that came before it."""
    if taken_at - datetime.now(UTC) > CLOCK_ROOM:
        ahead = _time_words(taken_at - datetime.now(UTC))
        return [Doubt("clock_ahead", f"This device's clock is {ahead} fast.")]
    if last_at is not None and last_at - taken_at > CLOCK_ROOM:
        back = _time_words(last_at - taken_at)
        return [Doubt("clock_back", f"Dated {back} before the previous reading. Clock changed?")]
    return []


def _time_words(time: timedelta) -> str:
    minutes = time.total_seconds() / 60
    if minutes > 48 * 60:
        return f"{minutes / 60 / 24:.0f} days"
    return f"{minutes / 60:.1f} hours" if minutes > 90 else f"{minutes:.0f} minutes"


def _question(doubt: Doubt, new: Asked, figure: TakenFigure, subject: str) -> Question:
    offers = []
    other = OTHER_UNIT.get(doubt.code)
    if other is not None and {figure.unit, other} == {"cfm", "m3/h"}:
        offers.append(Offer(f"It was {figure.figure:g} {units.LABELS[other]}", {"typed": f"{figure.figure!r} {other}"}))
    elif doubt.code in SLIPS and new.taken is None:
        meant = figure.figure * SLIPS[doubt.code]
        offers.append(Offer(f"Use {meant:g}", {"typed": f"{meant:g} {figure.unit}"}))
    elif doubt.code in ("clock_ahead", "clock_back"):
        now = datetime.now(UTC)
        offers.append(Offer(f"Use shop time, {now:%H:%M} UTC", {"taken_at": now.isoformat()}))
    offers.append(Offer(f"Save {figure.words} anyway, flagged", {"accepted": [*new.accepted, doubt.code]}))
    return Question(doubt.code, f"{subject}: {figure.words}. {doubt.text}", offers, path="typed")
