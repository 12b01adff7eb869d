"""Recipes: the rounds of a stage in order, each with its tool, how often it goes round, and what is looked at."""

from dataclasses import asdict, field
from itertools import pairwise
from typing import Any

from elvarn.core.port.grit import Grit, GritSystem, skipped
from elvarn.given import given
from elvarn.service.kernel.errors import Invalid, Offer, Question
from elvarn.typed import Minutes

SKIPPED = "skipped_grit"
MOST_ROUNDS, MOST_TIMES = 20, 9
INSPECTIONS = ("finger", "lamp", "calliper", "wall")


@given
class Round:
    """A round of a stage: what it is called, the grit where it has one and whose numbers that has, how often it goes
    over each runner, and the minutes planned for a runner."""

    name: str
    grit: int | None = None
    system: str = GritSystem.P
    times: int = 1
    minutes: Minutes | None = None


@given
class Recipe:
    """What a stage is made of, under the shop's own name; `finish` is the school of its surface, `number` the version
    of the shop's recipe that it was taken from."""

    name: str = "by hand, 120 grit"
    finish: str = "even"
    rounds: list[Round] = field(
        default_factory=lambda: [Round("carbide"), Round("80 grit", 80, times=3), Round("120 grit", 120, times=2)]
    )
    number: int | None = None


FINISHES = {"even": "even, not glassy", "mirror": "mirror", "textured": "textured"}


def recipe_of(kept: dict[str, Any]) -> Recipe:
    """A recipe as the table keeps it; the usual one where there is none."""
    if not kept:
        return Recipe()
    return Recipe(kept["name"], kept["finish"], [Round(**one) for one in kept["rounds"]], kept.get("number"))


def passes_in(recipe: Recipe) -> list[tuple[str, Round]]:
    """Each time round, by its name: "80 grit 2"."""
    return [
        (one.name if one.times == 1 else f"{one.name} {n}", one)
        for one in recipe.rounds
        for n in range(1, one.times + 1)
    ]


def checked(recipe: Recipe, accepted: list[str]) -> dict[str, Any]:
    """A recipe as the table keeps it. Raises Invalid for one that can't be, Question where a grit is skipped."""
    if recipe.finish not in FINISHES:
        raise Invalid(f"'{recipe.finish}' is no finish: {', '.join(FINISHES)}.", path="recipe.finish")
    if not 1 <= len(recipe.rounds) <= MOST_ROUNDS:
        raise Invalid(f"{len(recipe.rounds)} rounds can't be: 1 to {MOST_ROUNDS}.", path="recipe.rounds")
    for number, one in enumerate(recipe.rounds):
        _check_round(one, f"recipe.rounds.{number}")
    names = [name for name, _ in passes_in(recipe)]
    twice = next((name for name in names if names.count(name) > 1), None)
    if twice:
        raise Invalid(f"Two rounds are called '{twice}'. Name them apart.", path="recipe.rounds")
    if SKIPPED not in accepted:
        _ask_about_skipped([one for one in recipe.rounds if one.grit is not None], accepted)
    return {
        "name": recipe.name.strip() or "by hand",
        "finish": recipe.finish,
        "rounds": [_row(r) for r in recipe.rounds],
        "number": recipe.number,
    }


def _row(one: Round) -> dict[str, Any]:
    return {**asdict(one), "name": one.name.strip(), "minutes": float(one.minutes) if one.minutes is not None else None}


def _check_round(one: Round, path: str) -> None:
    if not one.name.strip():
        raise Invalid("A round has no name. Name it after its tool.", path=f"{path}.name")
    if not 1 <= one.times <= MOST_TIMES:
        raise Invalid(f"{one.name} {one.times} times round can't be: 1 to {MOST_TIMES}.", path=f"{path}.times")
    if one.system not in list(GritSystem):
        raise Invalid(f"'{one.system}' numbers no grits: {', '.join(GritSystem)}.", path=f"{path}.system")
    if one.minutes is not None and not 0 < one.minutes <= 600:
        raise Invalid(f"{one.minutes:g} min for a runner can't be: up to 600.", path=f"{path}.minutes")


def _ask_about_skipped(rounds: list[Round], accepted: list[str]) -> None:
    for first, second in pairwise(rounds):
        between = skipped(_grit(first), _grit(second))
        if between:
            text = f"From {first.grit} to {second.grit} grit a step is skipped: its scratches take longer to take out."
            keep = Offer("Keep it as it is", {"accepted": [*accepted, SKIPPED]})
            raise Question(SKIPPED, f"{text} {between[0].number} would lie between.", [keep], path="recipe.rounds")


def _grit(one: Round) -> Grit:
    return Grit(one.grit or 0, GritSystem(one.system))
