"""Three choices that the guide walks: a road eight, a hill-climb five and a boosted three, each with its own shelf."""

from dataclasses import dataclass

from tests.api.test_path import mounted
from tests.api.test_shelf import dimension, part, read, said


@dataclass(frozen=True)
class OnShelf:
    """A part of the shelf: its bore and flow as read, what is stated of it; of a manifold its runners' length."""

    kind: str
    name: str
    bore: str
    flow: str
    price: int | None
    lead_days: int | None
    features: dict
    length: str = ""


@dataclass(frozen=True)
class Choice:
    """A job, its path as it came, and the parts that are thought of."""

    title: str
    runners: int
    job: dict
    path: dict
    runner: tuple[int, str, str]  # CFM of each, length, bore
    opening: str
    shelf: tuple[OnShelf, ...]


FOUR_BOLTS = {"bolt_count": 4}


def _plate(opening, **more):
    return {"inlet": {"opening_mm": opening}, "outlet": {"opening_mm": opening, **more}}


def _four(fits, opening, **more):
    return {**fits, "inlet": {"opening_mm": opening, "bolt_count": 4}, **more}


def _round(opening):
    return {"inlet": {"outside_mm": opening + 6}, "outlet": {"outside_mm": opening + 6}}


EIGHT_FITS = {"runners": 8, "head_flange": "E8 tall", "height_mm": 165, "ports": ["brake servo"],
              "homes": [{"purpose": "injector"}], "port_pitch_mm": 112, "bank_angle_deg": 90}  # fmt: skip
ROAD_EIGHT = Choice(
    "Road eight, mid-range",
    8,
    {
        "engine": {"name": "Made-up eight", "layout": "vee", "bank_count": 2, "bore_mm": 101, "stroke_mm": 92,
                   "limit_rpm": 6000, "compression_ratio": 10.5, "firing_order": [1, 8, 4, 3, 6, 5, 7, 2]},
        "banks": [[1, 3, 5, 7], [2, 4, 6, 8]],
        "band_low_rpm": 2500, "band_high_rpm": 5000, "use": "road", "budget": "1400",
        "surroundings": {"bonnet_height_mm": 190, "head_flange": "E8 tall", "brakes": "vacuum", "port_pitch_mm": 112,
                         "bank_angle_deg": 90, "homes": [{"purpose": "injector"}]},
    },
    {"filter": ("100 mm", "760"), "tube": ("80 mm", "610"), "meter": ("85 mm", "800"), "throttle": ("74.4 mm", "690")},
    (185, "260 mm", "43 mm"),
    "72 mm",
    (
        OnShelf("manifold", "Long eight", "45 mm", "222", 760, 12, _four(EIGHT_FITS, 80), "330 mm"),
        OnShelf("manifold", "Tall eight", "52 mm", "281", 690, 5, _four(EIGHT_FITS, 90, height_mm=178), "170 mm"),
        OnShelf("manifold", "Five-port", "46 mm", "240", 420, 2, _four(EIGHT_FITS, 76, runners=5), "300 mm"),
        OnShelf("throttle", "Plate 80", "80 mm", "830", 310, 4, _plate(80, bolt_count=4)),
        OnShelf("throttle", "Plate 90", "90 mm", "1040", 395, 14, _plate(90, bolt_count=4)),
        OnShelf("tube", "Tube 90", "90 mm", "842", 165, 6, _round(90)),
        OnShelf("filter", "Open cone 110", "110 mm", "1050", 78, 1, {}),
        OnShelf("filter", "Small cone", "84 mm", "640", 35, 1, {}),
    ),
)  # fmt: skip

FIVE_FITS = {"runners": 5, "head_flange": "V5", "height_mm": 150, "ports": ["brake servo"],
             "homes": [{"purpose": "injector"}], "port_pitch_mm": 90}  # fmt: skip
