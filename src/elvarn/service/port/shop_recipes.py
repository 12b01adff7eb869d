"""The shop's recipes: each time one is kept it gets a version of its own; a job keeps the one that it took."""

from dataclasses import dataclass, field
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.given import given
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.writes import write_once
from elvarn.service.port.recipes import Recipe, checked, recipe_of
from elvarn.store import queries
from elvarn.store.models import PortRecipe

LONGEST_NAME = 80


@given
class NewRecipe:
    """A recipe that the shop is to have under its name."""

    person_id: UUID
    recipe: Recipe
    accepted: list[str] = field(default_factory=list)


@dataclass(frozen=True)
class ShopRecipe:
    """A recipe of the shop in its latest version."""

    number: int
    recipe: Recipe


def keep_recipe(session: Session, identifier: UUID, new: NewRecipe) -> PortRecipe:
    """Keep a recipe as the next version of its name; one that says nothing new stays the version that it is. Raises
    Invalid for one that can't be, Question where a grit is skipped."""
    name = " ".join(new.recipe.name.split())
    if not name or len(name) > LONGEST_NAME:
        raise Invalid(f"Name the recipe, in up to {LONGEST_NAME} letters.", path="recipe.name")
    kept = {**checked(new.recipe, new.accepted), "name": name, "number": None}
    last = next((row for row in queries.latest_recipes(session) if row.name.lower() == name.lower()), None)
    if last is not None and last.recipe == kept:
        return last

    def make(digest: str) -> PortRecipe:
        return PortRecipe(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            name=name,
            number=last.number + 1 if last else 1,
            recipe=kept,
        )

    return write_once(session, PortRecipe, identifier, new, make)


def shop_recipes(session: Session) -> list[ShopRecipe]:
    """The latest version of each, by name."""
    return [ShopRecipe(row.number, recipe_of({**row.recipe, "number": row.number})) for row in _latest(session)]


def newer_words(recipe: Recipe, known: list[ShopRecipe]) -> str:
    """That the shop's recipe has changed since a job took it, where it has."""
    there = next((one for one in known if one.recipe.name.lower() == recipe.name.lower()), None)
    if there is None or recipe.number is None or there.number <= recipe.number:
        return ""
    return f"This job keeps version {recipe.number} of it; the shop has version {there.number}."


def _latest(session: Session) -> list[PortRecipe]:
    return sorted(queries.latest_recipes(session), key=lambda row: row.name.lower())
