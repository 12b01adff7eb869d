"""Taking in and cutting: what is made of little, in which order, and files that are kept once."""

import pytest
from sqlalchemy.orm import sessionmaker

from elvarn.exchange.paper import PaperError, flow_sheet_pdf
from elvarn.service.kernel.errors import Invalid, NotFound
from elvarn.service.kernel.files import LARGEST_FILE, FileStore
from tests.shop import new_id


def kinds(path):
    if path["type"] == "element":
        return [path["element"]["kind"]]
    return [kind for node in path["nodes"] for kind in kinds(node)]


def test_a_posted_part_is_a_plenum_and_its_runners(shop):
    (build,) = shop.builds(shop.job(runners=3))
    assert kinds(build["path"]) == ["plenum", "runner", "runner", "runner"]
    assert (build["name"], build["is_stock"]) == ("as received", False)


def test_a_whole_job_starts_with_the_usual_path_and_is_stock(shop):
    (build,) = shop.builds(shop.job(kind="whole_job", runners=2))
    assert kinds(build["path"]) == ["filter", "tube", "meter", "throttle", "plenum", "runner", "runner"]
    assert (build["name"], build["is_stock"]) == ("stock", True)


def test_two_banks_are_numbered_bank_by_bank(shop):
    engine = {"name": "Invented eight", "layout": "vee", "bank_count": 2}
    job = shop.job(kind="whole_job", runners=8, engine=engine)
    assert [rung["bank"] for rung in shop.sheet(job)["rungs"]] == [1, 1, 1, 1, 2, 2, 2, 2]


def test_more_banks_than_cylinders_are_refused(shop):
    engine = {"name": "Odd", "layout": "vee", "bank_count": 3}
    body = {"person_id": shop.person, "kind": "whole_job", "part": "M", "runner_count": 2, "engine": engine}
    assert shop.put(f"/jobs/{new_id()}", body).json()["path"] == "engine.bank_count"


def test_cuts_follow_each_other_and_names_stay_apart(shop):
    job = shop.job()
    first, second, again = shop.cut(job, 1), shop.cut(job, 2), shop.cut(job, 2)
    states = shop.get(f"/jobs/{job}")["parts"][0]["states"]
    assert [state["id"] for state in states[1:]] == [first, second, again]
    names = [build["name"] for build in shop.builds(job)]
    assert len(set(names)) == len(names) == 4


def test_the_sheet_compares_the_first_state_with_the_last(shop):
    job = shop.job(runners=1)
    setup, came = shop.setup(job), shop.sheet(job)["before_state_id"]
    shop.series(job, setup, came, [200])
    for stage, figure in ((1, 205), (2, 214)):
        shop.series(job, setup, shop.cut(job, stage), [figure])
    assert shop.sheet(job)["rungs"][0]["gain"]["gain"]["text"] == "+14.0"


@pytest.mark.parametrize("stage", [-1, 4])
def test_a_stage_that_is_none_is_refused(shop, stage):
    body = {"person_id": shop.person, "part_id": shop.sheet(shop.job())["part_id"], "stage": stage}
    assert shop.put(f"/states/{new_id()}", body).json()["path"] == "stage"


def test_a_person_or_part_that_is_not_there_is_told(shop):
    body = {"person_id": new_id(), "kind": "port_by_post", "part": "M", "runner_count": 2}
    assert shop.put(f"/jobs/{new_id()}", body).status_code == 404
    body = {"person_id": shop.person, "part_id": new_id(), "stage": 1}
    assert shop.put(f"/states/{new_id()}", body).status_code == 404


def test_the_story_is_told_day_by_day(shop):
    job = shop.job(received_on="2026-02-27")
    setup, state = shop.setup(job), shop.sheet(job)["before_state_id"]
    shop.series(job, setup, state, [200, 201, 199])
    told = [(event["day"], event["words"]) for event in shop.get(f"/jobs/{job}")["story"]]
    assert told == [("2026-02-27", "came in"), ("2026-03-02", "flowed 3 runners before cutting")]


def test_whole_elements_carry_their_flow_on_the_air_path(shop):
    job = shop.job(kind="whole_job", runners=2)
    setup, state = shop.setup(job), new_id()
    build = shop.builds(job)[0]
    part = {"person_id": shop.person, "job_id": job, "kind": "throttle", "name": "Throttle", "state_id": state}
    shop.kept(shop.put(f"/parts/{new_id()}", part))
    node = next(n["element"] for n in build["path"]["nodes"] if n["element"] and n["element"]["kind"] == "throttle")
    mounting = {"version": build["version"], "node_id": node["node_id"], "part_state_id": state}
    shop.kept(shop.client.patch(f"/api/builds/{build['id']}", json=mounting))
    flow = {"person_id": shop.person, "job_id": job, "setup_id": setup, "part_state_id": state,
            "element_kind": "throttle", "typed": "471", "taken_at": "2026-03-02T11:00:00Z"}  # fmt: skip
    shop.kept(shop.put(f"/element-flow-readings/{new_id()}", flow))
    drawn = next(n["element"] for n in shop.builds(job)[0]["path"]["nodes"] if n["element"] and n["element"]["flow"])
    assert (drawn["kind"], drawn["flow"]["text"]) == ("throttle", "471.0")


def test_a_file_is_kept_once_by_its_content(engine, tmp_path):
    store = FileStore(tmp_path)
    with sessionmaker(engine).begin() as session:
        first = store.keep(session, "a.csv", b"rpm,Nm\n")
        assert store.keep(session, "b.csv", b"rpm,Nm\n") == first
        assert store.read(first) == b"rpm,Nm\n"
        assert len([path for path in tmp_path.rglob("*") if path.is_file()]) == 1
        for name, content, words in (("empty.csv", b"", "is empty"), ("huge.csv", b"x" * (LARGEST_FILE + 1), "20 MB")):
            with pytest.raises(Invalid, match=words):
                store.keep(session, name, content)
    for digest in ("0" * 64, "../../etc/passwd"):
        with pytest.raises(NotFound):
            store.read(digest)


def test_paper_in_a_wrong_font_is_refused(tmp_path, client, shop):
    sheet = shop.get(f"/jobs/{shop.job()}/sheet")
    with pytest.raises(PaperError, match="unknown font family"):
        flow_sheet_pdf({**sheet, "version": "0", "said": [], "dyno_said": []}, tmp_path)
