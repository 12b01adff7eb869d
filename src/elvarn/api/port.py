"""Port work: sections and walls, what a part is to become, states after a cut."""

from uuid import UUID

from fastapi import APIRouter, Response

from elvarn.api.answers import Asked, Kept
from elvarn.api.depends import Sessions, Units
from elvarn.api.strict import StrictRoute
from elvarn.service.port import barrel_sheet, cut, passes, plans, sections, sheet, shop_recipes

router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["port"])


@router.get("/jobs/{job_id}/port", response_model=sheet.PortSheet)
def port_sheet(job_id: UUID, asked: Asked, units: Units = "trade") -> Response:
    return asked.of_job(job_id, lambda session: sheet.port_sheet(session, job_id, units))


@router.get("/jobs/{job_id}/barrels", response_model=barrel_sheet.BarrelSheet)
def barrels(job_id: UUID, asked: Asked, part: UUID | None = None, units: Units = "trade") -> Response:
    """Throttles and adapters of the job, and the one that is asked for: its bores and what holds the air back."""
    return asked.of_job(job_id, lambda session: barrel_sheet.barrel_sheet(session, job_id, part, units))


@router.put("/states/{state_id}")
def cut_part(state_id: UUID, new: cut.NewState, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(cut.cut_part(session, state_id, new).id)


@router.post("/states/{state_id}/finish")
def finish_stage(state_id: UUID, _: cut.Finish, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(cut.finish_stage(session, state_id).id)


@router.delete("/states/{state_id}")
def take_back(state_id: UUID, sessions: Sessions) -> cut.NewState:
    """Take a stage back of which nothing was measured; the answer, put under a new id, begins it anew."""
    with sessions.begin() as session:
        return cut.take_back(session, state_id)


@router.put("/section-readings/{reading_id}")
def add_section(reading_id: UUID, new: sections.NewSection, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(sections.add_section(session, reading_id, new).id)


@router.put("/wall-readings/{reading_id}")
def add_wall(reading_id: UUID, new: sections.NewWall, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(sections.add_wall(session, reading_id, new).id)


@router.put("/port-plans/{plan_id}")
def add_plan(plan_id: UUID, new: plans.NewPortPlan, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(plans.add_plan(session, plan_id, new).id)


@router.patch("/port-plans/{plan_id}")
def edit_plan(plan_id: UUID, change: plans.PortPlanEdit, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(plans.edit_plan(session, plan_id, change).id)


@router.put("/port-recipes/{recipe_id}")
def keep_recipe(recipe_id: UUID, new: shop_recipes.NewRecipe, sessions: Sessions) -> Kept:
    """The next version of a recipe of the shop; one that says nothing new stays what it is."""
    with sessions.begin() as session:
        return Kept(shop_recipes.keep_recipe(session, recipe_id, new).id)


@router.put("/port-passes/{pass_id}")
def begin_pass(pass_id: UUID, new: passes.NewPass, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(passes.begin_pass(session, pass_id, new).id)


@router.patch("/port-passes/{pass_id}")
def edit_pass(pass_id: UUID, change: passes.PassEdit, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(passes.edit_pass(session, pass_id, change).id)
