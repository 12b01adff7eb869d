"""What is declared of a pull besides its build, day and air: only what is alike is compared."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from elvarn.core.likeness import item_differences
from elvarn.service.kernel.errors import Invalid

LONGEST = 120  # letters of one item


@dataclass(frozen=True)
class DeclaredItem:
    """Something declared: its word, its label, an example, and whether it belongs to the engine itself."""

    word: str
    label: str
    example: str
    of_engine: bool = False


ITEMS = (
    DeclaredItem("fuel", "Fuel", "98, fresh"),
    DeclaredItem("tune", "Tune", "map 3"),
    DeclaredItem("boost", "Boost", "0.6 bar, held"),
    DeclaredItem("gear", "Gear", "4th, 1.00"),
    DeclaredItem("sweep", "Sweep", "300 rpm/s"),
    DeclaredItem("smoothing", "Smoothing", "none"),
    DeclaredItem("flap", "Intake flap", "opens at 4800 rpm"),
    DeclaredItem("injectors", "Injectors", "365 cm³/min", of_engine=True),
    DeclaredItem("cam", "Cam", "stock", of_engine=True),
    DeclaredItem("head", "Head", "stock", of_engine=True),
    DeclaredItem("exhaust", "Exhaust", "4-2-1, open", of_engine=True),
    DeclaredItem("limit", "Rev limit", "7200 rpm", of_engine=True),
    DeclaredItem("strap", "Strap-down", "1"),
)
STRAP = "strap"  # another one makes another session
_WORDS = {item.word: item for item in ITEMS}


def checked(declared: Mapping[str, str]) -> dict[str, str]:
    """What was declared, tidied; empty items left out. Raises Invalid for an item that is not known, or too long."""
    for word, text in declared.items():
        if word not in _WORDS:
            raise Invalid(f"'{word}' is nothing that a pull declares. Known: {', '.join(_WORDS)}.", path="declared")
        if len(text) > LONGEST:
            raise Invalid(
                f"{_WORDS[word].label} has {len(text)} letters. Enter {LONGEST} at most.", path=f"declared.{word}"
            )
    return {word: " ".join(text.split()) for word, text in declared.items() if text.strip()}


def label(word: str) -> str:
    """The label of a declared item as it stands within a sentence."""
    return _WORDS[word].label.lower() if word in _WORDS else word


def engine_versions(declared: Sequence[Mapping[str, str]]) -> list[int]:
    """The number of the engine's version at each pull, in the order in which they were made: another cam, head,
    exhaust, other injectors or another limit make another one."""
    known: list[Mapping[str, str]] = []
    numbers = []
    for one in declared:
        engine = {item.word: one.get(item.word, "") for item in ITEMS if item.of_engine}
        number = next((n for n, other in enumerate(known) if not item_differences(engine, other)), None)
        if number is None:
            known.append(engine)
            number = len(known) - 1
        numbers.append(number + 1)
    return numbers
