"""Plate, zero, leak, kind of meter and air, in all combinations: a bench is built plainly that shows what it would show
of a part that never changed, and the sheet must find the part's flow again, each of them reckoned with once."""

from itertools import product
from math import sqrt

import pytest

from tests.api.bench.asking import at, check, words

FLOW = 200.0  # CFM in standard air that the part passes, both times
PLATE = 180.0  # CFM that the plate passes
SCALE = (1.04, 0.98)  # what the bench shows of what there is, on the first and on the second day
AIR = ((32.0, 96.0), (16.0, 102.5))  # °C and kPa, dry
ZERO, LEAK = 1.5, 2.5
METERS = ("ratio", "volume", "mass")
PLATES = ("none", "known", "known once", "unknown")


def thinner(day):
    """Root of the density of standard air over that of the day, dry: ideal gas, 20 °C and 101.325 kPa."""
    celsius, kilopascal = AIR[day]
    return sqrt((101.325 / 293.15) / (kilopascal / (celsius + 273.15)))


def showing(meter, day):
    """What a meter shows of a unit of flow in standard air at one depression."""
    return SCALE[day] * {"ratio": 1.0, "volume": thinner(day), "mass": 1 / thinner(day)}[meter]


def expected(plate, day):
    """What is left in a figure of the day where all is taken off that can be: the scale that no plate of known flow
    tells."""
    if plate in ("known", "known once"):
        return FLOW * (SCALE[day] / SCALE[0] if plate == "known once" else 1)
    return FLOW * (SCALE[0] if plate == "unknown" else SCALE[day])


def one_day(shop, bench, job, state, day, meter, plate, zero, leak):
    celsius, kilopascal = AIR[day]
    setup = shop.setup(
        job, bench_id=bench, air_temperature_c=celsius, air_pressure_kpa=kilopascal, air_humidity_percent=0
    )
    rest, unit = zero * ZERO, showing(meter, day)
    taken_at = at(days=9 * day)
    if zero:
        shop.kept(check(shop, bench, "zero", f"{rest}", setup, taken_at=taken_at))
    if leak:
        shop.kept(check(shop, bench, "leak", f"{rest + LEAK * unit:.9f}", setup, taken_at=taken_at))
    if plate != "none" and not (plate == "known once" and day):
        known = {"plate_flow": f"{PLATE}"} if plate != "unknown" else {}
        shown = f"{rest + PLATE * unit:.9f}"
        shop.kept(check(shop, bench, "plate", shown, setup, plate="Brass 40", taken_at=taken_at, **known))
    shop.kept(shop.flow(job, setup, state, 1, f"{rest + (FLOW + leak * LEAK) * unit:.9f}", taken_at=taken_at))


@pytest.mark.parametrize("meter", METERS)
def test_each_is_reckoned_with_once_in_every_combination(shop, bench, meter):
    for plate, zero, leak in product(PLATES, (0, 1), (0, 1)):
        own, job = bench(meter=meter), shop.job(1)
        one_day(shop, own, job, shop.sheet(job)["before_state_id"], 0, meter, plate, zero, leak)
        one_day(shop, own, job, shop.cut(job), 1, meter, plate, zero, leak)
        rung = shop.sheet(job)["rungs"][0]
        seen = [rung[side]["mean"]["value"] for side in ("before", "after")]
        assert seen == pytest.approx([expected(plate, day) for day in (0, 1)], rel=1e-4), (meter, plate, zero, leak)


def test_a_part_that_never_changed_gains_nothing_on_another_day_with_a_plate_read_in_both(shop, bench):
    """A volume meter, a hot day and a cool one: the day's air must not be in the plate's ratio and in the part's own
    figure."""
    own, job = bench(meter="volume"), shop.job(1)
    one_day(shop, own, job, shop.sheet(job)["before_state_id"], 0, "volume", "unknown", 0, 0)
    one_day(shop, own, job, shop.cut(job), 1, "volume", "unknown", 0, 0)
    gain = shop.sheet(job)["rungs"][0]["gain"]
    assert gain["gain"]["value"] == pytest.approx(0, abs=0.02)
    assert not gain["real"]


class TestAirOfThePlate:
    def test_a_plate_without_air_was_read_in_that_of_its_session(self, shop, bench):
        own, job = bench(meter="volume"), shop.job(1)
        shop.kept(check(shop, own, "plate", f"{PLATE}", plate="Brass 40", plate_flow=f"{PLATE}"))
        setup = shop.setup(job, bench_id=own, air_temperature_c=32, air_pressure_kpa=96, air_humidity_percent=0)
        shop.kept(shop.flow(job, setup, shop.sheet(job)["before_state_id"], 1, f"{FLOW}"))
        sheet = shop.sheet(job)
        assert sheet["rungs"][0]["before"]["mean"]["value"] == pytest.approx(FLOW, rel=1e-4)
        assert "air of the reference plate" not in words(sheet)

    def test_an_older_plate_without_air_is_told(self, shop, bench):
        own, job = bench(meter="volume"), shop.job(1)
        shop.kept(check(shop, own, "plate", "180", plate="Brass 40", plate_flow="180", taken_at=at(days=-4)))
        setup = shop.setup(job, bench_id=own, air_temperature_c=32, air_pressure_kpa=96)
        shop.kept(shop.flow(job, setup, shop.sheet(job)["before_state_id"], 1, "200"))
        assert "The air of the reference plate Brass 40 was not noted" in words(shop.sheet(job))


def test_the_card_says_whether_a_plate_counts_and_how_old_it_is(shop, bench):
    own, job = bench(), shop.job(1)
    setup = shop.setup(job, bench_id=own)
    shop.kept(check(shop, own, "plate", "181", setup, plate="Steel", taken_at=at(days=-6)))
    shop.kept(check(shop, own, "plate", "186", setup, plate="Brass 40", plate_flow="180"))
    shop.kept(shop.flow(job, setup, shop.sheet(job)["before_state_id"], 1, "200"))
    counts = {one["words"].split(", ")[1]: one["counts"] for one in shop.sheet(job)["checks"]}
    assert counts == {
        "Steel": "6 days apart from the last reading: does not count",
        "Brass 40": "counts, readings × 0.9677",
    }
