"""Figures of plain fields as they are typed, such as '950 EUR', '4.000 in' or '2 weeks': read in place into the field's
own unit by the one parser, with the text kept as it was typed. A program sends numbers."""

from collections.abc import Callable
from dataclasses import fields, is_dataclass
from typing import Annotated, Any

from pydantic import GetCoreSchemaHandler, GetJsonSchemaHandler
from pydantic_core import CoreSchema
from pydantic_core.core_schema import no_info_wrap_validator_function

from elvarn import units

CURRENCIES = ("EUR", "€", "USD", "$", "GBP", "£", "CHF", "SEK", "NOK", "DKK", "PLN", "CZK", "AUD", "CAD", "NZD", "JPY")

# Units of fields that nothing is measured in, to how many of the field's own they are.
PLAIN: dict[str, dict[str, float]] = {
    "kg": {"kg": 1, "g": 0.001, "lb": 0.45359237, "lbs": 0.45359237, "oz": 0.028349523125},
    "min": {"min": 1, "mins": 1, "minutes": 1, "h": 60, "hours": 60, "hour": 60},
    "days": {"days": 1, "day": 1, "d": 1, "weeks": 7, "week": 7, "w": 7},
    "cm³": {"cm³": 1, "cm3": 1, "cc": 1, "ml": 1},
    "°": {"°": 1, "deg": 1, "degrees": 1},
    "%": {"%": 1, "percent": 1},
    "cm³/min": {"cm³/min": 1, "cm3/min": 1, "cc/min": 1, "cc": 1, "ml/min": 1, "l/min": 1000},
    "m/s": {"m/s": 1, "ft/s": 0.3048},
    "h": {"h": 1, "o'clock": 1},
    "": {":1": 1, "mm/mm": 1},
    "money": dict.fromkeys(CURRENCIES, 1.0),
}
MOST = 1e9  # of whatever unit


class TypedFigure(float):
    """A figure in its field's unit, with the text that it was typed as, and number and unit in that text."""

    typed: str
    figure: float
    unit: str


class TypedWhole(int):
    """A whole number with the text that it was typed as."""

    typed: str


def read(text: str, unit: str, quantity: units.Quantity | None = None) -> TypedFigure:
    """What was typed, in a field's unit. Raises UnitError saying why it can't be."""
    number, rest = units.split(text, unit)
    if quantity is None:
        value = number * _factor(rest, unit)
    else:
        parsed = units.parse(text, quantity, unit)
        rest = parsed.unit
        value = number if rest == unit else units.from_si(parsed.si, unit, quantity)
    if not abs(value) <= MOST:
        raise units.UnitError(f"'{text[: units.SHOWN_LETTERS]}' is out of range. Type it again.")
    figure = TypedFigure(value)
    figure.typed, figure.figure, figure.unit = text.strip(), number, rest or unit
    return figure


def read_whole(text: str, unit: str, quantity: units.Quantity | None = None) -> TypedWhole:
    """What was typed for a whole number. Raises UnitError saying why it can't be."""
    figure = read(text, unit, quantity)
    if not figure.is_integer():
        raise units.UnitError(f"'{text}' isn't a whole number. Type one without a fraction.")
    whole = TypedWhole(figure)
    whole.typed = figure.typed
    return whole


def typed_texts(command: Any, path: str = "") -> dict[str, str]:
    """The texts of all that was typed in a command, by their place in it."""
    if isinstance(command, TypedFigure | TypedWhole):
        return {path: command.typed}
    if is_dataclass(command) and not isinstance(command, type):
        inside = {field.name: getattr(command, field.name) for field in fields(command)}
    elif isinstance(command, list | tuple):
        inside = {str(index): one for index, one in enumerate(command)}
    else:
        return {}
    found: dict[str, str] = {}
    for name, value in inside.items():
        found |= typed_texts(value, f"{path}.{name}" if path else name)
    return found


def _factor(rest: str, unit: str) -> float:
    known = PLAIN[unit]
    if rest == "":
        return 1.0
    found = next((factor for name, factor in known.items() if name.lower() == rest.lower()), None)
    if found is None:
        names = ", ".join(name for name in known if name) or "a plain number"
        raise units.UnitError(f"'{rest}' isn't a unit of this field. Use one of: {names}.")
    return found


class _Read:
    """In a request a number, or the text that was typed, which is read; in an answer a number."""

    def __init__(self, unit: str, quantity: units.Quantity | None, whole: bool) -> None:
        self.unit, self.quantity, self.whole = unit, quantity, whole

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        return no_info_wrap_validator_function(self._read, handler(source))

    def __get_pydantic_json_schema__(self, schema: CoreSchema, handler: GetJsonSchemaHandler) -> dict[str, Any]:
        found = dict(handler(schema))
        return {"anyOf": [found, {"type": "string"}]} if handler.mode == "validation" else found

    def _read(self, value: Any, handler: Callable[[Any], Any]) -> Any:
        if not isinstance(value, str):
            return handler(value)
        try:
            return (read_whole if self.whole else read)(value, self.unit, self.quantity)
        except units.UnitError as error:
            raise ValueError(str(error).rstrip(".")) from error


def _figure(unit: str, quantity: units.Quantity | None = None, whole: bool = False) -> _Read:
    return _Read(unit, quantity, whole)


Millimetres = Annotated[float, _figure("mm", "length")]
SquareMillimetres = Annotated[float, _figure("mm2", "area")]
Kilopascals = Annotated[float, _figure("kPa", "pressure")]
InchesOfWater = Annotated[float, _figure("inH2O", "depression")]
Kilowatts = Annotated[float, _figure("kW", "power")]
Celsius = Annotated[float, _figure("°C", "temperature")]
Litres = Annotated[float, _figure("L", "volume")]
CubicCentimetres = Annotated[float, _figure("cm³")]
CubicFeet = Annotated[float, _figure("cfm", "flow")]
Injection = Annotated[float, _figure("cm³/min")]
Kilograms = Annotated[float, _figure("kg")]
Minutes = Annotated[float, _figure("min")]
Degrees = Annotated[float, _figure("°")]
Percent = Annotated[float, _figure("%")]
ClockHours = Annotated[float, _figure("h")]
MetresPerSecond = Annotated[float, _figure("m/s")]
Money = Annotated[float, _figure("money")]
Number = Annotated[float, _figure("")]
Days = Annotated[int, _figure("days", whole=True)]
Rpm = Annotated[int, _figure("rpm", "speed", whole=True)]
Count = Annotated[int, _figure("", whole=True)]
