"""Outlines over the API: found in a scan, kept with a scale, laid on each other, and out as a template."""

from io import BytesIO

import numpy as np
import pytest
import shapely
from pypdf import PdfReader

from elvarn.core.port.outline import shape_outline
from elvarn.core.port.section import Oval, Round
from elvarn.rigs.flatbed import Cut, as_png, scan
from tests.api.test_port import AT, LATER, Porting, said
from tests.shop import new_id

DPI = 300
DOTS = DPI / 25.4
POINT = 72 / 25.4  # of a PDF, in a millimetre
RUNNER, HOLES = Oval(0.036, 0.042), ((-0.030, 0.022), (0.030, 0.022))


def mm(outline):
    return (outline.points * 1000).round(4).tolist()


def page(shape, at=(70, 60)):
    """A scan of one opening with its two bolt holes."""
    hole = shape_outline(Round(0.0085)).points * 1000
    cuts = [Cut(shape.points * 1000, *at)]
    cuts += [Cut(hole, at[0] + 1000 * x, at[1] - 1000 * y) for x, y in HOLES]
    return as_png(scan(cuts, 140, 130, DPI), DPI)


class Tracing(Porting):
    """A job with its part, and short ways to trace openings beside it."""

    def outline(self, of="runner", points=None, **more):
        where = {"cylinder": 3, "place": "310"} if of == "runner" else {}
        line = mm(shape_outline(RUNNER)) if points is None else points
        body = {"person_id": self.shop.person, "job_id": self.job, "part_state_id": self.state, "of": of,
                "points": line, "taken_at": AT, **where, **more}  # fmt: skip
        identifier = new_id()
        return identifier, self.shop.put(f"/outline-readings/{identifier}", body)

    def traced(self, *args, **more):
        identifier, answer = self.outline(*args, **more)
        self.shop.kept(answer)
        return identifier

    def outlines(self, units="trade"):
        return self.shop.get(f"/jobs/{self.job}/outlines", units=units)

    def picture(self, content):
        sent = self.shop.client.post("/api/pictures", params={"name": "scan.png"}, content=content)
        return self.shop.kept(sent)["digest"]

    def found(self, digest):
        return self.shop.kept(self.shop.client.post("/api/outlines/found", params={"digest": digest}))


@pytest.fixture
def tracing(shop):
    return Tracing(shop)


def ruler(x1, y1, x2, y2, typed):
    return {"first": [x1 * DOTS, y1 * DOTS], "second": [x2 * DOTS, y2 * DOTS], "typed": typed}


ACROSS, DOWN = ruler(10, 121, 110, 121, "100 mm"), ruler(1, 10, 1, 110, "10 cm")


class TestFromAScan:
    def test_a_scan_becomes_a_section_that_measures_true(self, tracing):
        digest = tracing.picture(page(shape_outline(RUNNER)))
        found = tracing.found(digest)
        assert (found["dpi"], found["width"], found["why"]) == (pytest.approx(DPI, abs=0.1), round(140 * DOTS), "")
        spot = shapely.Point(70 * DOTS, 60 * DOTS)
        [seen] = [one for one in found["openings"] if shapely.Polygon(one["points"]).contains(spot)]
        tracing.traced(points=seen["points"], picture={"digest": digest, "lengths": [ACROSS, DOWN]})
        [view] = tracing.outlines()["outlines"]
        assert view["area_mm2"] == pytest.approx(1e6 * RUNNER.area, rel=0.005)
        assert view["perimeter_mm"] == pytest.approx(1e3 * RUNNER.perimeter, rel=0.005)
        assert view["source"] == "picture"
        share = float(view["within"].strip("± %"))
        assert 0.05 < share < 1
        # and it is the section of its runner there
        cell = tracing.sheet()["runners"][2]["cells"][-1]
        assert cell["now_mm2"] == pytest.approx(view["area_mm2"], abs=0.05)
        assert (cell["place_mm"], cell["shape"], cell["sizes_mm"]) == (310.0, "traced", [])
        assert len(cell["outline_mm"]) > 50

    def test_a_picture_without_scale_gives_no_millimetre(self, tracing):
        digest = tracing.picture(page(shape_outline(RUNNER)))
        points = tracing.found(digest)["openings"][0]["points"]
        _, answer = tracing.outline(points=points, picture={"digest": digest})
        assert answer.status_code == 422
        assert "no scale. Mark two places and say how far they are apart" in answer.json()["detail"]

    def test_a_picture_from_aside_is_refused_with_the_way_out(self, tracing):
        digest = tracing.picture(page(shape_outline(RUNNER)))
        points = tracing.found(digest)["openings"][0]["points"]
        lengths = [ACROSS, ruler(1, 10, 1, 110, "96 mm")]
        _, answer = tracing.outline(points=points, picture={"digest": digest, "lengths": lengths})
        assert answer.status_code == 422
        assert "not taken straight from above" in answer.json()["detail"]
        assert "four corners" in answer.json()["detail"]

    def test_one_known_length_alone_is_told(self, tracing):
        digest = tracing.picture(page(shape_outline(RUNNER)))
        seen = tracing.found(digest)["openings"][0]["points"]
        tracing.traced(points=seen, picture={"digest": digest, "lengths": [ACROSS]})
        assert any("One known length alone" in one for one in said(tracing.outlines()))

    def test_what_a_hand_moved_is_as_good_as_the_hand(self, tracing):
        digest = tracing.picture(page(shape_outline(RUNNER)))
        seen = tracing.found(digest)["openings"][0]["points"]
        picture = {"digest": digest, "lengths": [ACROSS, DOWN], "tapped_within": 4}
        tracing.traced(of="gasket", points=seen, picture=picture)
        tracing.traced(of="gasket", points=seen, picture=picture, by_hand=True)
        found, moved = (float(one["within"].strip("± %")) for one in tracing.outlines()["outlines"])
        assert moved > found + 1

    def test_corners_that_lie_nowhere_are_refused(self, tracing):
        digest = tracing.picture(page(shape_outline(RUNNER)))
        corners = [[0, 0], [1e300, 0], [1e300, 1e300], [0, 1e300]]
        picture = {"digest": digest, "corners": corners, "width": "85.6", "height": "54"}
        assert tracing.outline(picture=picture)[1].status_code == 422

    def test_a_picture_that_was_never_sent_is_refused(self, tracing):
        _, answer = tracing.outline(picture={"digest": "0" * 64, "lengths": [ACROSS]})
        assert answer.status_code == 422
        assert "not kept here" in answer.json()["detail"]

    def test_an_empty_page_says_why_nothing_is_found(self, tracing):
        found = tracing.found(tracing.picture(as_png(scan([], 60, 60, 150), 150)))
        assert found["openings"] == []
        assert "No closed outline" in found["why"]


