"""Swaps over the API: the plan that two builds make, ticked in its order, refused where it can hurt, kept while builds
change; of an inline five, of a two-bank eight, and of a job that is only fitting."""

import pytest

from tests.api.test_builds import ENGINES, build_body
from tests.shop import new_id

AT = "2026-03-03T10:00:00Z"
HOMES = [{"purpose": "pressure sensor", "bore_mm": 12.7}, {"purpose": "injector", "bore_mm": 13.8}]
OPPOSED = {"purpose": "throttle position", "connector": "six-way", "signal": "two tracks, opposed"}
AROUND = {"ports": ["brake servo", "purge", "breather"], "brakes": "vacuum", "homes": HOMES, "plugs": [OPPOSED]}
HAS_ALL = {"ports": ["brake servo", "purge", "breather"], "plugs": [], "homes": HOMES}


class Swap:
    """A job with a swap of its stock manifold for another of these features."""

    def __init__(self, shop, features=None, family="", runners=5, around=AROUND, **job):
        self.shop, self.id = shop, new_id()
        self.job = shop.job(runners, "whole_job", surroundings=around, **job)
        self.stock = shop.builds(self.job)[0]["id"]
        self.on = self.built("new manifold", "plenum", features)
        self.begin(family)

    def built(self, name, kind, features=None):
        state = self.shop.part("manifold" if kind == "plenum" else kind, name)
        if features is not None:
            self.featured(state, features)
        return self.shop.varied(self.job, self.stock, kind, state, name)

    def featured(self, state, features):
        card = next(card for card in self.shop.cards() if card["state_id"] == state)
        part = self.shop.get(f"/parts/{card['id']}")
        body = {"version": part["version"], "name": part["name"], "features": features}
        self.shop.kept(self.shop.client.patch(f"/api/parts/{card['id']}", json=body))

    def begin(self, family=""):
        body = {"person_id": self.shop.person, "job_id": self.job, "off_build_id": self.stock, "on_build_id": self.on,
                "family": family}  # fmt: skip
        self.shop.kept(self.shop.put(f"/fit-plans/{self.id}", body))

    @property
    def sheet(self):
        return self.shop.get(f"/jobs/{self.job}/swap")["swap"]

    def strand(self, off):
        return next(one for one in self.sheet["strands"] if one["off"] == off)

    def plan(self, **change):
        sheet = self.sheet
        names = ("family", "mock_up", "seal", "said", "extras", "steps", "in_the_way", "renewals")
        kept = {name: sheet[name] for name in names}
        kept["kit"] = {one["words"]: one["counted"] for one in sheet["kit"] if one["counted"] is not None}
        kept["schools"] = {one["code"]: one["taken"] for one in sheet["schools"]}
        return {**kept, **change}

    def say(self, *, more=None, **change):
        body = {"version": self.sheet["version"], "person_id": self.shop.person, "plan": self.plan(**change),
                **(more or {})}  # fmt: skip
        return self.shop.client.patch(f"/api/fit-plans/{self.id}", json=body)

    def task(self, key):
        return next(one for one in self.sheet["tasks"] if one["key"] == key)

    def tick(self, key, **more):
        task = self.task(key)
        body = {"version": task["version"], "person_id": self.shop.person, "at": AT, "state": "done", **more}
        return self.shop.client.patch(f"/api/fit-tasks/{task['id']}", json=body)

    def decide(self):
        """Everything that nobody noted is there."""
        said = {one["key"]: {"verb": "transfer", "how": ""} for one in self.sheet["strands"] if one["question"]}
        self.shop.kept(self.say(said={**self.sheet["said"], **said}))

    def count(self):
        self.shop.kept(self.say(kit={one["words"]: one["wanted"] for one in self.sheet["kit"]}))

    def through(self, until=None):
        """Every task in its order, up to one."""
        for task in self.sheet["tasks"]:
            if task["key"] == until:
                return
            if task["state"] != "done":
                asked = {"its bore": "12.72 mm", "idle": "820 rpm"}.get(task["asks"], "")
                self.shop.kept(self.tick(task["key"], reading=asked))


