"""Plain fields: read with their unit by the one parser, refused in place with the old value kept, kept as typed."""

import pytest

from tests.shop import new_id

REFUSED = [
    ({"price": "950 stone"}, "price"),
    ({"price": "950 USD"}, "price"),
    ({"mass_kg": "six"}, "mass_kg"),
    ({"lead_days": "5.5"}, "lead_days"),
    ({"features": {"height_mm": "10.5 x"}}, "features.height_mm"),
    ({"features": {"boost_kpa": "15 furlong"}}, "features.boost_kpa"),
    ({"features": {"inlet": {"bolt_count": "4, M6"}}}, "features.inlet.bolt_count"),
    ({"features": {"sections": [{"length_mm": "120", "across_mm": ""}]}}, "features.sections.0.across_mm"),
    ({"advertised": {"bore_mm": "12,34.5"}}, "advertised.bore_mm"),
]


@pytest.fixture
def part(shop):
    identifier = new_id()
    body = {"person_id": shop.person, "job_id": None, "kind": "tube", "name": "Tube", "state_id": new_id()}
    shop.kept(shop.put(f"/parts/{identifier}", body))
    return identifier


def edited(shop, part, change):
    sheet = shop.get(f"/parts/{part}")
    body = {"version": sheet["version"], "name": sheet["name"], **change}
    return shop.client.patch(f"/api/parts/{part}", json=body)


class TestOfAPart:
    def test_text_with_units_is_read_and_kept_as_it_was_typed(self, shop, part):
        said = {
            "price": "950 EUR", "mass_kg": "2 lb", "lead_days": "2 weeks",
            "advertised": {"bore_mm": "4.000 in", "flow_cfm": "1200 m³/h"},
            "features": {"height_mm": "10.5 in", "boost_kpa": "15 psi", "heat_limit_c": "250 °F"},
        }  # fmt: skip
        shop.kept(edited(shop, part, said))
        sheet = shop.get(f"/parts/{part}")
        assert (sheet["price"], sheet["lead_days"]) == (950, 14)
        assert sheet["mass_kg"] == pytest.approx(0.907185, abs=1e-6)
        assert sheet["advertised"]["bore_mm"] == pytest.approx(101.6)
        assert sheet["advertised"]["flow_cfm"] == pytest.approx(706.293, abs=1e-3)
        assert sheet["features"]["height_mm"] == pytest.approx(266.7)
        assert sheet["features"]["boost_kpa"] == pytest.approx(103.421, abs=1e-3)
        assert sheet["features"]["heat_limit_c"] == pytest.approx(121.11, abs=0.01)
        assert sheet["typed"]["advertised.bore_mm"] == "4.000 in"
        assert sheet["typed"]["price"] == "950 EUR"

    @pytest.mark.parametrize(("change", "path"), REFUSED)
    def test_what_can_not_be_read_is_refused_by_its_place_and_the_old_value_stands(self, shop, part, change, path):
        shop.kept(edited(shop, part, {"price": "900", "features": {"height_mm": "270"}}))
        refused = edited(shop, part, change)
        assert (refused.status_code, refused.json()["path"]) == (422, path), refused.text
        sheet = shop.get(f"/parts/{part}")
        assert (sheet["price"], sheet["features"]["height_mm"]) == (900, 270)

    def test_numbers_of_a_program_are_numbers(self, shop, part):
        shop.kept(edited(shop, part, {"price": 950.5, "lead_days": 3}))
        sheet = shop.get(f"/parts/{part}")
        assert (sheet["price"], sheet["lead_days"], sheet["typed"]) == (950.5, 3, {})


def test_of_a_job_its_engine_and_its_set_up(shop):
    engine = {"name": "five", "bore_mm": "3.27 in", "stroke_mm": "90", "limit_rpm": "7600 rpm", "boost_kpa": "10 psi",
              "injector_cc_min": "550 cc/min", "rail_kpa": "3 bar"}  # fmt: skip
    job = shop.job(kind="whole_job", engine=engine, budget="1.250,50 €", band_low_rpm="3000", band_high_rpm="7000 rpm")
    sheet = shop.get(f"/jobs/{job}/checkin")
    assert sheet["budget"] == 1250.5
    assert sheet["engine"]["engine"]["bore_mm"] == pytest.approx(83.058)
    assert sheet["engine"]["engine"]["rail_kpa"] == pytest.approx(300)
    assert sheet["engine"]["typed"]["bore_mm"] == "3.27 in"
    assert sheet["typed"]["budget"] == "1.250,50 €"
    shop.setup(job, entry_radius_mm="3/8 in", air_temperature_c="68 °F", air_pressure_kpa="29.92 inHg")
    setup = shop.sheet(job)["setup"]
    assert setup["items"]["entry_radius_mm"] == pytest.approx(9.525)
    assert setup["air_temperature_c"] == pytest.approx(20, abs=1e-6)
    assert setup["air_pressure_kpa"] == pytest.approx(101.32, abs=0.01)
    assert setup["typed"]["entry_radius_mm"] == "3/8 in"


def test_the_shops_own_limits_and_a_bench(shop):
    view = shop.get("/settings/path")
    change = {"version": view["version"], "settings": {**view["settings"], "plenum_drop_kpa": "10 mbar"}}
    kept = shop.kept(shop.client.patch("/api/settings/path", json=change))
    assert (kept["settings"]["plenum_drop_kpa"], kept["typed"]["plenum_drop_kpa"]) == (pytest.approx(1.0), "10 mbar")
    change = {"version": kept["version"], "settings": {**kept["settings"], "hourly_rate": "sixty"}}
    refused = shop.client.patch("/api/settings/path", json=change)
    assert (refused.status_code, refused.json()["path"]) == (422, "settings.hourly_rate")
    bench = {"name": f"B {new_id()[:8]}", "repeatability_percent": "0,4 %", "ranges": [
        {"full_scale_cfm": "250 cfm", "depression_inh2o": "7 kPa"}]}  # fmt: skip
    made = shop.kept(shop.put(f"/benches/{new_id()}", bench))
    assert made["repeatability_percent"] == 0.4
    assert made["ranges"][0]["depression_inh2o"] == pytest.approx(28.1, abs=0.05)
