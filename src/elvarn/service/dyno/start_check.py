"""What is looked at before an engine is started whose parts were changed."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from uuid import UUID

from elvarn.service.dyno.declared import STRAP
from elvarn.service.kernel.errors import Invalid, Offer, Question
from elvarn.store.models import PullReading, Recording

CHECKS = {
    "blade": "Blade sweeps fully and snaps shut",
    "hoses": "Injectors, rail and hoses on and tight",
    "inside": "Nothing left inside: rags, hardware, tape",
    "bolts": "Bolts long enough, and all torqued",
    "straps": "Straps and guards on, nobody in line",
}


@dataclass(frozen=True)
class StartItem:
    word: str
    says: str


ITEMS = [StartItem(word, says) for word, says in CHECKS.items()]


def is_changed(
    build_id: UUID, declared: Mapping[str, str], pulls: Sequence[PullReading], made: Sequence[Recording]
) -> bool:
    """Whether anything was changed since the engine ran last in this job, as far as is known."""
    ran = [(pull.card.pulled_at, pull.card.build_id, pull.card.declared) for pull in pulls]
    ran += [(one.started_at, one.build_id, one.declared) for one in made]
    if not ran:
        return True
    _, build, said = max(ran, key=lambda one: one[0])
    return build != build_id or _parts(said) != _parts(declared)


def check_start(checked: Sequence[str]) -> None:
    """Refuse a start after a change where not all was looked at. Raises Invalid naming what is missing."""
    missing = [says for word, says in CHECKS.items() if word not in checked]
    if missing:
        text = f"Parts were changed since the last pull. Check before the start: {missing[0].lower()}."
        raise Invalid(text, path="checked")


def ask_about_idle(idle_rpm: float | None, highest: float, accepted: Sequence[str]) -> None:
    """Ask about an idle that is too high. Raises Question."""
    if idle_rpm is None or idle_rpm <= highest or "idle" in accepted:
        return
    text = f"It idles at {idle_rpm:.0f} rpm; the shop's highest is {highest:.0f} rpm. A blade that hangs, or false air?"
    offers = [Offer("It is this cam's idle, go on", {"accepted": [*accepted, "idle"]})]
    raise Question("idle", text, offers, path="idle_rpm")


def _parts(declared: Mapping[str, str]) -> dict[str, str]:
    """What was declared of parts: a strap-down, a fuel or a map is none."""
    return {word: text for word, text in declared.items() if word not in (STRAP, "fuel", "tune", "gear", "sweep")}
