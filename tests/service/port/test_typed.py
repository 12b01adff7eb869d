"""Sections as they are typed at the bench."""

from math import pi

import pytest

from elvarn.core.errors import Inconsistent
from elvarn.service.kernel.errors import Invalid
from elvarn.service.port.typed import read_section, section_of


@pytest.mark.parametrize(
    ("text", "shape", "area_mm2"),
    [
        ("42", "round", pi / 4 * 42**2),
        ("ø 42 mm", "round", pi / 4 * 42**2),
        ("1.65 in", "round", pi / 4 * 41.91**2),
        ("1 5/8 in", "round", pi / 4 * 41.275**2),
        ("38 x 44", "oval", pi / 4 * 38**2 + 38 * 6),
        ("44×38 mm", "oval", pi / 4 * 38**2 + 38 * 6),
        ("3.8 x 4.4 cm", "oval", pi / 4 * 38**2 + 38 * 6),
        ("1.5 by 1.75 in", "oval", (pi / 4 * 1.5**2 + 1.5 * 0.25) * 25.4**2),
        ("ellipse 38 x 44", "ellipse", pi / 4 * 38 * 44),
        ("38 x 44 r 6", "rectangle", 38 * 44 - (4 - pi) * 36),
        ("38,5 x 44 r6", "rectangle", 38.5 * 44 - (4 - pi) * 36),
        ("rect 38 x 44", "rectangle", 38 * 44),
        ("D 42 x 42", "d", pi / 4 * 42**2),
        ("d 42 x 21", "d", pi / 8 * 42**2),
        ("1219 mm2", "area", 1219),
        ("1,219 mm²", None, None),
        ("1.89 in2", "area", 1.89 * 645.16),
        ("12.2 cm²", "area", 1220),
    ],
)
def test_what_can_be_typed(text, shape, area_mm2):
    if shape is None:
        with pytest.raises(Invalid):
            read_section(text)
        return
    found = read_section(text)
    assert found.shape == shape
    assert 1e6 * section_of(found.shape, found.sizes).area == pytest.approx(area_mm2)


@pytest.mark.parametrize(
    "text", ["", "abc", "38 x", "38 x 44 x 5", "round 38 x 44", "38 r 6", "D 42", "42 kg", "0 mm2"]
)
def test_what_cant_be_read_is_refused_with_what_can(text):
    with pytest.raises((Invalid, ValueError), match=r"isn't a section|has no area|must be above 0"):
        read_section(text)


def test_a_corner_larger_than_the_side_cant_be():
    with pytest.raises(Inconsistent, match="Corners of 25 mm"):
        read_section("38 x 44 r 25")


def test_an_area_alone_has_the_perimeter_of_a_circle():
    known = read_section("1219 mm2")
    section = section_of(known.shape, known.sizes)
    assert 4 * section.area / section.perimeter == pytest.approx((4 * 1219e-6 / pi) ** 0.5)
