"""The only unit registry, what was typed made into SI, and the rounding for display."""

import re
from dataclasses import dataclass
from fractions import Fraction
from functools import cache
from typing import Any, Literal

from elvarn.core import constants

Quantity = Literal[
    "flow",
    "pressure",
    "depression",
    "length",
    "area",
    "volume",
    "power",
    "torque",
    "temperature",
    "humidity",
    "speed",
    "angle",
]
Preset = Literal["trade", "metric"]


class UnitError(ValueError):
    """What was typed can't be read as the quantity asked for."""


@dataclass(frozen=True)
class Typed:
    """A value as typed: the figure and unit as taken, and the value in SI."""

    figure: float
    unit: str
    si: float


@dataclass(frozen=True)
class Shown:
    """A value as shown: in the display unit, and as text with sensible digits (without the unit)."""

    value: float
    unit: str
    text: str


# Names by which a unit may be typed or headed in a file, to the one name that is stored.
SPELLINGS: dict[Quantity, dict[str, tuple[str, ...]]] = {
    "flow": {
        "cfm": ("cfm", "cu ft/min", "ft3/min", "ft³/min"),
        "m3/h": ("m3/h", "m³/h", "m3/hr", "cbm/h", "m^3/h"),
        "l/s": ("l/s", "lps"),
        "l/min": ("l/min", "lpm"),
        "m3/s": ("m3/s", "m³/s"),
    },
    "depression": {
        "inH2O": ("inh2o", "in h2o", '"h2o', "″h2o", "inwc", "in.wc", "in wc", "iwc",
                  "w.g.", "inwg", "in wg", "in.h2o"),
        "kPa": ("kpa",),
        "Pa": ("pa",),
        "mbar": ("mbar", "hpa"),
        "mmH2O": ("mmh2o", "mm h2o", "mmwc"),
    },
    "pressure": {
        "kPa": ("kpa",),
        "mbar": ("mbar", "hpa"),
        "Pa": ("pa",),
        "inHg": ("inhg", "in hg", '"hg'),
        "mmHg": ("mmhg", "torr"),
        "psi": ("psi", "psia"),
        "bar": ("bar",),
    },
    "length": {
        "mm": ("mm",),
        "in": ("in", '"', "″", "inch", "inches"),
        "cm": ("cm",),
        "m": ("m",),
    },
    "area": {
        "mm2": ("mm2", "mm²", "sq mm", "mm^2"),
        "cm2": ("cm2", "cm²", "sq cm", "cm^2"),
        "in2": ("in2", "in²", "sq in", "sqin", "in^2"),
    },
    "volume": {"L": ("l", "litre", "liter", "dm3", "dm³"), "cc": ("cc", "cm3", "cm³", "ml"),
               "in3": ("in3", "in³", "ci")},
    "power": {
        "hp": ("hp", "bhp", "whp"),
        "kW": ("kw",),
        "PS": ("ps", "cv", "ch", "pk"),
        "W": ("w",),
    },
    "torque": {
        "lbf·ft": ("lbf·ft", "lbf ft", "lb-ft", "lb ft", "lb·ft", "ft-lb", "ft lb", "ftlb", "lbft", "ft·lb",
                   "ft-lbs", "lbs-ft", "lbf.ft", "lb.ft", "ft.lb", "ft-lbf", "ft.lbf", "lbf-ft", "ft lbf", "ftlbs"),
        "lbf·in": ("lbf·in", "lbf in", "lb-in", "lb in", "lb·in", "in-lb", "in lb", "inlb", "lbin", "in·lb", "in-lbs",
                   "lbf-in", "in-lbf", "in·lbf", "inch pounds"),
        "N·m": ("n·m", "nm", "n m", "n.m", "n-m"),
        "kgf·m": ("kgf·m", "kgf.m", "kgf m", "kgf-m", "kgfm", "kg·m", "kg.m", "kgm", "kg-m", "mkg", "mkp", "m.kg"),
    },
    "temperature": {"°C": ("°c", "c", "degc", "deg c"), "°F": ("°f", "f", "degf", "deg f"), "K": ("k",)},
    "humidity": {"%": ("%", "% rh", "%rh", "percent")},
    "speed": {"rpm": ("rpm", "1/min", "min-1", "u/min", "rev/min", "r/min")},
    "angle": {"°": ("°", "deg", "degree", "degrees")},
}  # fmt: skip

