"""The sheet on paper: one page, the figures on it, in our own fonts."""

import io

import pytest
from pypdf import PdfReader

from tests.shop import new_id


@pytest.fixture
def flowed(shop):
    job = shop.job(customer="Boatyard Sandøra")
    setup, state = shop.setup(job, entry_radius="clay"), shop.sheet(job)["before_state_id"]
    shop.series(job, setup, state, [201.6, 199.1, 191.4, 203.0, 198.7])
    shop.series(job, setup, shop.cut(job), [215.2, 213.0, 205.3, 214.1, 212.0])
    return job


def pdf(client, job, units="trade"):
    answer = client.get(f"/api/jobs/{job}/sheet.pdf", params={"units": units})
    assert answer.status_code == 200, answer.text
    return PdfReader(io.BytesIO(answer.content))


def test_the_flow_sheet_is_one_page_with_its_figures(client, flowed):
    pages = pdf(client, flowed).pages
    words = pages[0].extract_text()
    assert len(pages) == 1
    for wanted in (
        "Manifold",
        "Sandøra",
        "CFM at 28 inH",
        "215.2",
        "+13.6",
        "clay radius",
        "supports a qualified person",
    ):
        assert wanted in words


def test_sixteen_runners_still_fit_the_page(client, shop):
    job = shop.job(runners=16)
    shop.series(job, shop.setup(job), shop.sheet(job)["before_state_id"], [200.0] * 16)
    assert len(pdf(client, job).pages) == 1


def test_the_fonts_are_ours_and_embedded(client, flowed):
    fonts = {
        str(font.get_object()["/BaseFont"])
        for font in pdf(client, flowed).pages[0]["/Resources"]["/Font"].get_object().values()
    }
    assert fonts
    assert all("+Barlow" in font or "+SplineSansMono" in font for font in fonts)


def test_the_sheet_speaks_the_chosen_units(client, flowed):
    assert "365.6" in pdf(client, flowed, "metric").pages[0].extract_text()


def test_a_job_without_figures_prints_an_empty_sheet(client, shop):
    assert len(pdf(client, shop.job()).pages) == 1


class TestHandedOver:
    """A sheet that went out keeps what it said, whatever the bench learns later."""

    def closed(self, client, shop, job, closed=True):
        version = shop.get(f"/jobs/{job}")["version"]
        body = {"version": version, "closed": closed, "person_id": shop.person}
        return shop.kept(client.post(f"/api/jobs/{job}/closing", json=body))

    def test_it_stays_as_it_was_when_its_basis_moves(self, client, shop):
        job = shop.job(2)
        bench = new_id()
        shop.kept(shop.put(f"/benches/{bench}", {"name": f"Bench {bench[:6]}"}))
        setup, state = shop.setup(job, bench_id=bench), shop.sheet(job)["before_state_id"]
        shop.series(job, setup, state, (200, 201))
        shop.series(job, setup, shop.cut(job), (215, 216))
        out = client.get(f"/api/jobs/{job}/sheet").json()
        self.closed(client, shop, job)
        (handed,) = client.get(f"/api/jobs/{job}/sheet").json()["handed"]
        assert (handed["said"], handed["person"]) == ([], f"Tester {shop.person[:4]}")
        page = client.get(f"/api/jobs/{job}/handed/{handed['id']}.pdf").content
        change = {
            "version": 1,
            "name": f"Bench {bench[:6]}",
            "repeatability_percent": "3",
            "session_shift_percent": None,
        }
        shop.kept(client.patch(f"/api/benches/{bench}", json=change))
        later = client.get(f"/api/jobs/{job}/sheet").json()
        assert later["headlines"] != out["headlines"]
        told = f"{out['headlines'][0]['figure']} {out['headlines'][0]['words']}"
        assert later["handed"][0]["said"] == [told]
        metric = client.get(f"/api/jobs/{job}/sheet", params={"units": "metric"}).json()
        assert metric["handed"][0]["said"] == []
        assert client.get(f"/api/jobs/{job}/handed/{handed['id']}.pdf").content == page
        assert out["headlines"][0]["words"].split(", ±")[1] in PdfReader(io.BytesIO(page)).pages[0].extract_text()

    def test_every_time_it_goes_out_is_kept(self, client, shop):
        job = shop.job()
        for closed in (True, False, True):
            self.closed(client, shop, job, closed)
        handed = client.get(f"/api/jobs/{job}/sheet").json()["handed"]
        assert len(handed) == 2
        assert handed[0]["on"] > handed[1]["on"]

    def test_a_sheet_is_of_its_own_job_and_a_stranger_hands_nothing_over(self, client, shop):
        job, other = shop.job(), shop.job()
        self.closed(client, shop, job)
        sheet = client.get(f"/api/jobs/{job}/sheet").json()["handed"][0]["id"]
        assert client.get(f"/api/jobs/{other}/handed/{sheet}.pdf").status_code == 404
        version = shop.get(f"/jobs/{other}")["version"]
        body = {"version": version, "closed": True, "person_id": new_id()}
        assert client.post(f"/api/jobs/{other}/closing", json=body).status_code == 404
        assert client.get(f"/api/jobs/{other}/sheet").json()["closed"] is False


