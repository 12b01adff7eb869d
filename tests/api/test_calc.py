"""The calculations by name, over HTTP and on the command line: the examples run, the documents name them."""

import json
import os
import subprocess
import sys
from pathlib import Path

import pytest

from elvarn.service.calc import CALCULATIONS

ROOT = Path(__file__).resolve().parents[2]


def command(*arguments, given=""):
    environment = {**os.environ, "PYTHONPATH": str(ROOT / "src")}
    return subprocess.run(
        [sys.executable, "-m", "elvarn", "calc", *arguments],
        input=given, env=environment, capture_output=True, text=True, check=False,
    )  # fmt: skip


@pytest.mark.parametrize("name", CALCULATIONS)
def test_every_example_runs_over_http(client, name):
    answer = client.post(f"/api/calc/{name}", json=CALCULATIONS[name].example)
    assert answer.status_code == 200, answer.text


def test_every_example_stands_in_the_api_description(client):
    paths = client.get("/api/openapi.json").json()["paths"]
    for name, calculation in CALCULATIONS.items():
        body = paths[f"/api/calc/{name}"]["post"]["requestBody"]["content"]["application/json"]
        assert body["examples"]["example"]["value"] == calculation.example
    listed = {row["name"] for row in client.get("/api/calc").json()}
    assert listed == set(CALCULATIONS)


def test_every_field_name_carries_its_unit():
    plain = {
        "standard",
        "boosted",
        "air",
        "stock",
        "other",
        "tapping",
        "reynolds_number",
        "runner_count",
        "same_session",
    }
    marks = ("_c", "_kpa", "_percent", "_mm", "_inh2o", "_cfm", "_rpm", "_n_m")
    for calculation in CALCULATIONS.values():
        for field in calculation.given.model_fields:
            assert field in plain or field.endswith(marks), f"{calculation.name}: {field}"


def test_the_command_line_gives_what_http_gives(client):
    example = CALCULATIONS["compare-pulls"].example
    done = command("compare-pulls", given=json.dumps(example))
    assert json.loads(done.stdout) == client.post("/api/calc/compare-pulls", json=example).json()


def test_the_list_names_all():
    done = command("--list")
    assert all(name in done.stdout for name in CALCULATIONS)


@pytest.mark.parametrize(
    ("name", "given", "words"),
    [
        ("nonsense", "{}", "no calculation 'nonsense'"),
        ("gain", "not json", "no JSON"),
        ("flow-at-depression", '{"flow_cfm": 180, "measured_inh2o": 0}', "measured depression is 0"),
        ("flow-at-depression", '{"flow_cfm": 180}', "measured_inh2o"),
        ("moist-air", '{"temperature_c": 20, "pressure_kpa": 101, "humidty_percent": 5}', "humidty_percent"),
    ],
)
def test_wrong_input_is_answered_on_the_command_line(name, given, words):
    done = command(name, given=given)
    assert done.returncode == 1
    assert words in done.stderr


def test_wrong_input_is_a_problem_over_http(client):
    answer = client.post("/api/calc/flow-at-depression", json={"flow_cfm": -1, "measured_inh2o": 25})
    assert answer.status_code == 422
    assert answer.json()["path"] == "flow"
