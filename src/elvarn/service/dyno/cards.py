"""What is said of a pull, and saying it anew: build, day, dyno, air, correction of its file, what was declared."""

from dataclasses import field, replace
from datetime import UTC
from typing import Any
from uuid import UUID, uuid5

from sqlalchemy.orm import Session

from elvarn.core.constants import ZERO_CELSIUS
from elvarn.core.dyno.correction import Standard
from elvarn.core.errors import OutOfRange
from elvarn.core.gas.air import relative_humidity_from_dew_point, relative_humidity_from_wet_bulb
from elvarn.given import Moment, given
from elvarn.service.dyno.declared import checked
from elvarn.service.kernel.errors import Invalid, Stale
from elvarn.service.kernel.find import find
from elvarn.service.record.air import weather_of
from elvarn.store.models import Build, Dyno, PullCard, PullReading
from elvarn.typed import Celsius, Kilopascals, Percent, typed_texts

HUMID = ("air_humidity_percent", "air_dew_point_c", "air_wet_bulb_c")


@given
class PullFacts:
    """What is said of a pull. Air is the engine's inlet air; empty where it is not known. Its humidity is given by
    itself, by the dew point or by a wet bulb."""

    build_id: UUID
    dyno_id: UUID
    pulled_at: Moment
    label: str = ""
    standard_in_file: str = "observed"
    air_temperature_c: Celsius | None = None
    air_pressure_kpa: Kilopascals | None = None
    air_humidity_percent: Percent | None = None
    air_dew_point_c: Celsius | None = None
    air_wet_bulb_c: Celsius | None = None
    declared: dict[str, str] = field(default_factory=dict)


@given
class PullEdit:
    """The same said anew, by whom, and on which card it was made."""

    person_id: UUID
    version: int
    facts: PullFacts


def card_of(
    session: Session,
    pull_id: UUID,
    job_id: UUID,
    person_id: UUID,
    number: int,
    facts: PullFacts,
    engine_id: UUID | None,
) -> PullCard:
    """A card of what is said, of the version of the engine that ran. Raises Invalid for what can't be, NotFound for a
    build or dyno that is not there."""
    build = find(session, Build, facts.build_id, "build")
    if build.job_id != job_id:
        raise Invalid(f"{build.name} belongs to another job. Choose a build of this one.", path="build_id")
    find(session, Dyno, facts.dyno_id, "dyno")
    if facts.standard_in_file not in list(Standard):
        raise Invalid(f"'{facts.standard_in_file}' is no correction.", path="standard_in_file")
    humidity = _humidity(facts)
    return PullCard(
        id=uuid5(pull_id, f"card {number}"),
        content_digest="",
        person_id=person_id,
        pull_id=pull_id,
        number=number,
        pulled_at=facts.pulled_at,
        build_id=build.id,
        dyno_id=facts.dyno_id,
        engine_id=engine_id,
        label=facts.label.strip(),
        standard_in_file=facts.standard_in_file,
        air_temperature_c=facts.air_temperature_c,
        air_pressure_kpa=facts.air_pressure_kpa,
        air_humidity_percent=humidity,
        declared=checked(facts.declared),
        typed=typed_texts(facts),
    )


def edit_pull(session: Session, pull_id: UUID, edit: PullEdit) -> PullCard:
    """Say anew what is said of a pull; its rows stay. Raises Stale where somebody else did meanwhile."""
    pull = find(session, PullReading, pull_id, "pull")
    assert pull.job_id is not None
    if pull.card.number != edit.version:
        facts = replace(edit.facts, air_humidity_percent=_humidity(edit.facts))
        theirs = {**_said(session, pull.card), "version": pull.card.number}
        raise Stale("pull", theirs, {**_said(session, facts), "version": edit.version})
    card = card_of(session, pull.id, pull.job_id, edit.person_id, edit.version + 1, edit.facts, pull.card.engine_id)
    pull.cards.append(card)
    session.flush()
    return card


def _said(session: Session, card: PullCard | PullFacts) -> dict[str, Any]:
    """What a card or an edit says, to be held against the other: design and dyno by their names."""
    names = ("label", "standard_in_file", "air_temperature_c", "air_pressure_kpa", "air_humidity_percent", "declared")
    build, dyno = find(session, Build, card.build_id, "build"), find(session, Dyno, card.dyno_id, "dyno")
    pulled = card.pulled_at.astimezone(UTC).isoformat(timespec="minutes")
    return {"design": build.name, "dyno": dyno.name, "pulled_at": pulled} | {n: getattr(card, n) for n in names}


def _humidity(facts: PullFacts) -> float | None:
    """Relative humidity in per cent, however it was given. Raises Invalid for what can't be, or is given twice."""
    given = [name for name in HUMID if getattr(facts, name) is not None]
    if not given:
        weather_of(facts)
        return None
    if len(given) > 1:
        raise Invalid("Give the humidity, the dew point or the wet bulb, not several.", path=given[1])
    temperature, pressure = facts.air_temperature_c, facts.air_pressure_kpa
    if temperature is None or pressure is None:
        path = "air_temperature_c" if temperature is None else "air_pressure_kpa"
        raise Invalid("Humidity alone is no air. Enter temperature and pressure too.", path=path)
    try:
        found = _by_thermometer(facts, temperature + ZERO_CELSIUS, pressure * 1000)
    except OutOfRange as error:
        raise Invalid(str(error), path=given[0]) from error
    weather_of(replace(facts, air_humidity_percent=found))
    return found


def _by_thermometer(facts: PullFacts, dry: float, pressure: float) -> float | None:
    if facts.air_dew_point_c is not None:
        return 100 * relative_humidity_from_dew_point(dry, facts.air_dew_point_c + ZERO_CELSIUS)
    if facts.air_wet_bulb_c is not None:
        return 100 * relative_humidity_from_wet_bulb(dry, facts.air_wet_bulb_c + ZERO_CELSIUS, pressure)
    return facts.air_humidity_percent