def words(sentences):
    return " ".join("".join(piece["text"] for piece in one["pieces"]) for one in sentences)


@pytest.fixture
def swap(shop):
    return Swap(shop, HAS_ALL)


def test_each_interface_is_a_line_and_each_line_has_its_tasks(swap):
    strands = {one["off"]: one for one in swap.sheet["strands"]}
    assert strands["Manifold"]["goes_on"] == "new manifold"
    assert (strands["Manifold"]["verb"], strands["brake servo"]["verb"]) == ("new", "transfer")
    assert "Left off: the brakes lose their assistance." in strands["brake servo"]["facts"]
    assert strands["breather"]["facts"][0].startswith("At idle: from the crankcase into the manifold")
    assert "1 × flange gasket" in strands["Manifold"]["needs"]
    assert "5 × O-ring for the injector, bore 13.8 mm" in strands["injector"]["needs"]
    assert strands["brake servo"]["code"] == "V1"
    keys = [task["key"] for task in swap.sheet["tasks"]]
    assert {"off manifold brake servo", "on manifold brake servo", "bolts", "sweep", "servo", "sign off"} <= set(keys)
    assert swap.sheet["left_over"] == ["Manifold"]
    assert swap.sheet["now"] == keys[0] == "kit"


def test_what_the_new_one_lacks_is_tapped_reamed_or_asked(shop):
    lacks = {
        "ports": ["brake servo", "heater"],
        "plugs": [],
        "homes": [{"purpose": "pressure sensor", "bore_mm": 12.0}],
    }
    swap = Swap(shop, lacks)
    assert swap.strand("purge")["verb"] == "drill and tap"
    assert "1 × barb 1/8-27 NPT for the purge hose" in swap.strand("purge")["needs"]
    assert swap.strand("pressure sensor")["verb"] == "ream"
    assert any(one["goes_on"] == "heater place" and one["verb"] == "blank off" for one in swap.sheet["strands"])
    unknown = Swap(shop)
    assert unknown.strand("purge")["verb"] == "find out"
    assert "Not decided" in words(unknown.sheet["margin"])
    assert unknown.tick("find manifold purge").status_code == 422
    unknown.shop.kept(unknown.say(said={"manifold purge": {"verb": "blank off", "how": "race only"}}))
    assert unknown.strand("purge")["how"] == "race only"
    assert "check the local code" in words(unknown.sheet["margin"])


def test_a_reamed_boss_is_measured_and_the_reading_kept(shop):
    swap = Swap(shop, {**HAS_ALL, "homes": [{"purpose": "pressure sensor", "bore_mm": 12.0}]})
    swap.decide()
    swap.count()
    swap.through("do manifold pressure sensor")
    assert "Enter its bore" in swap.tick("do manifold pressure sensor").json()["detail"]
    wide = swap.tick("do manifold pressure sensor", reading="12.90 mm")
    assert "12.70 to 12.75 mm is right" in wide.json()["detail"]
    assert not swap.task("do manifold pressure sensor")["readings"]
    kept = swap.tick(
        "do manifold pressure sensor", reading="12.90 mm", accepted=wide.json()["offers"][0]["patch"]["accepted"]
    )
    swap.shop.kept(kept)
    swap.shop.kept(swap.tick("do manifold pressure sensor", state="open"))
    swap.shop.kept(swap.tick("do manifold pressure sensor", reading="0.5004 in"))
    task = swap.task("do manifold pressure sensor")
    assert [one["typed"] for one in task["readings"]] == ["12.90 mm", "0.5004 in"]
    assert task["readings"][0]["at"].startswith("2026-03-03T10:00")
    assert task["doubts"] == []


