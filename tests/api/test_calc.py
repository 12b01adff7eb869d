"""The calculations by name, over HTTP and on the command line: the examples run, the documents name them."""

import json
from dataclasses import dataclass
from io import StringIO
from pathlib import Path

import pytest

from elvarn.host.cli import main
from elvarn.service.calc import CALCULATIONS

ROOT = Path(__file__).resolve().parents[2]


@dataclass
class Done:
    returncode: int
    stdout: str
    stderr: str


@pytest.fixture
def command(monkeypatch, capsys):
    """`./elvarn calc` in this process: what it ends with, and what it says."""

    def run(*arguments, given=""):
        monkeypatch.setattr("sys.argv", ["elvarn", "calc", *arguments])
        monkeypatch.setattr("sys.stdin", StringIO(given))
        code = 0
        try:
            main()
        except SystemExit as ended:
            code = ended.code
        return Done(code, *capsys.readouterr())

    return run


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
        "bends",
        "ribbed",
        "shape",
        "material",
        "holds",
        "clock",
        "thread",
        "into",
        "bolt_class",
        "lubrication",
        "face",
        "cylinders",
        "sections",
        "compression_ratio",
        "injectors",
        "fuel",
        "specific_gravity",
        "valves",
        "flow_coefficient",
        "air_fuel_ratio",
        "returns",
        "loss_coefficient",
        "samples",
        "pairs",
        "t",
        "degrees_of_freedom",
    }
    marks = ("_c", "_kpa", "_percent", "_mm", "_inh2o", "_cfm", "_rpm", "_n_m", "_cc", "_cc_min", "_kw", "_m", "_m_s")
    marks += ("_deg", "_g_kwh", "_ms", "_l", "_mm2")
    for calculation in CALCULATIONS.values():
        for field in calculation.given.model_fields:
            assert field in plain or field.endswith(marks), f"{calculation.name}: {field}"


def answer(client, name, **given):
    found = client.post(f"/api/calc/{name}", json={**CALCULATIONS[name].example, **given})
    assert found.status_code == 200, found.text
    return found.json()


def test_the_trades_example_of_a_pinch(client):
    """Common practice, no source: opening 1000, throttle 950, tube 650, filter 550: no more than 550."""
    found = answer(client, "series")
    assert (found["weakest"], found["at_most_cfm"]) == ("filter", 550)
    assert found["rule_of_thumb_cfm"] == pytest.approx(358.5, abs=0.1)
    assert found["rule_differs_percent"] == pytest.approx(100 * (358.5 / found["together_cfm"] - 1), abs=0.05)
    assert sum(found["shares_percent"].values()) == pytest.approx(100)
    assert set(found["wanted_cfm"]) == {"filter", "tube"}
    alone = answer(client, "back-solve")
    assert alone["rule_of_thumb_cfm"] == pytest.approx(287.4, abs=0.1)
    together = answer(client, "series", flows_cfm={"throttle": 990, "runner": alone["alone_cfm"]})
    assert together["together_cfm"] == pytest.approx(276, rel=1e-4)


def test_calculations_of_the_path_agree_with_their_sources(client):
    assert answer(client, "effective-area", flow_cfm=1)["effective_area_mm2"] == pytest.approx(4.556, abs=1e-3)
    tube = answer(client, "tube-flow")
    assert tube["flow_low_cfm"] < tube["flow_cfm"] < tube["flow_high_cfm"]
    assert answer(client, "tube-flow", ribbed=True)["flow_cfm"] < tube["flow_cfm"]
    assert answer(client, "air-demand", filling_percent=100)["air_cfm"] == pytest.approx(296.7, abs=0.2)
    tuned = answer(client, "runner-tuning")
    assert tuned["low_rpm"] < tuned["favoured_rpm"] < tuned["high_rpm"]
    duty = answer(client, "injector-duty", power_kw=400)
    assert (duty["judgement"], duty["duty_percent"] > 90) == ("stop", True)
    refused = client.post(
        "/api/calc/injector-duty", json={"flow_cc_min": 1, "power_kw": 1, "injectors": 1, "fuel": "x"}
    )
    assert (refused.status_code, refused.json()["path"]) == (422, "fuel")


def test_the_command_line_gives_what_http_gives(command, client):
    example = CALCULATIONS["compare-pulls"].example
    done = command("compare-pulls", given=json.dumps(example))
    assert json.loads(done.stdout) == client.post("/api/calc/compare-pulls", json=example).json()


def test_the_list_names_all(command):
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
def test_wrong_input_is_answered_on_the_command_line(command, name, given, words):
    done = command(name, given=given)
    assert done.returncode == 1
    assert words in done.stderr


def test_wrong_input_is_a_problem_over_http(client):
    answer = client.post("/api/calc/flow-at-depression", json={"flow_cfm": -1, "measured_inh2o": 25})
    assert answer.status_code == 422
    assert answer.json()["path"] == "flow"
