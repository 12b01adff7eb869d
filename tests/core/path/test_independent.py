"""Ten air paths against a solver of its own: element by element by root finding, stroke by stroke by integration.

What an engine loses is compared for paths with and without boost, with throttles side by side, in turn and for each
cylinder, to 0.1 %. The solver knows the orifice equation, the law of the half sine and the definition of a compressor
and a cooler; nothing of it is the product's.
"""

from itertools import pairwise
from math import pi, sqrt

import numpy as np
import pytest
from scipy.integrate import quad
from scipy.optimize import brentq

from elvarn.core.engine.strokes import even_strokes
from elvarn.core.gas.air import STANDARD_AIR, density_ideal
from elvarn.core.path.charge import Charge
from elvarn.core.path.engine_losses import Draw, engine_losses
from elvarn.core.path.passage import lossless, measured
from elvarn.core.path.routes import routes
from elvarn.core.path.tree import Branches, Element, ElementKind, Series, usual_path

K = 1.4
P0, T0 = STANDARD_AIR.pressure, STANDARD_AIR.temperature
GAS = P0 / (density_ideal(STANDARD_AIR) * T0)  # of the day's moist air
CFM, DEPRESSION = 0.3048**3 / 60, 28 * 249.08891
DURATION = 220.0


def nozzle(area, upstream, downstream, temperature):
    """Mass flow [kg/s] of an ideal nozzle below its choking (Saint-Venant and Wantzel)."""
    ratio = downstream / upstream
    root = ratio ** (2 / K) - ratio ** ((K + 1) / K)
    return area * upstream * sqrt(2 * K / ((K - 1) * GAS * temperature) * root)


def area_of(flow):
    """The area that passes a CFM at 28 inH2O: turned round by root finding."""
    mass = flow * CFM * density_ideal(STANDARD_AIR)
    return brentq(lambda a: nozzle(a, P0, P0 - DEPRESSION, T0) - mass, 1e-7, 1.0)


def behind(areas, mass, upstream, temperature):
    """Pressure behind nozzles side by side that pass a mass flow together."""
    least = upstream * (2 / (K + 1)) ** (K / (K - 1))
    return brentq(lambda p: sum(nozzle(a, upstream, p, temperature) for a in areas) - mass, least, upstream)


def drawn(begins):
    """Flow of these cylinders over the crank angle, each a half sine, whose mean is 1."""

    def flow(angle):
        inside = [(angle - begin) % 720 for begin in begins]
        return sum(pi / 2 * 720 / DURATION / len(begins) * np.sin(pi * x / DURATION) for x in inside if x < DURATION)

    return flow


def peak_share(begins):
    """By how much a stream that comes in strokes loses more than a steady one: the mean of its cube, for each kilogram
    meets the square of the whole stream."""
    flow = drawn(begins)
    edges = sorted({*(b % 720 for b in begins), *((b + DURATION) % 720 for b in begins), 0.0, 720.0})
    pieces = pairwise(edges)
    return sum(quad(lambda a: flow(a) ** 3, low, high, limit=200)[0] for low, high in pieces) / 720


class Own:
    """An air path as the solver sees it: for each cylinder the stages, as (areas side by side, cylinders whose air
    passes, whether a plenum lies behind)."""

    def __init__(self, ways, order, boost_from=None):
        self.ways, self.order, self.boost_from = ways, order, boost_from
        interval = 720 / len(order)
        self.begins = {number: index * interval for index, number in enumerate(order)}

    def losses(self, mass, boost=0.0, efficiency=0.7, cooling=0.7, front=None):
        if not boost:
            return self._at(mass, 1.0, T0)[0]

        def plenum(ratio):
            return np.mean(
                [pressures[front] for pressures in self._at(mass, ratio, self.warm(ratio, efficiency, cooling))[1]]
            )

        ratio = brentq(lambda r: plenum(r) - P0 - boost, 1.0, 4.0)
        return self._at(mass, ratio, self.warm(ratio, efficiency, cooling))[0], ratio

    @staticmethod
    def warm(ratio, efficiency, cooling):
        hot = T0 * (1 + (ratio ** ((K - 1) / K) - 1) / efficiency)
        return hot - cooling * (hot - T0)

    def _at(self, mass, ratio, warm):
        lost, every = [], []
        for way in self.ways:
            pressure, temperature, drop, pressures = P0, T0, 0.0, []
            for index, (areas, cylinders, smoothed) in enumerate(way):
                if self.boost_from is not None and index == self.boost_from:
                    pressure, temperature = pressure * ratio, warm
                share = 1.0 if smoothed else peak_share([self.begins[c] for c in cylinders])
                flow = mass / len(self.order) * len(cylinders) * sqrt(share)
                after = behind(areas, flow, pressure, temperature)
                drop, pressure = drop + pressure - after, after
                pressures.append(pressure)
            lost.append(drop)
            every.append(pressures)
        return float(np.mean(lost)), every