def test_a_task_done_early_is_asked_about_with_what_comes_before(swap):
    answer = swap.tick("on manifold brake servo")
    assert answer.status_code == 422
    assert "Before it: " in answer.json()["detail"]
    task = swap.task("on manifold brake servo")
    assert "bolts" in task["waits"]
    swap.shop.kept(swap.tick("on manifold brake servo", **answer.json()["offers"][0]["patch"]))
    assert swap.task("on manifold brake servo")["doubts"][0].startswith("before: ")


def test_a_check_that_keeps_someone_from_being_hurt_is_not_made_too_early(swap):
    answer = swap.tick("sweep", accepted=["too_early"])
    assert answer.status_code == 422
    assert "Too early to be checked. Before it: " in answer.json()["detail"]
    assert answer.json()["offers"] == []


def test_a_code_that_comes_after_the_sign_off_is_said_at_the_hand_over(swap):
    swap.count()
    swap.through()
    assert swap.shop.get(f"/jobs/{swap.job}/sheet")["not_signed_off"] == ""
    put(swap, new_id(), code={"code": "P0171", "state": "back"})
    assert "Fault code P0171" in swap.shop.get(f"/jobs/{swap.job}/sheet")["not_signed_off"]


def test_a_short_kit_is_asked_about_before_anything_comes_off(swap):
    answer = swap.tick("kit")
    assert "Short of the kit" in answer.json()["detail"]
    swap.count()
    swap.shop.kept(swap.tick("kit"))
    kit = {one["words"]: one["wanted"] - 1 for one in swap.sheet["kit"]}
    swap.shop.kept(swap.say(kit=kit))
    assert "1 × flange gasket" in swap.tick("kit").json()["detail"]
    assert swap.say(kit={"flange gasket": -1}).json()["path"] == "plan.kit.flange gasket"


def test_it_is_neither_started_nor_signed_off_while_what_can_hurt_is_open(swap):
    swap.count()
    swap.through("sweep")
    start = swap.tick("start", accepted=["too_early"])
    assert start.status_code == 422
    assert "Not to be started" in start.json()["detail"]
    assert "offers" not in start.json() or not start.json()["offers"]
    sign = swap.tick("sign off", accepted=["too_early"])
    assert "Throttle sweeps fully" in sign.json()["detail"]
    assert "Brake servo: hose on" in sign.json()["detail"]
    swap.through()
    assert swap.sheet["signed_off"]
    assert swap.sheet["refused"] == []
    swap.shop.kept(swap.tick("sweep", state="open"))
    assert "taken back: Throttle sweeps fully" in swap.task("sign off")["doubts"][0]
    assert swap.sheet["signed_off"] == ""
    swap.through()
    rail = {one["word"]: one for one in swap.shop.get(f"/jobs/{swap.job}")["rail"]}
    assert (rail["fit"]["state"], rail["fit"]["status"]) == ("done", "signed off")


def test_what_is_mended_for_now_and_a_code_that_came_back_keep_sign_off_open(swap):
    swap.count()
    swap.through("sign off")
    note, code = new_id(), new_id()
    put(swap, note, broken={"words": "clip of V2", "for_now": True})
    put(swap, code, code={"code": "p0171", "state": "seen"})
    refused = swap.tick("sign off").json()["detail"]
    assert "mended for now only: clip of V2" in refused
    assert "fault code P0171" in refused
    again(swap, note, 1, broken={"words": "clip of V2", "for_now": True, "mended": True})
    again(swap, code, 1, code={"code": "P0171", "state": "gone"})
    swap.shop.kept(swap.tick("sign off"))


def test_a_vehicle_is_not_handed_over_unasked_while_its_swap_is_not_signed_off(swap):
    swap.count()
    shop, path = swap.shop, f"/jobs/{swap.job}"
    assert "not to be driven" in shop.get(f"{path}/sheet")["not_signed_off"]
    version = shop.get(path)["version"]
    answer = shop.post(f"{path}/closing", {"version": version, "closed": True})
    assert answer.status_code == 422
    assert "safety checks are open" in answer.json()["detail"]
    shop.kept(shop.post(f"{path}/closing", {"version": version, "closed": True, **answer.json()["offers"][0]["patch"]}))
    shop.kept(shop.post(f"{path}/closing", {"version": version + 1, "closed": False}))
    swap.through()
    assert shop.get(f"{path}/sheet")["not_signed_off"] == ""
    shop.kept(shop.post(f"{path}/closing", {"version": shop.get(path)["version"], "closed": True}))


