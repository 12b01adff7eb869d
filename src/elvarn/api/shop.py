"""People, benches and dynos."""

from uuid import UUID

from fastapi import APIRouter
from fastapi.responses import Response

from elvarn.api.answers import Asked
from elvarn.api.depends import Sessions
from elvarn.api.strict import StrictRoute
from elvarn.service.shop import benches, dynos, people, safekeeping, settings, view

router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["shop"])


@router.get("/shop", response_model=view.ShopView)
def shop_view(asked: Asked) -> Response:
    return asked.of_shop(view.shop_view)


@router.put("/people/{person_id}")
def add_person(person_id: UUID, new: people.NewPerson, sessions: Sessions) -> people.PersonView:
    with sessions.begin() as session:
        return people.add_person(session, person_id, new)


@router.put("/benches/{bench_id}")
def add_bench(bench_id: UUID, new: benches.NewBench, sessions: Sessions) -> benches.BenchView:
    with sessions.begin() as session:
        return benches.add_bench(session, bench_id, new)


@router.patch("/benches/{bench_id}")
def edit_bench(bench_id: UUID, change: benches.BenchEdit, sessions: Sessions) -> benches.BenchView:
    with sessions.begin() as session:
        return benches.edit_bench(session, bench_id, change)


@router.put("/dynos/{dyno_id}")
def add_dyno(dyno_id: UUID, new: dynos.NewDyno, sessions: Sessions) -> dynos.DynoView:
    with sessions.begin() as session:
        return dynos.add_dyno(session, dyno_id, new)


@router.patch("/dynos/{dyno_id}")
def edit_dyno(dyno_id: UUID, change: dynos.DynoEdit, sessions: Sessions) -> dynos.DynoView:
    with sessions.begin() as session:
        return dynos.edit_dyno(session, dyno_id, change)


@router.get("/settings/path", response_model=settings.SettingsView)
def path_settings(asked: Asked) -> Response:
    return asked.of_shop(settings.path_settings)


@router.patch("/settings/path")
def edit_settings(change: settings.SettingsEdit, sessions: Sessions) -> settings.SettingsView:
    with sessions.begin() as session:
        return settings.edit_settings(session, change)


@router.get("/settings/safekeeping", response_model=safekeeping.SafekeepingView)
def daily_copy(asked: Asked) -> Response:
    """The shop's daily copy: whether and where it is made, and how the last one went."""
    return asked.of_shop(safekeeping.safekeeping)


@router.patch("/settings/safekeeping")
def edit_daily_copy(change: safekeeping.SafekeepingEdit, sessions: Sessions) -> safekeeping.SafekeepingView:
    with sessions.begin() as session:
        return safekeeping.edit_safekeeping(session, change)