PRESETS: dict[Preset, dict[Quantity, str]] = {
    "trade": {
        "flow": "cfm", "depression": "inH2O", "pressure": "kPa", "length": "mm", "area": "mm2", "volume": "L",
        "power": "hp", "torque": "lbf·ft", "temperature": "°C", "humidity": "%", "speed": "rpm", "angle": "°",
    },
    "metric": {
        "flow": "m3/h", "depression": "kPa", "pressure": "kPa", "length": "mm", "area": "mm2", "volume": "L",
        "power": "kW", "torque": "N·m", "temperature": "°C", "humidity": "%", "speed": "rpm", "angle": "°",
    },
}  # fmt: skip

PINT_NAMES = {
    "cfm": "cfm", "m3/h": "m**3/h", "l/s": "L/s", "l/min": "L/min", "m3/s": "m**3/s", "inH2O": "inH2O", "kPa": "kPa",
    "Pa": "Pa", "mbar": "mbar", "mmH2O": "mmH2O", "inHg": "inHg", "mmHg": "mmHg", "psi": "psi", "bar": "bar",
    "mm": "mm", "in": "inch", "cm": "cm", "m": "m", "mm2": "mm**2", "cm2": "cm**2", "in2": "inch**2", "L": "L",
    "cc": "cm**3", "in3": "inch**3", "hp": "hp", "kW": "kW", "PS": "PS",
    "W": "W", "lbf·ft": "lbf*ft", "lbf·in": "lbf*inch", "N·m": "N*m", "kgf·m": "kgf*m", "°C": "degC", "°F": "degF",
    "K": "K", "°": "degree",
}  # fmt: skip

SI_NAMES: dict[Quantity, str] = {
    "flow": "m**3/s", "depression": "Pa", "pressure": "Pa", "length": "m", "area": "m**2", "volume": "m**3",
    "power": "W", "torque": "N*m", "temperature": "K", "angle": "radian",
}  # fmt: skip

# The most that is taken for a figure, in SI: beyond it something else was typed; common practice, no source.
MOST: dict[Quantity, float] = {
    "flow": 10, "depression": 100_000, "pressure": 1_000_000, "length": 20, "area": 1, "volume": 1, "power": 10_000_000,
    "torque": 100_000, "temperature": 2_000, "humidity": 1_000, "speed": 100_000, "angle": 6.3,
}  # fmt: skip
SHOWN_LETTERS = 40

# How a unit is written beside a figure, where that differs from the stored name.
LABELS = {"lbf·ft": "lb·ft", "lbf·in": "lb·in", "cfm": "CFM", "m3/h": "m³/h", "m3/s": "m³/s", "in3": "in³",
          "mm2": "mm²", "cm2": "cm²", "in2": "in²"}  # fmt: skip

# Decimals by unit: a flow bench gives three to four digits, a dyno one decimal.
DECIMALS = {"cfm": 1, "m3/h": 1, "l/s": 1, "inH2O": 1, "kPa": 2, "mbar": 1, "mm": 1, "in": 3, "mm2": 0, "cm2": 2,
            "in2": 3, "L": 2, "hp": 1, "kW": 1, "PS": 1, "lbf·ft": 1, "lbf·in": 0, "N·m": 1, "kgf·m": 2, "°C": 1,
            "°F": 1, "%": 0, "rpm": 0, "°": 1}  # fmt: skip

_NUMBER = re.compile(
    r"^[+-]?(\d+ \d+/\d+|\d+/\d+|\d{1,3}([ ']\d{3})+([.,]\d+)?|\d[\d.,]*|[.,]\d+)([eE][+-]?\d+)?(?![\d.,])"
)


