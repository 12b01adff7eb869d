"""What the shop decided for itself: limit lines, rates, and the weights of a choice."""

from dataclasses import asdict, dataclass, field
from typing import Any

from pydantic import TypeAdapter, ValidationError
from sqlalchemy.orm import Session

from elvarn.core.difference import MATTERS
from elvarn.core.path.choice import CRITERIA, USUAL_WEIGHTS
from elvarn.given import given
from elvarn.service.kernel import log
from elvarn.service.kernel.errors import Invalid
from elvarn.service.shop.known import known
from elvarn.service.shop.stored import store
from elvarn.store.models import Setting
from elvarn.typed import Kilopascals, MetresPerSecond, Money, Percent, Rpm, TypedFigure, typed_texts

NAME = "path"
HIGHEST_IDLE = 1500  # rpm; common practice, no source
SYMBOLS = {"€": "EUR", "$": "USD", "£": "GBP"}
UNSAID = "MONEY"  # the unit of an amount that was typed without one


STAGES = (1, 2, 3, 0)  # as they are asked for: a gasket match alone last
LONGEST_STAGE = 40


@given
class PathSettings:
    """Limits that are the shop's, its hourly rate and currency, name and address for paper, what it calls the stages of
    port work, and what counts in a choice."""

    plenum_drop_kpa: Kilopascals = 2.5
    runner_drop_kpa: Kilopascals = 10.0
    share_limit_percent: Percent = 30.0
    port_velocity_m_s: MetresPerSecond = 100.0
    filling_percent: Percent = 95.0
    hourly_rate: Money = 65.0
    matters_percent: Percent = MATTERS
    highest_idle_rpm: Rpm = HIGHEST_IDLE
    currency: str = "EUR"
    shop_name: str = ""
    shop_address: str = ""
    stage_0: str = "gasket match"
    stage_1: str = "clean-up"
    stage_2: str = "entries and curves"
    stage_3: str = "cut open"
    weights: dict[str, float] = field(default_factory=lambda: dict(USUAL_WEIGHTS))


def stage_words(settings: PathSettings, stage: int) -> str:
    """What the shop calls a stage."""
    return (settings.stage_0, settings.stage_1, settings.stage_2, settings.stage_3)[stage]


@given
class SettingsEdit:
    version: int
    settings: PathSettings


@dataclass(frozen=True)
class SettingsView:
    version: int
    settings: PathSettings
    typed: dict[str, str] = field(default_factory=dict)


_ADAPTER = TypeAdapter(PathSettings)


def path_settings(session: Session) -> SettingsView:
    """The shop's settings; what it never set stands at its usual value."""
    return known(session, NAME, lambda: _stored(session))


def _stored(session: Session) -> SettingsView:
    row = session.get(Setting, NAME)
    return SettingsView(row.version, _read(row.value), _typed(row.value)) if row else SettingsView(0, PathSettings())


def edit_settings(session: Session, change: SettingsEdit) -> SettingsView:
    """Change the settings, on the version that was seen. Raises Stale, or Invalid for what can't be."""
    _check(change.settings)
    typed = typed_texts(change.settings)
    version = store(session, NAME, "settings", change.version, {**asdict(change.settings), "typed": typed})
    return SettingsView(version, change.settings, typed)


def check_currency(session: Session, amount: float | None, path: str) -> None:
    """Refuse an amount that was typed in another currency than the shop's: none is converted. Raises Invalid."""
    typed = SYMBOLS.get(amount.unit, amount.unit).upper() if isinstance(amount, TypedFigure) else UNSAID
    own = path_settings(session).settings.currency
    if typed not in (UNSAID, SYMBOLS.get(own, own).upper()):
        assert isinstance(amount, TypedFigure)
        raise Invalid(f"'{amount.typed}' is not in {own}, the shop's currency. Type it in {own}.", path=path)


def _typed(value: dict[str, Any]) -> dict[str, str]:
    """What was typed, as it was typed; none of it where it can't be read."""
    typed = value.get("typed")
    return {str(place): str(text) for place, text in typed.items()} if isinstance(typed, dict) else {}


def _read(value: dict[str, Any]) -> PathSettings:
    """What was set; a field that can't be read stands at its usual value, and the others as they were set."""
    known_fields = {name: value[name] for name in PathSettings.__dataclass_fields__ if name in value}
    try:
        return _ADAPTER.validate_python(known_fields)
    except ValidationError as error:
        bad = {str(one["loc"][0]) for one in error.errors()}
        log.warn("settings that can't be read stand at their usual value", names=sorted(bad))
        return _ADAPTER.validate_python({name: one for name, one in known_fields.items() if name not in bad})


def _check(settings: PathSettings) -> None:
    positive = ("plenum_drop_kpa", "runner_drop_kpa", "port_velocity_m_s", "filling_percent")
    for name in positive:
        if not getattr(settings, name) > 0:
            raise Invalid(f"The {name.rsplit('_', 1)[0].replace('_', ' ')} must be above 0.", path=f"settings.{name}")
    if not 0 < settings.share_limit_percent < 100:
        raise Invalid("The limit of a share is between 0 and 100 %.", path="settings.share_limit_percent")
    if not 0 < settings.matters_percent <= 20:
        raise Invalid("What matters is above 0, up to 20 %.", path="settings.matters_percent")
    if not 400 <= settings.highest_idle_rpm <= 5000:
        raise Invalid("The highest idle is between 400 and 5000 rpm.", path="settings.highest_idle_rpm")
    for stage in STAGES:
        if not 0 < len(stage_words(settings, stage).strip()) <= LONGEST_STAGE:
            raise Invalid(f"Name stage {stage}, in up to {LONGEST_STAGE} letters.", path=f"settings.stage_{stage}")
    if settings.hourly_rate < 0:
        raise Invalid("The hourly rate can't be below 0.", path="settings.hourly_rate")
    unknown = set(settings.weights) - set(CRITERIA)
    if unknown:
        raise Invalid(f"'{sorted(unknown)[0]}' is no criterion. Known: {', '.join(CRITERIA)}.", path="settings.weights")
    if any(weight < 0 for weight in settings.weights.values()) or not any(settings.weights.values()):
        raise Invalid("Weights are 0 or more, at least one of them above 0.", path="settings.weights")
