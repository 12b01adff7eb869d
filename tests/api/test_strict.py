"""Two writers in each other's way: the database takes one back, and the route tries it again with the same body."""

import threading
from concurrent.futures import ThreadPoolExecutor

import pytest
from fastapi import APIRouter, FastAPI
from fastapi.testclient import TestClient
from psycopg.errors import DeadlockDetected
from pydantic import BaseModel
from sqlalchemy import text
from sqlalchemy.exc import OperationalError

from elvarn.api.strict import MOST_ATTEMPTS, StrictRoute
from tests.shop import new_id


class Order(BaseModel):
    jobs: list[str]


def application(answer):
    router = APIRouter(route_class=StrictRoute)
    router.post("/both")(answer)
    app = FastAPI()
    app.include_router(router)
    app.openapi()
    return TestClient(app)


def test_of_two_writers_that_wait_for_each_other_both_are_kept_in_the_end(shop, owner):
    jobs = [shop.job(), shop.job()]
    met, attempts = threading.Barrier(2), []

    def both(order: Order) -> list[str]:
        attempts.append(order.jobs)
        first_try = attempts.count(order.jobs) == 1
        with owner.begin() as connection:
            connection.execute(text("set local deadlock_timeout = '20ms'"))
            for job in order.jobs:
                connection.execute(text("update job set note = note || 'x' where id = cast(:id as uuid)"), {"id": job})
                if first_try and job == order.jobs[0]:
                    met.wait(20)
        return order.jobs

    client = application(both)
    with ThreadPoolExecutor(2) as writers:
        sent = list(writers.map(lambda order: client.post("/both", json={"jobs": order}), (jobs, jobs[::-1])))
    assert [answer.json() for answer in sent] == [jobs, jobs[::-1]]
    assert len(attempts) >= 3  # on a busy machine they may meet once more
    assert [shop.get(f"/jobs/{job}")["note"] for job in jobs] == ["xx", "xx"]


def test_a_database_that_always_takes_back_is_told_in_the_end():
    attempts = []

    def both(order: Order) -> None:
        attempts.append(order)
        raise OperationalError("update", {}, DeadlockDetected())

    with pytest.raises(OperationalError):
        application(both).post("/both", json={"jobs": [new_id()]})
    assert len(attempts) == MOST_ATTEMPTS