class TestBadInput:
    def test_an_outline_that_crosses_itself_is_refused_where_it_does(self, tracing):
        _, answer = tracing.outline(points=[[0, 0], [40, 20], [40, 0], [0, 20]])
        assert answer.status_code == 422
        assert "crosses itself, 20.0 mm across and 10.0 mm up" in answer.json()["detail"]

    def test_a_section_traced_smaller_after_a_cut_is_asked_about(self, tracing, shop):
        tracing.traced()
        smaller = mm(shape_outline(Oval(0.034, 0.040)))
        tracing.start()
        _, answer = tracing.outline(points=smaller, taken_at=LATER)
        assert answer.json()["code"] == "smaller"
        assert "Welded up" in [offer["label"] for offer in answer.json()["offers"]]
        shop.kept(tracing.outline(points=smaller, taken_at=LATER, accepted=["welded"])[1])
        assert tracing.sheet()["runners"][2]["cells"][-1]["marks"] == ["welded"]

    @pytest.mark.parametrize(
        ("more", "says"),
        [
            ({"of": "bonnet"}, "'bonnet' has no outline here"),
            ({"cylinder": None}, "Which runner is it of?"),
            ({"cylinder": 7}, "There is no runner 7"),
            ({"place": "3 m"}, "A station 3 m in can't be"),
            ({"source": "rumour"}, "no way to get an outline"),
            ({"seen_from": "below"}, "no side to look from"),
            ({"turn_deg": 4000}, "can't be turned"),
            ({"points": []}, "0 points are no outline"),
            ({"of": "gasket", "cylinder": 6}, "There is no runner 6: 1 to 5 can be"),
            ({"points": [[0, 0], [40, 0], [1e300, 30]]}, "lies in no picture"),
        ],
    )
    def test_what_can_not_be_is_refused_by_name(self, tracing, more, says):
        _, answer = tracing.outline(**more)
        assert answer.status_code == 422
        assert says in answer.json()["detail"]

    def test_a_gasket_in_inches_taken_for_millimetres_is_asked_about(self, tracing):
        small = (shape_outline(RUNNER).points * 1000 / 25.4).tolist()
        _, answer = tracing.outline(of="gasket", points=small)
        assert answer.json()["code"] == "unlikely"
        assert "Is the scale right?" in answer.json()["detail"]


