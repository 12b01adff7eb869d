"""Set-ups: what is mounted, blocked and open when a figure is read, and in what two of them differ."""

from dataclasses import dataclass, fields, replace
from typing import Any
from uuid import UUID

from elvarn import units
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.once import once
from elvarn.store.models import Setup
from elvarn.typed import ClockHours, Millimetres, Percent

ENTRY_RADII = {"none": "no radius", "clay": "clay radius", "printed": "printed radius", "own": "own entry"}
THROTTLES = {"off": "off", "as_sold": "on, as sold", "ported": "on, ported"}
DIRECTIONS = {"in": "", "out": "reverse flow"}
LONGEST = 200


@dataclass(frozen=True)
class SetupItems:
    """What is declared of a set-up, item by item. Lists are parted by commas. `mounted` is in front of the part, in the
    order of the air. A blade is seen at full bore, seen not to be, or nobody looked."""

    entry_radius: str = "none"
    throttle: str = "off"
    blocked: str = ""
    mounted: str = ""
    entry_radius_mm: Millimetres | None = None
    opening_percent: Percent | None = None
    blade_seen_open: bool | None = None
    valve_lift_mm: Millimetres | None = None
    flaps: str = ""
    clock_hours: ClockHours | None = None
    clamps: str = ""
    adapter: str = ""
    direction: str = "in"


@dataclass(frozen=True)
class SetupView:
    """A set-up as it is shown: its items, and each in words."""

    id: UUID
    bench_id: UUID
    bench: str
    depression: str
    depression_unit: str
    items: SetupItems
    words: dict[str, str]
    air: str | None
    air_temperature_c: float | None
    air_pressure_kpa: float | None
    air_humidity_percent: float | None
    typed: dict[str, str]


def items_of(holder: Setup | SetupItems) -> SetupItems:
    """The declared items of a set-up."""
    return SetupItems(**{field.name: getattr(holder, field.name) for field in fields(SetupItems)})


def changed(items: SetupItems, changes: dict[str, Any]) -> SetupItems:
    """Items with some of them changed. Raises Invalid for one that there is not."""
    known = {field.name for field in fields(SetupItems)}
    for name in changes:
        if name not in known:
            raise Invalid(f"'{name}' is no item of a set-up. Known: {', '.join(sorted(known))}.", path="changes")
    found = replace(items, **changes)
    check_items(found)
    return found


def declared(setup: Setup) -> dict[str, str]:
    """What was declared of a set-up, item by item in words; what was left empty says nothing. Depression and air are
    reckoned with, and the bench is named, so that two of them are never taken for alike."""
    return once(setup, "declared", lambda: {**item_words(items_of(setup)), "bench": setup.bench.name})


def item_words(items: SetupItems) -> dict[str, str]:
    """Each item in words."""
    seen = {None: "", True: "fully open", False: "stops short"}
    return {
        "entry radius": ENTRY_RADII[items.entry_radius] + _with(items.entry_radius_mm, " {} mm"),
        "throttle": THROTTLES[items.throttle],
        "in front": items.mounted,
        "opening": _with(items.opening_percent, "{} %"),
        "blade": seen[items.blade_seen_open],
        "valve lift": _with(items.valve_lift_mm, "{} mm"),
        "flaps": items.flaps,
        "clock position": _with(items.clock_hours, "{} h"),
        "adapter": items.adapter,
        "clamps": items.clamps,
        "blocked": items.blocked or "not noted",
        "direction": DIRECTIONS[items.direction],
    }


def setup_view(setup: Setup) -> SetupView:
    """A set-up as it is shown."""
    items = items_of(setup)
    return SetupView(
        setup.id,
        setup.bench_id,
        setup.bench.name,
        units.number_text(setup.depression_figure, 1),
        setup.depression_unit,
        items,
        {name: words for name, words in item_words(items).items() if words},
        _air_words(setup),
        setup.air_temperature_c,
        setup.air_pressure_kpa,
        setup.air_humidity_percent,
        setup.typed,
    )


def check_items(items: SetupItems) -> None:
    """Refuse items that can't be. Raises Invalid naming the item."""
    for name, choices in (("entry_radius", ENTRY_RADII), ("throttle", THROTTLES), ("direction", DIRECTIONS)):
        if getattr(items, name) not in choices:
            chosen = getattr(items, name)
            raise Invalid(f"'{chosen}' can't be chosen here. Known: {', '.join(choices)}.", path=name)
    for name, low, high, unit in (
        ("entry_radius_mm", 0, 60, "mm"),
        ("opening_percent", 0, 100, "%"),
        ("valve_lift_mm", 0, 25, "mm"),
        ("clock_hours", 0, 12, "h"),
    ):
        value = getattr(items, name)
        if value is not None and not low < value <= high:
            raise Invalid(f"{value:g} {unit} can't be. Enter above {low}, up to {high} {unit}.", path=name)
    for name in ("blocked", "mounted", "flaps", "clamps", "adapter"):
        if len(getattr(items, name)) > LONGEST:
            raise Invalid(f"This is longer than {LONGEST} letters. Say it shorter.", path=name)


def _with(value: float | None, pattern: str) -> str:
    return "" if value is None else pattern.format(f"{value:g}")


def _air_words(setup: Setup) -> str | None:
    if setup.air_temperature_c is None or setup.air_pressure_kpa is None:
        return None
    humidity = "" if setup.air_humidity_percent is None else f" · {setup.air_humidity_percent:.0f} %"
    return f"{setup.air_temperature_c:.1f} °C · {setup.air_pressure_kpa:.1f} kPa{humidity}"