@cache
def registry() -> Any:
    """The pint registry with our own cfm (pint reads it as centi-femtometre) and conventional water and mercury."""
    import pint

    units: Any = pint.UnitRegistry(cache_folder=None)
    units.define("cfm = foot ** 3 / minute")
    units.define(f"inH2O = {constants.INCH_OF_WATER!r} pascal")
    units.define(f"mmH2O = {constants.STANDARD_GRAVITY!r} pascal")
    units.define(f"inHg = {constants.INCH_OF_MERCURY!r} pascal")
    units.define(f"hp = {constants.HORSEPOWER!r} watt")
    units.define(f"PS = {constants.METRIC_HORSEPOWER!r} watt")
    return units


@cache
def _linear(unit: str, quantity: Quantity) -> tuple[float, float]:
    """Factor and offset from a unit to SI, so that registry work is done once a unit."""
    if quantity == "humidity":
        return 0.01, 0.0
    if quantity == "speed":
        return 1.0, 0.0
    units, target = registry(), SI_NAMES[quantity]
    zero = units.Quantity(0.0, PINT_NAMES[unit]).to(target).magnitude
    one = units.Quantity(1.0, PINT_NAMES[unit]).to(target).magnitude
    return float(one - zero), float(zero)


def to_si(value: float, unit: str, quantity: Quantity) -> float:
    """A figure in one of the stored units, in SI (humidity as a fraction, speed in rpm)."""
    factor, offset = _linear(known_unit(unit, quantity), quantity)
    return value * factor + offset


def from_si(value: float, unit: str, quantity: Quantity) -> float:
    """An SI value in one of the stored units."""
    factor, offset = _linear(known_unit(unit, quantity), quantity)
    return (value - offset) / factor


def known_unit(text: str, quantity: Quantity) -> str:
    """The stored name of a unit as typed. Raises UnitError naming those that are known."""
    found = recognise_unit(text, quantity)
    if found is None:
        known = ", ".join(LABELS.get(name, name) for name in SPELLINGS[quantity])
        raise UnitError(f"'{text}' isn't a unit of {quantity}. Use one of: {known}.")
    return found


def recognise_unit(text: str, quantity: Quantity) -> str | None:
    """The stored name of a unit as typed, or None."""
    wanted = _tidy(text).lower()
    for name, spellings in SPELLINGS[quantity].items():
        if wanted == name.lower() or wanted in spellings:
            return name
    return None


def recognise_any_unit(text: str) -> tuple[Quantity, str] | None:
    """Quantity and stored name of a unit as headed in a file, or None."""
    for quantity in SPELLINGS:
        name = recognise_unit(text, quantity)
        if name:
            return quantity, name
    return None


def parse(text: str, quantity: Quantity, default_unit: str) -> Typed:
    """What was typed, such as '214.1', '2 3/4 in', '364 m³/h', '28 inH2O' or '214,5'. Raises UnitError saying why."""
    figure, rest = split(text, default_unit)
    unit = known_unit(rest, quantity) if rest else known_unit(default_unit, quantity)
    typed = Typed(figure, unit, to_si(figure, unit, quantity))
    if not abs(typed.si) <= MOST[quantity]:
        most = show_in(from_si(MOST[quantity], unit, quantity), unit, 0)
        raise UnitError(f"'{_short(text)}' is out of range: up to {most.text} {most.unit} can be.")
    return typed


def split(text: str, default_unit: str) -> tuple[float, str]:
    """What was typed as its number, and the text of its unit. Raises UnitError where there is no number."""
    tidy = _tidy(text)
    before = next((sign for sign in ("€", "$", "£") if tidy.startswith(sign)), "")
    tidy = tidy[len(before) :].lstrip() if before else tidy
    match = _NUMBER.match(tidy)
    if not match:
        other = f"; add the unit if it isn't {default_unit}" if default_unit else ""
        raise UnitError(f"'{_short(text)}' isn't a number. Type a number{other}.")
    return parse_number(match.group(0)), before or tidy[match.end() :].strip()


def _short(text: str) -> str:
    return text if len(text) <= SHOWN_LETTERS else f"{text[:SHOWN_LETTERS]}…"