class TestMeetings:
    def test_a_gasket_that_stands_in_the_stream_says_where_and_how_deep(self, tracing):
        runner = shape_outline(RUNNER)
        shifted = mm(runner.moved([-0.0006, 0]))
        marks = [[1000 * x, 1000 * y] for x, y in HOLES]
        tracing.traced(marks=marks)
        tracing.traced(of="gasket", points=shifted, marks=marks)
        sheet = tracing.outlines()
        [met] = sheet["meetings"]
        assert met["pair"]["title"] == "Gasket behind runner's exit, runner 3"
        assert (met["lip"]["value"], met["lip"]["unit"]) == (pytest.approx(0.6, abs=0.01), "mm")
        assert met["headline"] == "lip in the stream"
        assert met["place"].startswith("at 3 o'clock, ")
        assert met["centred"] is False
        assert min(met["clock_mm"]) == pytest.approx(-0.6, abs=0.01)
        assert any("The gasket of runner 3 stands 0.6 mm in the stream at 3 o'clock" in one for one in said(sheet))
        assert any("Open the gasket at 3 o'clock" in one for one in said(sheet))

    def test_without_bolt_holes_the_answer_says_that_it_is_centred(self, tracing):
        tracing.traced()
        tracing.traced(of="gasket", points=mm(shape_outline(Oval(0.034, 0.043))))
        [met] = tracing.outlines()["meetings"]
        assert met["headline"] == "lip in the stream, if centred"
        told = said(tracing.outlines())
        assert any("where they really sit is not known" in one for one in told)
        assert told[-1].startswith("Mark two bolt holes on both before the gasket is opened")

    def test_a_mistyped_scale_of_one_is_no_answer_that_there_is_no_lip(self, tracing):
        """The gasket's holes lie 2 % further apart: its scale is wrong, or they are other holes."""
        marks = [[1000 * x, 1000 * y] for x, y in HOLES]
        tracing.traced(marks=marks)
        tracing.traced(of="gasket", marks=[[1.02 * x, 1.02 * y] for x, y in marks])
        [met] = tracing.outlines()["meetings"]
        assert (met["headline"], met["lip"]) == ("not laid", None)
        assert "Mark the same two holes on both, and check both scales" in met["why"]

    def test_no_lip_says_down_to_what_and_centred_asks_for_holes(self, tracing):
        tracing.traced()
        tracing.traced(of="gasket")
        assert tracing.outlines()["meetings"][0]["headline"] == "no lip above 0.1 mm, if centred"
        told = said(tracing.outlines())
        assert told[0].startswith("No lip above 0.1 mm stands in the stream where")
        assert told[-1].startswith("Mark two bolt holes on both: centre on centre")

    def test_one_bolt_hole_against_two_is_not_laid(self, tracing):
        tracing.traced(marks=[[-30, 22], [30, 22]])
        tracing.traced(of="gasket", marks=[[-30, 22]])
        [met] = tracing.outlines()["meetings"]
        assert met["headline"] == "not laid"
        assert "Mark the same two bolt holes on both" in met["why"]

    def test_with_a_gasket_the_runner_does_not_meet_the_head(self, tracing):
        for of in ("runner", "gasket", "head"):
            tracing.traced(of=of)
        assert [one["pair"]["title"] for one in tracing.outlines()["meetings"]] == [
            "Gasket behind runner's exit, runner 3",
            *(f"Head's port behind gasket, runner {n}" for n in range(1, 6)),
        ]

    def test_a_throttle_is_laid_on_the_opening_once(self, tracing):
        tracing.traced(of="throttle", points=mm(shape_outline(Round(0.072))))
        tracing.traced(of="opening", points=mm(shape_outline(Round(0.070))))
        sheet = tracing.outlines()
        [met] = sheet["meetings"]
        assert met["pair"]["runner"] is None
        assert met["place"] == "all round"
        assert met["lip"]["value"] == pytest.approx(1.0, abs=0.01)
        assert any("It costs about 0.0" in one for one in said(sheet))
        assert any("all round. The throttle's bore is the larger one." in one for one in said(sheet))

    def test_a_short_runner_that_nobody_measured_ends_at_its_last_station(self, tracing, shop):
        shop.kept(tracing.plan(stations=["0", "60", "120"])[1])
        tracing.traced(place="120")
        tracing.traced(of="head", cylinder=3)
        [met] = tracing.outlines()["meetings"]
        assert met["pair"]["title"] == "Head's port behind runner's exit, runner 3"

    def test_what_was_seen_from_the_head_is_turned_over(self, tracing):
        """A flat on the left, seen from the head, is on the right from the entry."""
        flat = [[-15, -18], [15, -18], [20, -8], [20, 8], [15, 18], [-15, 18]]
        tracing.traced(of="head", points=flat, seen_from="head")
        tracing.traced(of="gasket", points=flat)
        head, gasket = tracing.outlines()["outlines"]
        furthest = [max(x for x, _ in one["points_mm"]) for one in (head, gasket)]
        assert furthest[0] < furthest[1]

    def test_a_runner_traced_before_the_stage_is_to_be_traced_again(self, tracing):
        tracing.traced()
        tracing.traced(of="gasket")
        assert not any("traced before" in one for one in said(tracing.outlines()))
        assert tracing.start().status_code == 200
        assert any("Runner 3: traced before stage 2" in one for one in said(tracing.outlines()))

    def test_an_entry_at_the_plenum_is_no_exit(self, tracing):
        tracing.traced(place="0")
        tracing.traced(of="gasket")
        assert tracing.outlines()["meetings"] == []