def settings_with(client, **more):
    view = client.get("/api/settings/path").json()
    change = {"version": view["version"], "settings": {**view["settings"], **more}}
    assert client.patch("/api/settings/path", json=change).status_code == 200


class TestPaper:
    def test_shop_headline_half_widths_and_refits(self, client, shop):
        settings_with(client, shop_name="Fjordgate Flow", shop_address="Quay 3")
        job = shop.job(2)
        setup, state = shop.setup(job), shop.sheet(job)["before_state_id"]
        shop.series(job, setup, state, (200, 201))
        shop.kept(shop.flow(job, setup, state, 1, "200.6", accepted=["already_read"]))
        shop.series(job, setup, shop.cut(job), (215, 216))
        sheet = client.get(f"/api/jobs/{job}/sheet").json()
        assert (sheet["shop"], sheet["headlines"][0]["figure"]) == ("Fjordgate Flow", "+14.9 CFM")
        assert "average over 2 of 2 runners (+7.4 %), clear" in sheet["headlines"][0]["words"]
        assert [row["refits"] for row in sheet["rows"]] == ["2 / 1", "1 / 1"]
        assert all(row["half_width"].startswith("±") for row in sheet["rows"])
        words = pdf(client, job).pages[0].extract_text()
        for wanted in ("Fjordgate Flow", "Quay 3", "+14.9 CFM", "2 / 1", "the same before and after"):
            assert wanted in words

    def test_unlike_set_ups_lead_and_both_stand_side_by_side(self, client, shop):
        job = shop.job(2)
        shop.series(job, shop.setup(job), shop.sheet(job)["before_state_id"], (200, 201))
        shop.series(job, shop.setup(job, entry_radius="clay"), shop.cut(job), (215, 216))
        sheet = client.get(f"/api/jobs/{job}/sheet").json()
        assert sheet["headlines"] == [{"figure": "", "words": "Flow not comparable: entry radius"}]
        assert [row for row in sheet["setup"] if row["differs"]] == [
            {"name": "Entry radius", "before": "no radius", "after": "clay radius", "differs": True}
        ]
        words = pdf(client, job).pages[0].extract_text()
        assert "not comparable: entry radius" in words
        assert "lear gain" not in words

    def test_gains_that_depend_on_the_set_up_have_no_joint_figure(self, client, shop):
        """Bare and with clay on both sides: bare gains nothing, with clay 8 %."""
        job = shop.job(3)
        state = shop.sheet(job)["before_state_id"]
        bare, clay = shop.setup(job), shop.setup(job, entry_radius="clay")
        shop.series(job, bare, state, (200, 201, 202))
        shop.series(job, clay, state, (206, 207, 208), accepted=["already_read"])
        after = shop.cut(job)
        shop.series(job, bare, after, (200.4, 201.4, 202.2))
        shop.series(job, clay, after, (222, 224, 225), accepted=["already_read"])
        bench = shop.sheet(job)
        words = "gain depends on entry radius: no joint figure"
        assert (bench["mean"]["gain"], bench["mean"]["unlike"]) == (None, words)
        on_rungs = (None, "gain depends on entry radius")
        assert [(rung["gain"], rung["unlike"]) for rung in bench["rungs"]] == [on_rungs] * 3
        said = "".join(piece["text"] for piece in bench["margin"][0]["pieces"])
        assert said.startswith("Gain depends on entry radius: no radius +0.2 % ±")
        assert "; clay radius +8.1 % ±" in said
        columns = client.get("/api/board").json()["columns"]
        assert [card["unlike"] for column in columns for card in column["jobs"] if card["id"] == job] == [words]
        sheet = client.get(f"/api/jobs/{job}/sheet").json()
        assert sheet["headlines"] == [{"figure": "", "words": f"Flow {words}"}]

    def test_what_is_the_shops_alone_and_empty_rungs_do_not_print(self, client, shop):
        job = shop.job(5)
        setup, state = shop.setup(job), shop.sheet(job)["before_state_id"]
        shop.series(job, setup, state, (200, 190, 201))
        sheet = client.get(f"/api/jobs/{job}/sheet").json()
        assert [row["runner"] for row in sheet["rows"]] == ["1", "2", "3"]
        words = pdf(client, job).pages[0].extract_text()
        for shops in ("Refit a runner", "For 1 %", "Read runner", "Press", "reference plate"):
            assert shops not in words

    def test_several_designs_are_a_table_and_one_plate(self, client, shop):
        job = shop.job(5, kind="whole_job")
        stock = shop.builds(job)[0]["id"]
        designs = {}
        for name in ("long & thin", "short"):
            designs[name] = new_id()
            body = {"person_id": shop.person, "copy_of": stock, "name": name}
            shop.kept(shop.put(f"/build-copies/{designs[name]}", body))

        def pull(build, factor):
            rows = [f"{rpm};{factor * (200 + rpm / 100):.1f}" for rpm in range(2000, 7001, 100)]
            return shop.pull(job, build, "\n".join(["rpm;torque [Nm]", *rows]).encode())

        for build, factor in ((stock, 1.0), (designs["long & thin"], 1.02), (designs["short"], 1.06)):
            shop.kept(pull(build, factor))
        sheet = client.get(f"/api/jobs/{job}/sheet").json()
        assert [row["name"] for row in sheet["designs"]] == [shop.builds(job)[0]["name"], "long & thin", "short"]
        assert [row["percent"] for row in sheet["designs"]] == ["", "+2.0 %", "+6.0 %"]
        assert sheet["designs"][0]["gain"] == ""
        assert all(row["peak"].endswith(" at 7000") for row in sheet["designs"])
        assert "short: clear for circuit, engine hp, average over" in sheet["headlines"][-1]["words"]
        assert sheet["plate"].count("<polyline") == 5
        assert "long &amp; thin" in sheet["plate"]
        words = pdf(client, job).pages[0].extract_text()
        assert "Design" in words
        assert "+6.0 %" in words

    def test_banks_have_their_averages(self, client, shop):
        engine = {"name": "vee", "layout": "vee", "bank_count": 2, "bore_mm": "90", "stroke_mm": "80"}
        job = shop.job(4, kind="whole_job", engine=engine)
        setup, state = shop.setup(job), shop.sheet(job)["before_state_id"]
        shop.series(job, setup, state, (200, 210, 202, 212))
        shop.series(job, setup, shop.cut(job), (215, 225, 217, 227))
        banks = shop.sheet(job)["banks"]
        assert [bank["bank"] for bank in banks] == [1, 2]
        assert [bank["gain"]["gain"]["text"] for bank in banks] == ["+15.0", "+15.0"]
        means = client.get(f"/api/jobs/{job}/sheet").json()["means"]
        assert [row["runner"] for row in means] == ["Bank 1", "Bank 2", "Average"]

    def test_what_was_modified_before_it_came_is_told(self, client, shop):
        job = shop.job(1)
        item = {"person_id": shop.person, "job_id": job, "words": "Runner 2", "condition": "worked_on"}
        shop.kept(shop.put(f"/items/{new_id()}", item))
        said = client.get(f"/api/jobs/{job}/sheet").json()["said"]
        assert any("Modified before it came in: Runner 2." in one["paper"] for one in said)
