"""Figures that the bench sent: kept with all their samples, at the depression that it pulled."""

import pytest
from sqlalchemy import text

from tests.shop import new_id

SAMPLES = [198.0, 202.0, 199.5, 200.5, 201.0, 199.0, 200.0, 200.0, 201.5, 198.5]


def captured(shop, **more):
    job = shop.job()
    setup, state = shop.setup(job), shop.sheet(job)["before_state_id"]
    answer = shop.flow(job, setup, state, 1, "", taken={"samples_cfm": SAMPLES, "depression_inh2o": 26.5}, **more)
    return job, answer


def test_the_figure_is_the_mean_and_every_sample_stays(shop, engine):
    job, answer = captured(shop)
    kept = shop.kept(answer)
    with engine.connect() as connection:
        row = connection.execute(
            text("select figure, unit, samples, depression_pa from flow_reading where id = :id"), {"id": kept["id"]}
        ).one()
    assert (row.figure, row.unit) == (pytest.approx(200.0), "cfm")
    assert row.samples == SAMPLES
    rung = shop.sheet(job)["rungs"][0]
    assert rung["before"]["mean"]["value"] == pytest.approx(200 * (28 / 26.5) ** 0.5)
    assert rung["before"]["readings"][0]["typed"] == "200.0 CFM, mean of 10"


def test_a_second_one_is_asked_about_like_a_typed_figure(shop):
    job, answer = captured(shop)
    shop.kept(answer)
    setup, state = shop.setup(job), shop.sheet(job)["before_state_id"]
    again = shop.flow(job, setup, state, 1, "", taken={"samples_cfm": SAMPLES, "depression_inh2o": 26.5})
    assert (again.status_code, again.json()["code"]) == (422, "already_read")
    assert "200.0 CFM, mean of 10" in again.json()["detail"]


@pytest.mark.parametrize(
    "bad",
    [
        {"samples_cfm": [200, 0], "depression_inh2o": 28},
        {"samples_cfm": [200], "depression_inh2o": 900},
        {"samples_cfm": [200], "depression_inh2o": 0.1},
        {"samples_cfm": [], "depression_inh2o": 28},
        {"samples_cfm": [200], "depression_inh2o": 28, "range_percent": -3},
    ],
)
def test_samples_that_no_bench_sends_are_refused(shop, bad):
    job = shop.job()
    setup, state = shop.setup(job), shop.sheet(job)["before_state_id"]
    assert shop.flow(job, setup, state, 1, "", taken=bad).status_code == 422


def test_a_bench_is_given_its_line(shop, client):
    bench = new_id()
    body = {"name": f"Live {bench[:5]}", "line": {"port": 5125}}
    shop.kept(shop.put(f"/benches/{bench}", body))
    view = next(b for b in shop.get("/shop")["benches"] if b["id"] == bench)
    assert view["line"]["pattern"].startswith("DATA {flow}")
    for line, path in (
        ({"port": 0}, "line.port"),
        ({"pattern": "{colour}"}, "line.pattern"),
        ({"host": " "}, "line.host"),
    ):
        edit = {"version": view["version"], "name": view["name"], "repeatability_percent": None,
                "session_shift_percent": None, "line": {**view["line"], **line}}  # fmt: skip
        refused = client.patch(f"/api/benches/{bench}", json=edit)
        assert (refused.status_code, refused.json()["path"]) == (422, path)
    assert client.get(f"/api/benches/{shop.bench}/live").status_code == 422
    assert client.get(f"/api/benches/{new_id()}/live").status_code == 404