class TestTemplates:
    def lines(self, content):
        """Lengths of the straight lines of a PDF page [mm], and the extents of its closed ones."""
        text = PdfReader(BytesIO(content)).pages[0].get_contents().get_data().decode("latin1")
        runs, at = [], []
        for line in text.replace(" cm/", " cm\n/").splitlines():
            words = line.split()
            for n, word in enumerate(words):
                if word in ("m", "l") and n >= 2:
                    spot = (float(words[n - 2]), float(words[n - 1]))
                    if word == "m":
                        at = []
                        runs.append(at)
                    at.append(spot)
        return [np.array(run) / POINT for run in runs if len(run) > 1]

    def test_the_outline_and_its_bars_are_true_to_size_on_paper(self, tracing, shop):
        identifier = tracing.traced()
        answer = shop.client.get(f"/api/outlines/{identifier}/template.pdf")
        assert answer.headers["content-type"] == "application/pdf"
        runs = self.lines(answer.content)
        bars = [run for run in runs if len(run) == 2 and np.isclose(np.ptp(run, axis=0).max(), 100.0, atol=0.002)]
        assert len(bars) == 2
        longest = max(runs, key=len)
        assert np.ptp(longest, axis=0) == pytest.approx([42.0, 36.0], abs=0.01)
        box = PdfReader(BytesIO(answer.content)).pages[0].mediabox
        assert (float(box.width) / POINT, float(box.height) / POINT) == pytest.approx((210, 297), abs=0.01)

    def test_the_line_to_scribe_holds_the_target(self, tracing, shop):
        identifier = tracing.traced()
        shop.kept(tracing.plan(stations=["0", "310"], law="constant area", takes={"area_mm2": 1400})[1])
        content = shop.client.get(f"/api/outlines/{identifier}/template.pdf").content
        assert "scribe: target 1400 mm²" in PdfReader(BytesIO(content)).pages[0].extract_text()
        rings = sorted((run for run in self.lines(content) if len(run) > 50), key=len)
        areas = sorted(shapely.Polygon(run).area for run in rings)
        assert areas == pytest.approx([1e6 * RUNNER.area, 1400], rel=2e-4)

    def test_a_plenum_of_its_own_size_gets_a_page_of_its_own(self, tracing, shop):
        wide = mm(shape_outline(Oval(0.060, 0.130)))
        _, answer = tracing.outline(of="opening", points=wide)
        identifier = answer.json().get("id") or tracing.traced(of="opening", points=wide, accepted=["unlikely"])
        content = shop.client.get(f"/api/outlines/{identifier}/template.pdf").content
        box = PdfReader(BytesIO(content)).pages[0].mediabox
        assert float(box.height) / POINT >= 297

    @pytest.mark.parametrize("kind", ["dxf", "svg"])
    def test_what_goes_out_comes_back_as_it_was(self, tracing, shop, kind):
        identifier = tracing.traced()
        answer = shop.client.get(f"/api/outlines/{identifier}/outline.{kind}")
        assert f"310 mm in.{kind}" in answer.headers["content-disposition"]
        again = shop.client.post("/api/outlines/drawn", params={"name": f"o.{kind}"}, content=answer.content)
        found = shop.kept(again)
        assert found["unit_told"] is True
        [line] = found["lines"]
        assert shapely.Polygon(line).area == pytest.approx(1e6 * RUNNER.area, rel=1e-4)

    def test_a_template_of_nothing_is_not_found(self, shop):
        assert shop.client.get(f"/api/outlines/{new_id()}/template.pdf").status_code == 404


@pytest.mark.parametrize(
    ("name", "content", "says"),
    [
        ("a.dxf", b"", "'a.dxf' is empty"),
        ("a.dxf", b"\x00\x01\x02", "no DXF that can be read"),
        ("a.svg", b"<svg><path d='M0 0", "no SVG that can be read"),
        ("a.svg", b"<svg xmlns='http://www.w3.org/2000/svg'><path d='M0 0 L10 0'/></svg>", "no closed line"),
    ],
)
def test_a_drawing_that_is_none_is_refused_by_its_name(shop, name, content, says):
    answer = shop.client.post("/api/outlines/drawn", params={"name": name}, content=content)
    assert answer.status_code == 422
    assert says in answer.json()["detail"]