HILL_FIVE = Choice(
    "Hill-climb five",
    5,
    {
        "engine": {"name": "Made-up five", "layout": "inline", "bore_mm": 84, "stroke_mm": 86.6, "limit_rpm": 7400,
                   "compression_ratio": 11.5, "firing_order": [1, 2, 4, 5, 3]},
        "band_low_rpm": 4500, "band_high_rpm": 7200, "use": "hill climb", "budget": "1500",
        "surroundings": {"bonnet_height_mm": 170, "head_flange": "V5", "brakes": "vacuum", "port_pitch_mm": 90,
                         "homes": [{"purpose": "injector"}],
                         "rules": [{"kind": "throttle_bore", "limit_mm": 70, "words": "70 mm at most"}]},
    },
    {"filter": ("84 mm", "520"), "tube": ("68 mm", "440"), "meter": ("74 mm", "520"), "throttle": ("64 mm", "470")},
    (178, "340 mm", "40 mm"),
    "60 mm",
    (
        OnShelf("manifold", "Sand-cast five", "44 mm", "212", 640, 21, _four(FIVE_FITS, 70), "255 mm"),
        OnShelf("manifold", "Long five", "41 mm", "190", 480, 7, _four(FIVE_FITS, 64), "395 mm"),
        OnShelf("throttle", "Plate 70", "70 mm", "575", 260, 5, _plate(70, bolt_count=4)),
        OnShelf("throttle", "Plate 76", "76 mm", "690", 240, 5, _plate(76, bolt_count=4)),
        OnShelf("tube", "Tube 76", "76 mm", "585", 120, 3, _round(76)),
        OnShelf("filter", "Panel box", "84 mm", "545", 60, 2, {}),
        OnShelf("filter", "Open cone 100", "100 mm", "640", 72, 2, {}),
        OnShelf("meter", "Meter 82", "82 mm", "600", 190, 9, _round(82)),
    ),
)  # fmt: skip

RATED = {"boost_kpa": 150}
THREE_FITS = {"runners": 3, "height_mm": 120, "head_flange": "T3", "boost_kpa": 140, "homes": [{"purpose": "injector"}],
              "port_pitch_mm": 84}  # fmt: skip
BOOSTED_THREE = Choice(
    "Boosted three",
    3,
    {
        "engine": {"name": "Made-up three", "layout": "inline", "bore_mm": 74, "stroke_mm": 92, "limit_rpm": 6500,
                   "compression_ratio": 9.2, "boosted": True, "boost_kpa": 90, "firing_order": [1, 2, 3]},
        "band_low_rpm": 2800, "band_high_rpm": 6000, "use": "kit car", "budget": "700",
        "surroundings": {"head_flange": "T3", "bonnet_height_mm": 200, "brakes": "other", "port_pitch_mm": 84,
                         "homes": [{"purpose": "injector"}]},
    },
    {"filter": ("72 mm", "340"), "tube": ("58 mm", "300"), "meter": ("66 mm", "390"), "throttle": ("48 mm", "255")},
    (172, "210 mm", "38 mm"),
    "48 mm",
    (
        OnShelf("manifold", "Cast three", "41 mm", "205", 390, 10, _four(THREE_FITS, 56), "190 mm"),
        OnShelf("manifold", "Moulded three", "42 mm", "214", 260, 3, _four(THREE_FITS, 56, boost_kpa=60), "190 mm"),
        OnShelf("throttle", "Plate 56", "56 mm", "352", 180, 4, _plate(56, bolt_count=4) | RATED),
        OnShelf("tube", "Tube 63", "63 mm", "372", 85, 3, _round(63) | RATED),
        OnShelf("filter", "Open cone 80", "80 mm", "470", 48, 1, {}),
    ),
)  # fmt: skip
CHOICES = {"eight": ROAD_EIGHT, "five": HILL_FIVE, "three": BOOSTED_THREE}


def taken_in(shop, choice, due_on=None):
    """The job with its path measured, and its shelf laid out; returns the job's id."""
    job = shop.job(choice.runners, "whole_job", title=choice.title, due_on=due_on, **choice.job)
    build = shop.builds(job)[0]["id"]
    for kind, (bore, flow) in choice.path.items():
        mounted(shop, job, build, kind, bore, flow)
    parts = {one["kind"]: one["id"] for one in shop.get(f"/jobs/{job}")["parts"]}
    shop.kept(said(shop, parts["throttle"], features={"outlet": FOUR_BOLTS}))
    shop.kept(said(shop, parts["manifold"], features={"inlet": FOUR_BOLTS}))
    state = shop.sheet(job)["before_state_id"]
    flow, length, bore = choice.runner
    shop.series(job, shop.setup(job), state, [flow] * choice.runners)
    shop.kept(dimension(shop, state, "plenum", "opening", choice.opening, job_id=job))
    for quantity, typed in (("length", length), ("bore", bore)):
        shop.kept(dimension(shop, state, "runner", quantity, typed, job_id=job, cylinder=1))
    for one in choice.shelf:
        laid_out(shop, one)
    return job


def laid_out(shop, one):
    """A part on the shelf, as it is stated and read; returns its id."""
    identifier, state = part(shop, one.kind, one.name)
    shop.kept(said(shop, identifier, price=one.price, lead_days=one.lead_days, features=one.features))
    at = {"cylinder": 1} if one.kind == "manifold" else {}
    kind = "runner" if one.kind == "manifold" else one.kind
    shop.kept(dimension(shop, state, kind, "bore", one.bore, **at))
    if one.length:
        shop.kept(dimension(shop, state, "runner", "length", one.length, cylinder=1))
    shop.kept(read(shop, state, kind, one.flow, **at))
    return identifier
