"""Set-ups as they are noted: checked, and derived from one another."""

from collections.abc import Callable
from dataclasses import dataclass, fields
from typing import Any, ClassVar
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.bench.reference import check_depression
from elvarn.core.errors import OutOfRange
from elvarn.given import AS_GIVEN
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.find import find
from elvarn.service.kernel.writes import write_once
from elvarn.service.record.air import weather_of
from elvarn.service.record.setup import SetupItems, check_items, items_of
from elvarn.store.models import Bench, Setup
from elvarn.typed import Celsius, Kilopascals, Percent, typed_texts


@dataclass(frozen=True, kw_only=True)
class NewSetup(SetupItems):
    """How a series is flowed. The depression is as typed ("28", "25 inH2O", "7 kPa"). Without a job it is of the
    shelf."""

    __pydantic_config__: ClassVar = AS_GIVEN

    person_id: UUID
    job_id: UUID | None
    bench_id: UUID
    depression: str
    depression_unit: str = "inH2O"
    air_temperature_c: Celsius | None = None
    air_pressure_kpa: Kilopascals | None = None
    air_humidity_percent: Percent | None = None


def add_setup(session: Session, identifier: UUID, new: NewSetup, alone: bool = False) -> Setup:
    """A set-up, checked: depression, choices, air, ranges. One that is `alone` is of a single figure of a part, and no
    series goes on in it."""
    find(session, Bench, new.bench_id, "bench")
    return write_once(session, Setup, identifier, new, setup_row(identifier, new, alone))


def setup_row(identifier: UUID, new: NewSetup, alone: bool) -> Callable[[str], Setup]:
    """A set-up, checked, as the row that keeps it once its digest is known. Raises Invalid as `add_setup`."""
    typed = _depression(new)
    check_items(items_of(new))
    weather_of(new)

    def make(digest: str) -> Setup:
        return Setup(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            job_id=new.job_id,
            bench_id=new.bench_id,
            alone=alone,
            depression_figure=typed.figure,
            depression_unit=typed.unit,
            depression_pa=typed.si,
            air_temperature_c=new.air_temperature_c,
            air_pressure_kpa=new.air_pressure_kpa,
            air_humidity_percent=new.air_humidity_percent,
            typed=typed_texts(new) | {"depression": new.depression.strip()},
            **_kept(items_of(new)),
        )

    return make


def derived(setup: Setup, items: SetupItems, person_id: UUID) -> NewSetup:
    """The same set-up with other items."""
    return NewSetup(
        person_id=person_id,
        job_id=setup.job_id,
        bench_id=setup.bench_id,
        depression=repr(setup.depression_figure),
        depression_unit=setup.depression_unit,
        air_temperature_c=setup.air_temperature_c,
        air_pressure_kpa=setup.air_pressure_kpa,
        air_humidity_percent=setup.air_humidity_percent,
        **_kept(items),
    )


def _depression(new: NewSetup) -> units.Typed:
    try:
        typed = units.parse(new.depression, "depression", new.depression_unit)
    except units.UnitError as error:
        raise Invalid(str(error), path="depression") from error
    try:
        check_depression(typed.si)
    except OutOfRange as error:
        shown = f"{units.number_text(typed.figure, 1)} {units.LABELS.get(typed.unit, typed.unit)}"
        message = f"A depression of {shown} can't be read on a bench. Enter 0.5 to 80 inH2O (0.125 to 20 kPa)."
        raise Invalid(message, path="depression") from error
    return typed


def _kept(items: SetupItems) -> dict[str, Any]:
    """Items as they are kept: without room round the words."""
    values = {field.name: getattr(items, field.name) for field in fields(SetupItems)}
    return {name: value.strip() if isinstance(value, str) else value for name, value in values.items()}