def put(swap, identifier, **note):
    body = {"person_id": swap.shop.person, "job_id": swap.job, "note": note}
    swap.shop.kept(swap.shop.put(f"/fit-notes/{identifier}", body))


def again(swap, identifier, version, **note):
    answer = swap.shop.client.patch(f"/api/fit-notes/{identifier}", json={"version": version, "note": note})
    swap.shop.kept(answer)


def test_a_mock_up_is_not_to_be_started(swap):
    swap.shop.kept(swap.say(mock_up=True))
    assert "start" not in {task["key"] for task in swap.sheet["tasks"]}
    assert "Mock-up: not to be started." in words(swap.sheet["margin"])
    assert swap.sheet["refused"][0] == "it is a mock-up"
    swap.shop.kept(swap.say(mock_up=False))
    assert swap.sheet["tasks"][-1]["key"] == "sign off"


def test_builds_that_changed_are_told_and_what_is_done_stays_done(swap):
    swap.count()
    swap.through("faces")
    done = {task["key"] for task in swap.sheet["tasks"] if task["state"] == "done"}
    other = swap.built("another manifold", "plenum", {**HAS_ALL, "ports": ["brake servo"]})
    build = next(one for one in swap.shop.builds(swap.job) if one["id"] == swap.on)
    node = next(e["node_id"] for e in elements(build["path"]) if e["kind"] == "plenum")
    state = next(e for e in elements(next(b for b in swap.shop.builds(swap.job) if b["id"] == other)["path"])
                 if e["kind"] == "plenum")["part_state_id"]  # fmt: skip
    body = {"version": build["version"], "node_id": node, "part_state_id": state}
    swap.shop.kept(swap.shop.client.patch(f"/api/builds/{swap.on}", json=body))
    changes = swap.sheet["changes"]
    assert "Manifold: new manifold → another manifold" in changes
    assert any(one.startswith("purge: ") for one in changes)
    asked = swap.say(in_the_way=[{"words": "seat"}])
    assert asked.json()["offers"][0]["patch"] == {"take_over": True}
    swap.shop.kept(swap.say(more={"take_over": True}))
    assert swap.sheet["changes"] == []
    assert done <= {task["key"] for task in swap.sheet["tasks"] if task["state"] == "done"}
    assert "do manifold purge" in {task["key"] for task in swap.sheet["tasks"]}


def test_what_was_done_and_is_no_longer_asked_for_is_still_told(swap):
    swap.shop.kept(swap.say(in_the_way=[{"words": "seat"}]))
    swap.shop.kept(swap.tick("way off seat", accepted=["too_early"]))
    swap.shop.kept(swap.say(in_the_way=[]))
    assert swap.sheet["past"] == ["Seat off"]
    swap.shop.kept(swap.say(in_the_way=[{"words": "seat"}]))
    assert swap.task("way off seat")["state"] == "done"


def elements(node):
    return [node["element"]] if node.get("element") else [e for n in node["nodes"] for e in elements(n)]