def single_file(flows, runner, cylinders, order):
    """Filter, tube, meter, throttle, plenum, runners."""
    tree = usual_path(cylinders)
    passages = [measured(f * CFM, DEPRESSION) for f in flows] + [lossless()]
    passages += [measured(runner * CFM, DEPRESSION)] * cylinders
    numbers = tuple(range(1, cylinders + 1))
    front = [([area_of(f)], numbers, True) for f in flows]
    own = Own([[*front, ([area_of(runner)], (n,), False)] for n in numbers], order, boost_from=3)
    return tree, passages, own


def two_banks(filter_flow, throttles, runner, banks, order):
    """One filter; to each bank a throttle, a plenum and its runners."""
    branches, passages, ways = [], [measured(filter_flow * CFM, DEPRESSION)], {}
    every = tuple(n for bank in banks for n in bank)
    for number, (bank, throttle) in enumerate(zip(banks, throttles, strict=True), 1):
        runners = tuple(Element(ElementKind.RUNNER, f"R{n}", n, number) for n in bank)
        parts = (Element(ElementKind.THROTTLE, f"T{number}", bank=number), Element(ElementKind.PLENUM, f"P{number}"))
        branches.append(Series((*parts, Branches(runners))))
        passages += [measured(throttle * CFM, DEPRESSION), lossless()]
        passages += [measured(runner * CFM, DEPRESSION)] * len(bank)
        for n in bank:
            ways[n] = [([area_of(filter_flow)], every, True), ([area_of(throttle)], bank, True),
                       ([area_of(runner)], (n,), False)]  # fmt: skip
    tree = Series((Element(ElementKind.FILTER, "F"), Branches(tuple(branches))))
    return tree, passages, Own([ways[n] for n in sorted(ways)], order, boost_from=1)


def throttle_each(filter_flow, throttle, runner, order):
    """A throttle for each cylinder, no plenum: every element feels the strokes."""
    numbers = tuple(sorted(order))
    branch = [
        Series((Element(ElementKind.THROTTLE, f"T{n}", n), Element(ElementKind.RUNNER, f"R{n}", n))) for n in numbers
    ]
    tree = Series((Element(ElementKind.FILTER, "F"), Branches(tuple(branch))))
    passages = [measured(filter_flow * CFM, DEPRESSION)]
    passages += [measured(f * CFM, DEPRESSION) for _ in numbers for f in (throttle, runner)]
    ways = [
        [([area_of(filter_flow)], numbers, False), ([area_of(throttle)], (n,), False), ([area_of(runner)], (n,), False)]
        for n in numbers
    ]
    return tree, passages, Own(ways, order)


def shared_in_turn(throttle, runner, pairs, order):
    """A throttle to each pair of cylinders, which draw in turn through it, without a plenum."""
    branches, passages, ways = [], [], {}
    for number, pair in enumerate(pairs, 1):
        runners = tuple(Element(ElementKind.RUNNER, f"R{n}", n) for n in pair)
        branches.append(Series((Element(ElementKind.THROTTLE, f"T{number}"), Branches(runners))))
        passages += [measured(throttle * CFM, DEPRESSION), *[measured(runner * CFM, DEPRESSION)] * len(pair)]
        for n in pair:
            ways[n] = [([area_of(throttle)], pair, False), ([area_of(runner)], (n,), False)]
    return Branches(tuple(branches)), passages, Own([ways[n] for n in sorted(ways)], order)


def side_by_side(left, right, box, runner):
    """Two ducts into one box, then one runner."""
    ducts = Branches((Element(ElementKind.INLET, "L"), Element(ElementKind.INLET, "R")))
    tree = Series((ducts, Element(ElementKind.FILTER, "Box"), Element(ElementKind.RUNNER, "R1", 1)))
    passages = [measured(f * CFM, DEPRESSION) for f in (left, right, box, runner)]
    way = [([area_of(left), area_of(right)], (1,), False), ([area_of(box)], (1,), False),
           ([area_of(runner)], (1,), False)]  # fmt: skip
    return tree, passages, Own([way], (1,))


