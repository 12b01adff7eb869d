"""People, benches and dynos."""

from uuid import UUID

from fastapi import APIRouter

from elvarn.api.depends import Sessions
from elvarn.api.strict import StrictRoute
from elvarn.service import shop

router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["shop"])


@router.get("/shop")
def shop_view(sessions: Sessions) -> shop.ShopView:
    with sessions.begin() as session:
        return shop.shop_view(session)


@router.put("/people/{person_id}")
def add_person(person_id: UUID, new: shop.NewPerson, sessions: Sessions) -> shop.PersonView:
    with sessions.begin() as session:
        return shop.add_person(session, person_id, new)


@router.put("/benches/{bench_id}")
def add_bench(bench_id: UUID, new: shop.NewBench, sessions: Sessions) -> shop.BenchView:
    with sessions.begin() as session:
        return shop.add_bench(session, bench_id, new)


@router.patch("/benches/{bench_id}")
def edit_bench(bench_id: UUID, change: shop.BenchEdit, sessions: Sessions) -> shop.BenchView:
    with sessions.begin() as session:
        return shop.edit_bench(session, bench_id, change)


@router.put("/dynos/{dyno_id}")
def add_dyno(dyno_id: UUID, new: shop.NewDyno, sessions: Sessions) -> shop.DynoView:
    with sessions.begin() as session:
        return shop.add_dyno(session, dyno_id, new)