def test_what_is_in_the_way_stands_open_until_it_is_back_and_is_remembered(shop):
    swap = Swap(shop, HAS_ALL, family="Test eight")
    way = [{"words": "seat", "bolts": "4 × M10", "minutes": 12}]
    worth = [{"words": "water pump", "price": 80, "taken": True}]
    own = [{"words": "unknown 1", "on": "manifold"}, {"words": "knock sensor bracket"}]
    swap.shop.kept(
        swap.say(in_the_way=way, renewals=worth, extras=own, steps=[{"title": "Paint mark", "phase": "tighten"}])
    )
    keys = [task["key"] for task in swap.sheet["tasks"]]
    assert keys.index("way off seat") < keys.index("off part manifold") < keys.index("way on seat")
    assert {"renew water pump", "own paint mark"} <= set(keys)
    assert swap.strand("unknown 1")["code"] == "U1"
    assert {"words": "water pump", "wanted": 1, "counted": None} in swap.sheet["kit"]
    families = shop.get("/engine-families")["families"]
    family = next(one for one in families if one["name"] == "Test eight")
    assert family["in_the_way"][0]["minutes"] == 12
    assert [one["words"] for one in family["interfaces"]] == ["knock sensor bracket"]
    another = Swap(shop, HAS_ALL, family="Test eight")
    assert another.sheet["in_the_way"][0]["words"] == "seat"
    assert another.strand("knock sensor bracket")["verb"] == "find out"
    assert not any(one["taken"] for one in another.sheet["renewals"])
    assert swap.say(in_the_way=[*way, {"words": "Seat"}]).json()["path"] == "plan.in_the_way"
    assert swap.say(steps=[{"title": " ", "phase": "close"}]).json()["path"] == "plan.steps"


def test_of_a_job_that_is_only_fitting_a_name_is_enough(shop):
    job = shop.job(6, "fit")
    plan = new_id()
    body = {"person_id": shop.person, "job_id": job, "on_name": "Tall manifold", "family": "Boat six"}
    shop.kept(shop.put(f"/fit-plans/{plan}", body))
    shop.kept(shop.put(f"/fit-plans/{plan}", body))  # sent twice, made once
    sheet = shop.get(f"/jobs/{job}/swap")
    assert (sheet["swap"]["off"], sheet["swap"]["on"]) == (shop.builds(job)[0]["name"], "Tall manifold")
    assert sheet["swap"]["strands"][-1]["verb"] == "new"
    assert "Find out what assists the brakes" in " ".join(task["title"] for task in sheet["swap"]["tasks"])
    assert shop.put(f"/fit-plans/{new_id()}", {**body, "on_name": " "}).json()["path"] == "on_name"
    assert shop.put(f"/fit-plans/{new_id()}", body).json()["path"] == "on_name"
    same = {"off_build_id": shop.builds(job)[0]["id"], "on_build_id": shop.builds(job)[0]["id"]}
    assert shop.put(f"/fit-plans/{new_id()}", {**body, **same}).json()["path"] == "on_build_id"


def test_a_two_bank_eight_has_a_gasket_a_bank_and_an_order_of_its_own(shop):
    swap = Swap(shop, HAS_ALL, runners=8)
    count, tree = ENGINES["two-bank eight on one plenum"]
    stock, on = new_id(), new_id()
    states = {name: shop.part(kind, name) for name, kind in (("V8 cast", "manifold"), ("V8 tall", "manifold"),
                                                             ("V8 throttle", "throttle"))}  # fmt: skip
    for build, manifold in ((stock, "V8 cast"), (on, "V8 tall")):
        shop.kept(shop.put(f"/builds/{build}", build_body(shop, swap.job, tree, count)))
        for kind, state in (("plenum", states[manifold]), ("throttle", states["V8 throttle"])):
            view = next(one for one in shop.builds(swap.job) if one["id"] == build)
            for place in [
                e for e in elements(view["path"]) if e["kind"] in (kind, "runner" if kind == "plenum" else kind)
            ]:
                view = next(one for one in shop.builds(swap.job) if one["id"] == build)
                body = {"version": view["version"], "node_id": place["node_id"], "part_state_id": state}
                shop.kept(shop.client.patch(f"/api/builds/{build}", json=body))
    plan = new_id()
    body = {"person_id": shop.person, "job_id": swap.job, "off_build_id": stock, "on_build_id": on}
    shop.kept(shop.put(f"/fit-plans/{plan}", body))
    strands = {one["off"]: one for one in shop.get(f"/jobs/{swap.job}/swap")["swap"]["strands"]}
    assert strands["V8 cast"]["goes_on"] == "V8 tall"
    assert "2 × flange gasket" in strands["V8 cast"]["needs"]
    assert strands["V8 throttle"]["verb"] == "transfer"


