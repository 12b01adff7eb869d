"""What is logged beside torque, as the margin says it."""

import numpy as np
import pytest

from tests.api.dyno.asking import AIR, PORTED, RPM, STOCK, said


def logged(torque, **columns):
    headings = ",".join(["rpm", "Nm", *(name.replace("_", " ") for name in columns)])
    values = [np.broadcast_to(one, RPM.shape) for one in columns.values()]
    rows = [",".join(f"{v:.3f}" for v in row) for row in zip(RPM, torque, *values, strict=True)]
    return "\n".join([headings, *rows]).encode()


@pytest.fixture
def told(shop, job):
    """What is said of stock and the ported build with these columns."""

    def ask(stock, ported, **facts):
        identifier, first, second = job
        shop.kept(shop.pull(identifier, first, logged(STOCK, **stock), **{**AIR, **facts}))
        shop.kept(shop.pull(identifier, second, logged(PORTED, **ported), **{**AIR, **facts}))
        return said(shop.get(f"/jobs/{identifier}/dyno"))

    return ask


def one(told, words):
    (found,) = [text for text in told if words in text]
    return found


def test_a_smaller_drop_is_told_with_what_it_means(told):
    drop = 4.0 * (RPM / 6800) ** 2
    found = one(told({"MAP [kPa]": 96 - drop}, {"MAP [kPa]": 96 - drop / 2}), "Drop from outside")
    assert "at 6800 rpm: Stock 4.0 kPa, Stage 2, entries and curves 2.0 kPa" in found
    assert "about 2.2 % more air" in found


def test_a_drop_that_stays_points_elsewhere(told):
    same = {"MAP [kPa]": 92.0}
    assert "does not hold the air back; look elsewhere" in one(told(same, same), "Drop from outside")


def test_boost_that_differs_is_no_gain_of_the_manifold(told):
    stock = {"Boost [bar]": np.interp(RPM, [2500, 3500], [0.2, 0.6])}
    found = one(told(stock, {"Boost [bar]": np.interp(RPM, [2500, 3500], [0.2, 0.7])}), "Boost:")
    assert "Stock 60 kPa, reached at 3500 rpm, held to the end; Stage 2, entries and curves 70 kPa" in found
    assert "The boost itself differs: by the air alone that is about +6 % of the power." in found
    assert "At the same boost about " in found


def test_unlike_boost_stands_in_the_headline_on_the_screen_and_on_paper(shop, job):
    identifier, first, second = job
    for build, torque, most in ((first, STOCK, 0.6), (second, PORTED, 0.7)):
        boost = {"Boost [bar]": np.interp(RPM, [2500, 3500], [0.2, most])}
        shop.kept(shop.pull(identifier, build, logged(torque, **boost), **AIR))
    words = "Boost differs by +10 kPa, not the manifold alone"
    head = shop.get(f"/jobs/{identifier}/dyno")["judged"]["head"]
    assert (head["words"].startswith(words), head["real"]) == (True, False)
    band = shop.get(f"/jobs/{identifier}/dyno/band", low_rpm=4000, high_rpm=6000)
    assert band["head"]["words"].startswith(words)
    paper = shop.get(f"/jobs/{identifier}/sheet")
    assert words in paper["headlines"][-1]["words"]


def test_the_same_boost_is_told_without_a_doubt(told):
    same = {"Boost [bar]": np.interp(RPM, [2500, 3500, 6000, 7000], [0.2, 0.6, 0.6, 0.4])}
    found = one(told(same, same), "Boost:")
    assert "held to 6100 rpm, then lost" in found
    assert "differs" not in found


def test_mixture_that_differs_is_said(told):
    found = one(told({"lambda": 0.88}, {"lambda": 0.93}), "Mixture differs")
    assert "Stock lambda 0.88, Stage 2, entries and curves 0.93" in found


def test_what_is_alike_needs_no_word(told):
    words = told({"lambda": 0.88, "Knock_retard [deg]": 0.0, "Duty [%]": 60}, {"lambda": 0.89, "Duty [%]": 70})
    assert not [text for text in words if "ixture" in text or "knock" in text or "duty" in text]


def test_duty_and_knock_near_their_end_are_said(told):
    words = told({"Duty [%]": 60}, {"Duty [%]": 60 + (RPM - 2500) / 150, "Knock retard [deg]": (RPM > 6000) * 3.0})
    assert "Stage 2, entries and curves: injector duty 89 % at 6800 rpm" in one(words, "injector duty")
    assert "by up to 3.0° for knock" in one(words, "knock")


def test_fuel_for_the_work_and_a_unit_that_can_not_be(told):
    power = STOCK * RPM * 2 * np.pi / 60
    right = {"Fuel flow [kg/h]": 300 * power / 1e6}
    found = one(told(right, {"Fuel flow [lb/h]": 300 * power / 1e6}), "Fuel for the work")
    assert "Stock 300 g/kWh" in found
    assert "check the unit of the fuel flow" in found