def parse_number(text: str) -> float:
    """A number with decimal point or comma, a fraction, or grouped thousands. Raises UnitError where it is doubtful."""
    tidy = _tidy(text)
    if "/" in tidy:
        return _fraction(tidy)
    tidy = tidy.replace("'", "").replace(" ", "")
    if "," in tidy and "." in tidy:
        thousands, decimal = (",", r"\.") if tidy.rindex(".") > tidy.rindex(",") else (".", ",")
        if not re.fullmatch(rf"[+-]?\d{{1,3}}({re.escape(thousands)}\d{{3}})+({decimal}\d*)?([eE][+-]?\d+)?", tidy):
            raise UnitError(f"'{_short(text)}' has its thousands in no order. Type it without them.")
        tidy = tidy.replace(thousands, "")
    elif re.fullmatch(r"[+-]?[1-9]\d{0,2}([.,]\d{3}){2,}", tidy):
        tidy = tidy.replace(",", "").replace(".", "")
    elif re.fullmatch(r"[+-]?[1-9]\d{0,2},\d{3}", tidy):
        raise UnitError(f"'{text}' is unclear: thousands or decimals? Type it without the comma, or with a point.")
    try:
        return float(tidy.replace(",", "."))
    except ValueError as error:
        raise UnitError(f"'{_short(text)}' isn't a number.") from error


def _fraction(text: str) -> float:
    sign = -1 if text.startswith("-") else 1
    try:
        return float(sign * sum(Fraction(part) for part in text.lstrip("+-").split()))
    except (ValueError, ZeroDivisionError) as error:
        raise UnitError(f"'{text}' isn't a fraction. Type it like 2 3/4.") from error


def show(si: float, quantity: Quantity, preset: Preset, decimals: int | None = None) -> Shown:
    """An SI value in the preset's unit, rounded for display."""
    unit = PRESETS[preset][quantity]
    return show_in(from_si(si, unit, quantity), unit, decimals)


def reference_depression(preset: Preset) -> str:
    """The depression to which flows are brought, in words."""
    return "28 inH2O" if preset == "trade" else "6.97 kPa"


def flow_basis(preset: Preset) -> str:
    """What the flows on a screen are: their unit, and the depression to which they are brought."""
    unit = PRESETS[preset]["flow"]
    return f"{LABELS.get(unit, unit)} at {reference_depression(preset)}"


def show_difference(si: float, quantity: Quantity, preset: Preset, decimals: int | None = None) -> Shown:
    """A difference of two SI values in the preset's unit, with its sign."""
    unit = PRESETS[preset][quantity]
    shown = show_in(si / _linear(unit, quantity)[0], unit, decimals)
    return Shown(shown.value, shown.unit, signed(shown.value, shown.text))


def show_in(value: float, unit: str, decimals: int | None = None) -> Shown:
    """A value already in a stored unit, with that unit's digits; from a thousand on whole, as no meter tells more."""
    places = DECIMALS.get(unit, 2) if decimals is None else decimals
    if abs(value) >= 1000:
        places = 0
    return Shown(value, LABELS.get(unit, unit), number_text(value, places))


def number_text(value: float, decimals: int) -> str:
    """A number as shown: thousands apart, a true minus, no minus zero."""
    text = f"{value:,.{decimals}f}"
    if float(text.replace(",", "")) == 0:
        text = text.lstrip("-")
    return text.replace("-", "−")


def to_fifty(speed_rpm: float) -> str:
    """An engine speed as a sentence says it: no dyno and no formula tells it closer than 50 rpm."""
    return f"{round(speed_rpm / 50) * 50:.0f}"


def signed(value: float, text: str) -> str:
    """A difference as shown: with a plus where it is one."""
    return f"+{text}" if value > 0 and any(digit in text for digit in "123456789") else text


def percent_text(fraction: float, decimals: int = 1) -> str:
    """A fraction as a signed percentage."""
    text = number_text(fraction * 100, decimals)
    return f"{signed(fraction, text)} %"


def _tidy(text: str) -> str:
    """One kind of space and of minus."""
    return re.sub(r"\s+", " ", text.replace("\u2212", "-").replace("\u00a0", " ").replace("\u202f", " ")).strip()