def test_the_labels_are_a_pdf_and_need_a_swap(swap):
    answer = swap.shop.client.get(f"/api/jobs/{swap.job}/labels.pdf")
    assert answer.content.startswith(b"%PDF")
    other = swap.shop.job()
    assert swap.shop.client.get(f"/api/jobs/{other}/labels.pdf").status_code == 404


def test_a_plan_put_away_makes_room_for_another(swap):
    swap.count()
    swap.shop.kept(swap.tick("kit"))
    body = {"version": swap.sheet["version"], "person_id": swap.shop.person}
    swap.shop.kept(swap.shop.client.patch(f"/api/fit-plans/{swap.id}/away", json=body))
    assert swap.sheet is None
    swap.id = new_id()
    swap.begin()
    assert swap.sheet["now"] == "kit"


def test_a_build_and_a_job_with_a_swap_are_not_taken_away(swap):
    view = next(one for one in swap.shop.builds(swap.job) if one["id"] == swap.on)
    answer = swap.shop.client.delete(f"/api/builds/{swap.on}", params={"version": view["version"]})
    assert answer.status_code == 422
    assert "1 swap rests on" in answer.json()["detail"]
    body = {"version": swap.sheet["version"], "person_id": swap.shop.person}
    swap.shop.kept(swap.shop.client.patch(f"/api/fit-plans/{swap.id}/away", json=body))
    version = swap.shop.get(f"/jobs/{swap.job}")["version"]
    assert swap.shop.client.delete(f"/api/jobs/{swap.job}", params={"version": version}).status_code == 204


def test_a_task_of_a_swap_is_not_ticked_on_another_list(swap):
    task = swap.task("kit")
    body = {"version": task["version"], "person_id": swap.shop.person, "at": AT, "state": "done"}
    assert "belongs to the swap sheet" in swap.shop.client.patch(f"/api/steps/{task['id']}", json=body).json()["detail"]


def test_stale_ticks_and_nonsense_are_refused_by_name(swap):
    task = swap.task("photos")
    body = {"person_id": swap.shop.person, "at": AT, "state": "done"}
    stale = swap.shop.client.patch(f"/api/fit-tasks/{task['id']}", json={**body, "version": 99})
    assert stale.status_code == 409
    assert swap.tick("photos", state="later").json()["path"] == "state"
    assert swap.tick("photos", minutes=-1).json()["path"] == "minutes"
    assert swap.tick("photos", reading="3 mm").json()["path"] == "reading"
    swap.shop.kept(swap.tick("photos", state="waiting", result="phone rang"))
    assert swap.task("photos")["result"] == "phone rang"
    assert swap.say(schools={"throttle": "sideways"}).json()["path"] == "plan.schools.throttle"
    assert swap.say(said={"manifold purge": {"verb": "find out"}}).json()["path"] == "plan.said.manifold purge"


def test_the_tuner_is_told_what_the_computer_can_not_know(shop):
    swap = Swap(shop, {**HAS_ALL, "ports": ["brake servo"]})
    swap.shop.kept(swap.say(said={"manifold purge": {"verb": "blank off", "how": ""}}))
    page = words(swap.sheet["tuner"])
    assert "Purge, blank off: tank vapours are no longer drawn in" in page
    assert "Plenum's volume: not measured on both." in page


def test_rings_are_put_in_with_what_suits_what_they_are_made_of(swap):
    assert "What they are made of is not noted" in words(swap.sheet["margin"])
    swap.shop.kept(swap.say(seal="silicone"))
    assert "O-rings of silicone, engine oil: silicone grease swells" in words(swap.sheet["margin"])
    assert swap.say(seal="cork").json()["path"] == "plan.seal"
