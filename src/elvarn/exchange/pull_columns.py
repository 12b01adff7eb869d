"""Which column of a dyno file is which, by its heading and its unit."""

import re
from dataclasses import dataclass
from typing import Literal

from elvarn import units
from elvarn.exchange.pull_channels import channel_columns
from elvarn.exchange.table import Table
from elvarn.given import given

Role = Literal["speed", "road", "drum", "torque", "power", "other"]

ROLE_WORDS: tuple[tuple[Role, str], ...] = (
    ("speed", r"rpm|engine.?speed|speed.*engine|drehzahl|rev|n_eng"),
    ("torque", r"torque|tq|moment|drehm|couple"),
    ("power", r"power|leistung|puissance|\bpwr\b|\bhp\b|\bkw\b|\bps\b"),
)
DRUM_RPM = "drum rpm"
SPEED_UNITS = ("rpm", "km/h", "mph")
GEARED = ("km/h", "mph", DRUM_RPM)  # engine speed follows from them by a ratio
TORQUE_UNITS = ("lbf·ft", "N·m", "kgf·m")
POWER_UNITS = ("hp", "kW", "PS", "W")
ROAD_SPEED = {"km/h": "km/h", "kmh": "km/h", "kph": "km/h", "mph": "mph"}
DRUM = re.compile(r"drum|roller|dyno", re.I)
NOT_ENGINE = re.compile(r"road|vehicle|wheel|drum|roller|car\b|gps", re.I)


@dataclass(frozen=True)
class ColumnGuess:
    """A column as shown before it is mapped: what it seems to be, in which unit, and a few figures. `channel` names
    what else is kept of it."""

    index: int
    heading: str
    unit_written: str
    role: Role
    unit: str | None
    sample: list[str]
    channel: str = ""


@given
class Drum:
    """An inertia drum in place of torque: the columns of its speed [rpm] and of time, its moment of inertia [kg m²],
    and the width of the smoothing [s]."""

    speed_column: int
    time_column: int
    inertia_kg_m2: float | None = None
    smoothing_s: float = 0.3


@given
class ColumnMap:
    """Which columns hold what: `power_column` may be empty, or torque's where only power was logged. A unit that the
    file does not say is empty until it is chosen. Road or drum speed becomes engine speed by `rpm_at_100`, the engine
    speed at 100 of its unit. With a drum there is neither torque nor power."""

    speed_column: int
    torque_column: int | None
    torque_unit: str
    power_column: int | None
    power_unit: str
    speed_unit: str = "rpm"
    rpm_at_100: float | None = None
    drum: Drum | None = None


def guess_columns(table: Table) -> list[ColumnGuess]:
    """What each column of a table seems to be."""
    guesses = []
    beside = {one.index: one.words for one in channel_columns(table, set())}
    for index, column in enumerate(table.columns):
        role, unit = _guess(column.heading, column.unit)
        channel = beside.get(index, "") if role == "other" else ""
        middle = len(column.cells) // 2
        sample = [column.cells[0], column.cells[middle], column.cells[-1]]
        guesses.append(
            ColumnGuess(index, column.heading or f"column {index + 1}", column.unit, role, unit, sample, channel)
        )
    return guesses


def guess_map(guesses: list[ColumnGuess]) -> ColumnMap | None:
    """The mapping that the guesses add up to, or None where there is no speed, or neither torque nor power."""
    by_role = {guess.role: guess for guess in reversed(guesses)}
    speed = by_role.get("speed") or by_role.get("road")
    torque, power = by_role.get("torque"), by_role.get("power")
    if torque is None and power is None:
        return _drum_map(speed, by_role.get("drum"), guesses)
    if speed is None:
        return None
    return ColumnMap(
        speed.index,
        torque.index if torque else None,
        (torque.unit if torque else None) or "",
        power.index if power else None,
        (power.unit if power else None) or "",
        speed.unit or "rpm",
    )


def _drum_map(speed: ColumnGuess | None, drum: ColumnGuess | None, guesses: list[ColumnGuess]) -> ColumnMap | None:
    """A drum's speed with time, in place of torque; engine speed beside it, or by its ratio."""
    time = next((one for one in guesses if one.channel.startswith("time")), None)
    if drum is None or time is None:
        return None
    engine, unit = (drum, DRUM_RPM) if speed is None else (speed, speed.unit or "rpm")
    return ColumnMap(engine.index, None, "", None, "", unit, drum=Drum(drum.index, time.index))


def guess_maps(guesses: list[ColumnGuess]) -> list[ColumnMap]:
    """A mapping for each run that stands beside the others; one alone as a rule."""
    starts = [guess.index for guess in guesses if guess.role == "speed"]
    if len(starts) < 2:
        found = guess_map(guesses)
        return [found] if found else []
    ends = [*starts[1:], len(guesses)]
    maps = [guess_map([g for g in guesses if a <= g.index < b]) for a, b in zip(starts, ends, strict=True)]
    whole = [one for one in maps if one is not None]
    alike = {(m.torque_unit, m.power_unit, m.torque_column is None, m.power_column is None) for m in whole}
    if len(whole) == len(starts) and len(alike) == 1:
        return whole
    first = guess_map(guesses)
    return [first] if first else []


def _guess(heading: str, unit_written: str) -> tuple[Role, str | None]:
    written = (unit_written or heading).strip()
    if written.lower() in ROAD_SPEED:
        return "road", ROAD_SPEED[written.lower()]
    for role in ("speed", "torque", "power"):
        unit = units.recognise_unit(written, role)
        if unit:
            return _other_speed(heading) if role == "speed" and _is_no_engine(heading) else (role, unit)
    if unit_written and units.recognise_any_unit(unit_written):
        return "other", None
    return _by_words(heading, bool(unit_written))


def _is_no_engine(heading: str) -> bool:
    """Whether a speed is the car's, a roller's or a drum's."""
    return bool(NOT_ENGINE.search(heading)) and "engine" not in heading.lower()


def _other_speed(heading: str) -> tuple[Role, str | None]:
    """A speed in rpm that is not the engine's: a drum's, or a wheel's, of which nothing follows."""
    return ("drum", "rpm") if DRUM.search(heading) else ("other", None)


def _by_words(heading: str, unit_is_strange: bool) -> tuple[Role, str | None]:
    """What a heading's words say. A unit that was written and is not known is none."""
    for named, words in ROLE_WORDS:
        if re.search(words, heading.lower()):
            if named == "speed" and _is_no_engine(heading):
                return _other_speed(heading) if _unit_in_words(heading, named) else ("other", None)
            return named, None if unit_is_strange else _unit_in_words(heading, named)
    for named, _ in ROLE_WORDS:
        unit = _unit_in_words(heading, named)
        if unit and not (named == "speed" and _is_no_engine(heading)):
            return named, unit
    return "other", None


def _unit_in_words(heading: str, role: Role) -> str | None:
    if role in ("other", "road"):
        return None
    for word in re.split(r"[\s_,:]+", heading):
        unit = units.recognise_unit(word, role)  # type: ignore[arg-type]
        if unit:
            return unit
    return None