EIGHT = (1, 8, 4, 3, 6, 5, 7, 2)
PATHS = {
    "single": (single_file((300, 260, 320, 240), 150, 1, (1,)), 0.02, 0.0),
    "twin": (single_file((400, 350, 420, 300), 180, 2, (1, 2)), 0.05, 0.0),
    "five": (single_file((612, 498, 655, 574), 218, 5, (1, 2, 4, 5, 3)), 0.16, 0.0),
    "flat six, a throttle to each bank": (
        two_banks(800, (380, 360), 200, ((1, 2, 3), (4, 5, 6)), (1, 6, 2, 4, 3, 5)), 0.17, 0.0),
    "eight in two banks": (two_banks(1050, (505, 440), 228, ((1, 3, 5, 7), (2, 4, 6, 8)), EIGHT), 0.26, 0.0),
    "four, a throttle each": (throttle_each(900, 260, 220, (1, 3, 4, 2)), 0.13, 0.0),
    "four, throttles shared in turn": (shared_in_turn(420, 220, ((1, 4), (2, 3)), (1, 3, 4, 2)), 0.13, 0.0),
    "two ducts into one box": (side_by_side(200, 300, 600, 250), 0.025, 0.0),
    "boosted three": (single_file((420, 380, 450, 400), 190, 3, (1, 3, 2)), 0.10, 60e3),
    "boosted eight in two banks": (
        two_banks(1050, (505, 440), 228, ((1, 3, 5, 7), (2, 4, 6, 8)), EIGHT), 0.40, 80e3),
}  # fmt: skip


@pytest.mark.independent
@pytest.mark.parametrize("name", PATHS)
def test_what_an_engine_loses_is_what_the_solver_of_its_own_finds(name):
    (tree, passages, own), mass, boost = PATHS[name]
    way = routes(tree)
    behind_compressor = frozenset(
        place for place, e in enumerate(way.elements)
        if e.kind in (ElementKind.THROTTLE, ElementKind.PLENUM, ElementKind.RUNNER)
    )  # fmt: skip
    charge = Charge(boost, behind_compressor) if boost else None
    found = engine_losses(way, passages, Draw(mass, STANDARD_AIR, even_strokes(len(own.order), own.order), charge))
    if boost:
        wanted, ratio = own.losses(mass, boost, front=len(own.ways[0]) - 2)
        assert found.ratio == pytest.approx(ratio, rel=1e-3)
    else:
        wanted = own.losses(mass)
    assert found.total == pytest.approx(wanted, rel=1e-3)


def test_between_compressor_and_cooler_the_air_is_hot():
    """A tube between the two loses more than one behind: the same mass, hotter; a charge without a cooler stays hot."""
    kinds = (ElementKind.COMPRESSOR, ElementKind.TUBE, ElementKind.COOLER, ElementKind.TUBE)
    tree = Series((*(Element(kind, kind.value) for kind in kinds), Element(ElementKind.RUNNER, "R1", 1)))
    tube = measured(300 * CFM, DEPRESSION)
    passages = [lossless(), tube, lossless(), tube, measured(400 * CFM, DEPRESSION)]

    def drops(coolers):
        charge = Charge(0.0, frozenset({0}), 0.7, 0.8, frozenset(coolers), ratio=1.8)
        rows = engine_losses(routes(tree), passages, Draw(0.03, STANDARD_AIR, even_strokes(1), charge)).rows
        return rows[1].drop, rows[3].drop

    hot = T0 * (1 + (1.8 ** (0.4 / 1.4) - 1) / 0.7)
    before, after = drops({2})
    assert before / after == pytest.approx(hot / (hot - 0.8 * (hot - T0)), rel=0.03)
    assert drops(())[0] < before  # without a place of its own the cooler stands with the compressor


def test_the_air_behind_a_compressor_is_denser_so_that_the_same_mass_loses_less():
    """At twice the pressure, as cold as outside, half the drop; and the warmer it is, the more."""
    tree, passages, _ = PATHS["boosted three"][0]
    way = routes(tree)
    places = frozenset(place for place, e in enumerate(way.elements) if e.kind is ElementKind.RUNNER)

    def drop(**charge):
        draw = Draw(0.05, STANDARD_AIR, even_strokes(3), Charge(0.0, places, ratio=2.0, **charge))
        return engine_losses(way, passages, draw).rows[-1].drop

    plain = engine_losses(way, passages, Draw(0.05, STANDARD_AIR, even_strokes(3))).rows[-1].drop
    assert drop(cooling=1.0) == pytest.approx(plain / 2, rel=0.05)
    assert drop(cooling=0.0) > drop(cooling=0.7) > drop(cooling=1.0)
