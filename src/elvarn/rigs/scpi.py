"""The part of SCPI that our instruments speak: a tree of commands, queries, an error queue (SCPI-99, IEEE 488.2)."""

from collections import deque
from collections.abc import Callable, Container
from dataclasses import dataclass

NO_ERROR = '0,"No error"'
MOST_ERRORS = 20
OVERFLOW = '-350,"Queue overflow"'


class ScpiError(Exception):
    """A refusal with its SCPI number."""

    def __init__(self, number: int, words: str) -> None:
        super().__init__(f'{number},"{words}"')


@dataclass(frozen=True)
class Command:
    """A command by its long form ("SOURce:DEPRession"), what it does with its parameters, what its query answers."""

    header: str
    do: Callable[[list[str]], None] | None = None
    ask: Callable[[list[str]], str] | None = None


class Instrument:
    """Runs lines of commands. Every command may be written short (the capitals) or long, in any case."""

    def __init__(self, commands: list[Command]) -> None:
        self._commands = commands
        self._errors: deque[str] = deque()

    def run(self, line: str) -> str | None:
        """Run one line; commands are separated by semicolons. Returns the answers of its queries, or None."""
        answers = []
        for unit in line.split(";"):
            try:
                answer = self._one(unit.strip())
            except ScpiError as error:
                self._note(str(error))
                continue
            if answer is not None:
                answers.append(answer)
        return ";".join(answers) if answers else None

    def next_error(self) -> str:
        """The oldest error, taken out of the queue."""
        return self._errors.popleft() if self._errors else NO_ERROR

    def clear(self) -> None:
        """Forget all errors."""
        self._errors.clear()

    def _note(self, words: str) -> None:
        if len(self._errors) == MOST_ERRORS:
            self._errors[-1] = OVERFLOW
        else:
            self._errors.append(words)

    def _one(self, unit: str) -> str | None:
        if not unit:
            return None
        header, _, rest = unit.partition(" ")
        asked = header.endswith("?")
        command = self._find(header.rstrip("?").lstrip(":"))
        parameters = [word.strip() for word in rest.split(",")] if rest.strip() else []
        if asked:
            if command.ask is None:
                raise ScpiError(-113, f"Undefined header; {header}")
            return command.ask(parameters)
        if command.do is None:
            raise ScpiError(-113, f"Undefined header; {header}")
        command.do(parameters)
        return None

    def _find(self, header: str) -> Command:
        for command in self._commands:
            if _matches(command.header, header):
                return command
        raise ScpiError(-113, f"Undefined header; {header}")


def figure(parameters: list[str], low: float, high: float, suffixes: dict[str, float]) -> float:
    """The one figure of a command, in the unit of its suffix ("28 INH2O"). Raises ScpiError."""
    if len(parameters) != 1:
        raise ScpiError(
            -109 if not parameters else -108, "Missing parameter" if not parameters else "Parameter not allowed"
        )
    words = parameters[0].split()
    factor = 1.0
    if len(words) == 2:
        if words[1].upper() not in suffixes:
            raise ScpiError(-131, f"Invalid suffix; {words[1]}")
        factor = suffixes[words[1].upper()]
    try:
        value = float(words[0]) * factor
    except ValueError as error:
        raise ScpiError(-120, f"Numeric data error; {parameters[0]}") from error
    if not low <= value <= high:
        raise ScpiError(-222, f"Data out of range; {parameters[0]}")
    return value


def switch(parameters: list[str]) -> bool:
    """ON, OFF, 1 or 0. Raises ScpiError."""
    _only_one(parameters)
    word = parameters[0].upper()
    if word not in ("ON", "OFF", "1", "0"):
        raise ScpiError(-224, f"Illegal parameter value; {word}")
    return word in ("ON", "1")


def switch_fault(parameters: list[str], known: Container[str], faults: set[str]) -> None:
    """Switch a fault by its name, on unless OFF is said. Raises ScpiError."""
    name = parameters[0].upper() if parameters else ""
    if name not in known:
        raise ScpiError(-224, f"Illegal parameter value; {name or 'no fault named'}")
    if switch(parameters[1:] or ["ON"]):
        faults.add(name)
    else:
        faults.discard(name)


def _only_one(parameters: list[str]) -> None:
    if not parameters:
        raise ScpiError(-109, "Missing parameter")
    if len(parameters) > 1:
        raise ScpiError(-108, "Parameter not allowed")


def _matches(long_form: str, header: str) -> bool:
    wanted, given = long_form.split(":"), header.upper().split(":")
    return len(wanted) == len(given) and all(
        word in ("".join(c for c in full if not c.islower()), full.upper())
        for full, word in zip(wanted, given, strict=True)
    )
