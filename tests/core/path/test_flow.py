"""Flow through the whole path: against the trade's example, a library's chain, and what must always hold."""

from math import inf, isfinite, pi, sqrt

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import brentq

from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE, HEAT_CAPACITY_RATIO_AIR, REFERENCE_DEPRESSION
from elvarn.core.engine.strokes import drawing_factor, even_strokes, peak_over_mean, steady_equivalent
from elvarn.core.errors import Inconsistent, NotEnoughData, OutOfRange
from elvarn.core.gas.air import STANDARD_AIR, density_ideal
from elvarn.core.gas.discharge import effective_area, volume_flow_of
from elvarn.core.path.backsolve import (
    agreement,
    back_solved_flow,
    combined_flow,
    flow_for_share,
    rule_of_thumb_alone,
    rule_of_thumb_flow,
)
from elvarn.core.path.chain import chain_flow, pressures_along, series_area
from elvarn.core.path.engine_losses import Draw, drops_to_plenum, engine_losses
from elvarn.core.path.ledger import rows_of
from elvarn.core.path.passage import Bend, Geometry, estimated, lossless, measured
from elvarn.core.path.pinch import pinch, pinch_before_runners
from elvarn.core.path.port_flow import port_flow
from elvarn.core.path.routes import routes
from elvarn.core.path.tree import Branches, Element, ElementKind, Series, usual_path

CFM = CUBIC_FOOT_PER_MINUTE
K = HEAT_CAPACITY_RATIO_AIR


def cfm(flow, bore=None, bore_out=None):
    return measured(flow * CFM, REFERENCE_DEPRESSION, bore, bore_out)


def in_line(*flows):
    """Tubes in a row, the last one the runner of a single."""
    elements = [Element(ElementKind.TUBE, f"Tube {n}") for n in range(len(flows) - 1)]
    tree = Series((*elements, Element(ElementKind.RUNNER, "Runner", 1)))
    return routes(tree), [cfm(flow) for flow in flows]


def five(upstream=(612, 498, 655, 620), runner=205):
    passages = [cfm(flow, bore) for flow, bore in zip(upstream, (0.098, 0.070, 0.076, 0.065), strict=True)]
    return routes(usual_path(5)), [*passages, lossless(0.088), *[cfm(runner, 0.044, 0.040)] * 5]


def draw(mass_flow=0.16, cylinders=5, order=()):
    return Draw(mass_flow, STANDARD_AIR, even_strokes(cylinders, order))


def orifice(area, upstream, downstream, temperature=STANDARD_AIR.temperature):
    gas_constant = STANDARD_AIR.pressure / (density_ideal(STANDARD_AIR) * STANDARD_AIR.temperature)
    ratio = max(downstream / upstream, (2 / (K + 1)) ** (K / (K - 1)))
    root = ratio ** (2 / K) - ratio ** ((K + 1) / K)
    return area * upstream * sqrt(2 * K / ((K - 1) * gas_constant * temperature) * root)


def test_weakest_link_and_series_of_the_trades_example():
    """Common practice, no source: opening 1000, throttle 950, tube 650, filter 550: no more than 550, in truth less."""
    way, passages = in_line(550, 650, 950, 1000)
    found = port_flow(way, passages, 1, REFERENCE_DEPRESSION)
    assert found.weakest / CFM == pytest.approx(550)
    assert found.weakest_place == 0
    assert found.series / CFM == pytest.approx(
        rule_of_thumb_flow((550, 650, 950, 1000)), rel=0.02
    )  # less drop in each, so less expansion
    assert found.series <= found.carried <= found.weakest
    assert sum(found.shares.values()) == pytest.approx(1)
    assert max(found.shares, key=found.shares.get) == 0


@pytest.mark.independent
@pytest.mark.parametrize("depression", [2500.0, REFERENCE_DEPRESSION, 20000.0])
def test_compressible_chain_agrees_with_two_orifices_solved_by_scipy(depression):
    first, second = 0.0021, 0.0013
    end = STANDARD_AIR.pressure - depression

    def mismatch(between):
        return orifice(first, STANDARD_AIR.pressure, between) - orifice(second, between, end)

    between = brentq(mismatch, end + 1e-6, STANDARD_AIR.pressure - 1e-6)
    expected = orifice(first, STANDARD_AIR.pressure, between)
    assert chain_flow(np.array([[first], [second]]), depression)[0] == pytest.approx(expected, rel=1e-7)


@pytest.mark.independent
def test_one_element_is_the_nozzle_of_the_fluid_library():
    """The expansibility factor of ISO 5167-4 as the fluid library has it, without approach velocity."""
    from fluids.flow_meter import nozzle_expansibility

    area, drop, density = 0.002, REFERENCE_DEPRESSION, density_ideal(STANDARD_AIR)
    epsilon = nozzle_expansibility(D=1.0, Do=1e-4, P1=STANDARD_AIR.pressure, P2=STANDARD_AIR.pressure - drop, k=K)
    expected = area * epsilon * sqrt(2 * drop * density)
    assert chain_flow(np.array([[area]]), drop)[0] == pytest.approx(expected, rel=1e-6)


def test_a_jet_carried_on_loses_less_and_stays_below_the_weakest():
    way, passages = five()
    found = port_flow(way, passages, 1, REFERENCE_DEPRESSION)
    assert found.series < found.carried <= found.high <= found.weakest * (1 + 1e-9)
    assert found.low == pytest.approx(found.series)


def test_effective_area_of_a_cfm():
    """4.556 mm² for a CFM at 28 inH2O, 101325 Pa and 293.15 K; the incompressible 4.385 is 3.8 % too small."""
    assert effective_area(CFM, REFERENCE_DEPRESSION) * 1e6 == pytest.approx(4.556, abs=0.001)
    assert volume_flow_of(effective_area(0.1, 5000), 5000) == pytest.approx(0.1)


def test_choked_elements_are_named_and_nothing_is_nan():
    way, passages = five(runner=60)
    found = engine_losses(way, passages, draw(0.25))
    assert set(found.choked) == {5, 6, 7, 8, 9}
    assert found.total == inf
    assert all(row.drop is None for row in found.rows)


@given(st.lists(st.floats(0.0005, 0.01), min_size=1, max_size=12), st.floats(500, 20000))
def test_chain_flow_spends_the_depression_and_adds_no_air(areas, depression):
    table = np.array(areas)[:, None]
    flow = chain_flow(table, depression)
    pressures = pressures_along(table, flow[None, :])[:, 0]
    assert pressures[-1] == pytest.approx(STANDARD_AIR.pressure - depression, rel=1e-6)
    assert np.all(np.diff(pressures) <= 0)
    weakest = volume_flow_of(min(areas), depression)
    assert flow[0] / density_ideal(STANDARD_AIR) <= weakest * (1 + 1e-6)


@given(st.lists(st.floats(100, 900), min_size=2, max_size=8), st.floats(500, 30000))
def test_back_solving_undoes_the_chain(flows, depression):
    """Also by the rule of thumb, and the path's own figure for a port is the same one."""
    air = [flow * CFM for flow in flows]
    assert back_solved_flow(combined_flow(air, depression), air[:-1], depression) == pytest.approx(air[-1], rel=1e-4)
    assert rule_of_thumb_alone(rule_of_thumb_flow(air), air[:-1]) == pytest.approx(air[-1], rel=1e-6)
    way, passages = in_line(*flows)
    port = port_flow(way, passages, 1, REFERENCE_DEPRESSION)
    assert port.series == pytest.approx(combined_flow(air, REFERENCE_DEPRESSION), rel=1e-9)
    assert port.by_rule == pytest.approx(rule_of_thumb_flow(air), rel=1e-9)


def test_the_rule_of_thumb_is_close_where_the_air_hardly_expands():
    """By Bernoulli the two are one for a small depression; at a large one they part."""
    air = [300 * CFM, 250 * CFM]
    assert combined_flow(air, 10.0) == pytest.approx(rule_of_thumb_flow(air), rel=1e-4)
    assert combined_flow(air, 20000.0) != pytest.approx(rule_of_thumb_flow(air), rel=5e-3)


def test_back_solved_runner_of_the_trades_example():
    """Common practice, no source: 276 with a throttle of 990, 285 with 1205: the runner alone, and 2 % apart."""
    first, second = rule_of_thumb_alone(276, [990]), rule_of_thumb_alone(285, [1205])
    assert (first, second) == pytest.approx((287.4, 293.3), abs=0.1)
    assert agreement((first, second)) is not None
    assert agreement((287.0, 289.0)) is None


def test_a_combination_above_its_weakest_element_is_told():
    with pytest.raises(Inconsistent, match="more than the weakest") as caught:
        back_solved_flow(282 * CFM, [276 * CFM], REFERENCE_DEPRESSION)
    assert "same entry" in caught.value.remedy
    with pytest.raises(Inconsistent, match="more than the weakest"):
        rule_of_thumb_alone(282, [276])


def test_flow_that_an_element_needs_for_its_share():
    flows = [550.0, 650.0, 950.0, 1000.0]
    wanted = flow_for_share(flows, 0, 0.25)
    shares = [1 / flow**2 for flow in (wanted, *flows[1:])]
    assert shares[0] / sum(shares) == pytest.approx(0.25)
    for limit in (0, 1):
        with pytest.raises(OutOfRange):
            flow_for_share(flows, 0, limit)
    with pytest.raises(OutOfRange, match="alone"):
        flow_for_share([500.0], 0, 0.2)


@pytest.mark.parametrize("duration", [180.0, 220.0, 280.0])
def test_drawing_factor_of_one_cylinder_is_the_closed_form(duration):
    strokes = even_strokes(1, duration_deg=duration)
    angle = (np.arange(100_000) + 0.5) / 100_000 * 720
    flow = np.where(angle < duration, np.sin(pi * angle / duration), 0)
    expected = float(np.mean(flow**3) / np.mean(flow) ** 3)
    assert drawing_factor(strokes, (1,)) == pytest.approx(expected, rel=1e-3)


def test_more_cylinders_draw_more_steadily():
    factors = [drawing_factor(even_strokes(n), tuple(range(1, n + 1))) for n in (1, 2, 3, 4, 6, 8)]
    assert factors == sorted(factors, reverse=True)
    assert factors[-1] == pytest.approx(1, abs=0.02)
    assert all(factor >= 1 for factor in factors)


def test_a_bank_that_fires_unevenly_draws_less_steadily():
    """A two-bank eight with a cross-plane shaft: four cylinders of one bank, firing at 90, 180, 270 and 180 degrees."""
    strokes = even_strokes(8, (1, 8, 4, 3, 6, 5, 7, 2))
    bank = (1, 3, 5, 7)
    assert drawing_factor(strokes, bank) > drawing_factor(even_strokes(4), (1, 2, 3, 4))


def test_full_flow_lies_above_the_average_by_what_the_strokes_do():
    """A throttle each feels its cylinder alone: π/2 · 720/220 of the mean flow at the height of its stroke,
    π²/6 (720/220)² of the loss on average. Behind a plenum all is steady."""
    throttles = [Series((Element(ElementKind.THROTTLE, f"T{n}", n), Element(ElementKind.RUNNER, f"R{n}", n))) for n in
                 (1, 2)]  # fmt: skip
    way, passages = routes(Branches(tuple(throttles))), [cfm(2000, 0.05), cfm(3000)] * 2
    found = engine_losses(way, passages, draw(0.01, cylinders=2))
    assert found.peak / found.total == pytest.approx((pi / 2) ** 2 / (pi**2 / 6), rel=2e-3)
    way, passages = five()
    found = engine_losses(way, passages, draw(0.12))
    assert found.peak_to_plenum == pytest.approx(found.to_plenum, rel=1e-9)
    assert found.peak > found.total
    choked = engine_losses(way, [*passages[:-5], *[cfm(100)] * 5], draw(0.12))
    assert choked.choked == ()
    assert choked.peak == inf


def test_the_height_of_two_strokes_that_overlap():
    """Two cylinders 180° apart, 220° open: the sum of the half sines where it is highest, over its mean."""
    angle = np.linspace(0, 720, 720_001)
    strokes = [np.where((angle - b) % 720 < 220, np.sin(pi * ((angle - b) % 720) / 220), 0) for b in (0, 180)]
    flow = sum(strokes)
    found = peak_over_mean(even_strokes(4), (1, 2))
    assert found == pytest.approx(float(flow.max() / flow.mean()), rel=1e-3)


def test_a_runner_is_never_compared_straight_with_the_engine():
    factor = drawing_factor(even_strokes(5), (1,))
    equivalent = steady_equivalent(205.0, 5, factor)
    assert equivalent < 5 * 205 / 2
    way, passages = five()
    mass = 0.12
    found = engine_losses(way, passages, draw(mass))
    runners = next(row for row in found.rows if row.row.kind == "runner")
    alone = effective_area(equivalent * CFM, REFERENCE_DEPRESSION)
    rough = (mass / alone) ** 2 / (2 * density_ideal(STANDARD_AIR))
    assert runners.drop == pytest.approx(rough, rel=0.15)


def test_the_pinch_of_a_five_is_what_passes_least_for_its_air():
    way, passages = five()
    found = engine_losses(way, passages, draw())
    assert pinch(found).row.label == "Runners"
    assert pinch_before_runners(found).row.label == "Tube"
    assert sum(row.share for row in found.rows) == pytest.approx(1, abs=1e-9)
    assert found.low < found.total <= found.high
    assert found.to_plenum < found.total
    tube = pinch_before_runners(found)
    others = [row for row in found.rows if len(row.row.places) == 1 and row is not tube and row.per_millimetre]
    assert all(tube.per_millimetre > row.per_millimetre for row in others if row.row.label != "Throttle")


def test_drops_at_many_flows_are_those_at_each():
    way, passages = five()
    flows = np.array([0.05, 0.10, 0.16, 5.0])
    found = drops_to_plenum(way, passages, flows, draw())
    each = [engine_losses(way, passages, draw(flow)).to_plenum for flow in flows[:3]]
    assert found[:3] == pytest.approx(each)
    assert np.isnan(found[3])
    single = routes(Element(ElementKind.RUNNER, "Runner", 1))
    assert drops_to_plenum(single, [cfm(200)], flows, draw(0.1, 1)).tolist() == [0] * 4


def test_a_millimetre_gains_what_the_path_solved_again_gains():
    way, passages = five()
    base = engine_losses(way, passages, draw())
    tube = next(row for row in base.rows if row.row.label == "Tube")
    wider = list(passages)
    area = passages[1].area * (71 / 70) ** 2
    wider[1] = measured(volume_flow_of(area, REFERENCE_DEPRESSION), REFERENCE_DEPRESSION, 0.071)
    again = engine_losses(way, wider, draw())
    gained = (base.total - again.total) / (STANDARD_AIR.pressure - base.total)
    assert tube.per_millimetre == pytest.approx(gained, rel=1e-3)


def test_wanted_area_brings_the_share_to_its_limit():
    way, passages = five()
    base = engine_losses(way, passages, draw(0.08), share_limit=0.4)
    runners = next(row for row in base.rows if row.row.kind == "runner")
    opened = measured(volume_flow_of(runners.wanted_area, REFERENCE_DEPRESSION), REFERENCE_DEPRESSION)
    again = engine_losses(way, [*passages[:5], *[opened] * 5], draw(0.08))
    share = next(row for row in again.rows if row.row.kind == "runner").share
    assert share == pytest.approx(0.4, abs=0.01)
    assert next(row for row in base.rows if row.row.label == "Meter").wanted_area is None


def test_unknown_geometry_gives_bounds_instead_of_a_guess():
    way, passages = five()
    unknown = [*passages[:2], None, *passages[3:]]
    port = port_flow(way, unknown, 3, REFERENCE_DEPRESSION)
    assert port.low is None
    assert port.unknown == (2,)
    assert port.series > port_flow(way, passages, 3, REFERENCE_DEPRESSION).series
    losses = engine_losses(way, unknown, draw())
    assert losses.high == inf
    assert next(row for row in losses.rows if row.row.label == "Meter").share is None
    with pytest.raises(NotEnoughData):
        port_flow(way, [None] * 10, 1, REFERENCE_DEPRESSION)
    with pytest.raises(OutOfRange, match="not fed"):
        port_flow(way, passages, 9, REFERENCE_DEPRESSION)


def test_two_ducts_into_one_box_add_their_flows():
    ducts = Branches((Element(ElementKind.INLET, "Left duct"), Element(ElementKind.INLET, "Right duct")))
    tree = Series((ducts, Element(ElementKind.FILTER, "Filter"), Element(ElementKind.RUNNER, "Runner", 1)))
    way = routes(tree)
    both = port_flow(way, [cfm(200), cfm(300), cfm(600), cfm(250)], 1, REFERENCE_DEPRESSION)
    one = in_line(500, 600, 250)
    assert both.series == pytest.approx(port_flow(*one, 1, REFERENCE_DEPRESSION).series, rel=1e-9)
    losses = engine_losses(way, [cfm(200), cfm(300), cfm(600), cfm(250)], draw(0.03, 1))
    left, right = losses.rows[0], losses.rows[1]
    assert right.drop / left.drop == pytest.approx(1.5)


def two_bank_eight():
    def bank(number, cylinders):
        runners = tuple(Element(ElementKind.RUNNER, f"Runner {n}", n, number) for n in cylinders)
        throttle = Element(ElementKind.THROTTLE, f"Throttle {number}", bank=number)
        return Series((throttle, Element(ElementKind.PLENUM, f"Plenum {number}", bank=number), Branches(runners)))

    return Series((Element(ElementKind.FILTER, "Filter"), Branches((bank(1, (1, 3, 5, 7)), bank(2, (2, 4, 6, 8))))))


def test_two_bank_eight_feeds_each_bank_through_its_own_throttle():
    way = routes(two_bank_eight())
    passages = [cfm(900), cfm(420), lossless(), *[cfm(220)] * 4, cfm(300), lossless(), *[cfm(220)] * 4]
    losses = engine_losses(way, passages, draw(0.2, 8, (1, 8, 4, 3, 6, 5, 7, 2)))
    assert port_flow(way, passages, 1, REFERENCE_DEPRESSION).series > port_flow(
        way, passages, 2, REFERENCE_DEPRESSION).series  # fmt: skip
    labels = {row.row.label: row.drop for row in losses.rows}
    assert labels["Throttle 2"] > labels["Throttle 1"]
    assert pinch_before_runners(losses).row.label == "Throttle 2"
    assert way.stages[2][1].cylinders == (2, 4, 6, 8)


def test_a_throttle_for_each_cylinder_feels_its_stroke():
    branch = [
        Series((Element(ElementKind.THROTTLE, f"Throttle {n}", n), Element(ElementKind.RUNNER, f"Runner {n}", n)))
        for n in (1, 2, 3, 4)
    ]
    way = routes(Series((Element(ElementKind.FILTER, "Filter"), Branches(tuple(branch)))))
    passages = [cfm(900), *[cfm(260), cfm(220)] * 4]
    rows = rows_of(way, passages)
    assert [row.label for row in rows] == ["Filter", "Throttles", "Runners"]
    losses = engine_losses(way, passages, draw(0.15, 4))
    assert losses.to_plenum == pytest.approx(losses.rows[0].drop, rel=1e-6)
    assert losses.rows[1].drop > losses.rows[0].drop


def test_flat_six_and_twin_and_single_have_routes():
    six = routes(
        Branches(
            tuple(
                Series(
                    (
                        Element(ElementKind.THROTTLE, f"T{b}"),
                        Element(ElementKind.PLENUM, f"P{b}"),
                        Branches(
                            tuple(Element(ElementKind.RUNNER, f"R{n}", n, b) for n in range(3 * b - 2, 3 * b + 1))
                        ),
                    )
                )
                for b in (1, 2)
            )
        )
    )
    assert six.cylinders == (1, 2, 3, 4, 5, 6)
    assert {len(stages) for stages in six.stages.values()} == {3}
    for count in (1, 2):
        assert routes(usual_path(count)).cylinders == tuple(range(1, count + 1))


def test_a_path_without_ports_has_no_routes():
    with pytest.raises(Inconsistent, match="no cylinder"):
        routes(Series((Element(ElementKind.TUBE, "Tube"),)))
    with pytest.raises(Inconsistent, match="no cylinder"):
        routes(Series((Branches((Element(ElementKind.RUNNER, "R", 1),)), Element(ElementKind.TUBE, "Tube"))))


@pytest.mark.parametrize("order", [(1, 2, 3, 3), (1, 2, 3), (1, 2, 3, 5)])
def test_a_firing_order_names_each_cylinder_once(order):
    with pytest.raises(Inconsistent, match="Cylinder"):
        even_strokes(4, order)


def test_estimates_from_geometry_lie_below_their_bore_and_hold_their_range():
    tube = estimated("tube", Geometry(0.070, 0.070, 0.42, bends=(Bend(90, 1.5), Bend(45, 0))))
    ribbed = estimated("tube", Geometry(0.070, 0.070, 0.42, bends=(Bend(90, 1.5), Bend(45, 0)), ribbed=True))
    straight = estimated("tube", Geometry(0.070, 0.070, 0.42, entry_radius=0.014))
    assert ribbed.area < tube.area < straight.area
    for passage in (tube, ribbed, straight):
        assert passage.low < passage.area < passage.high <= pi / 4 * 0.070**2
    filter_box = estimated("filter", Geometry(0.098))
    assert filter_box.area is None
    assert filter_box.high == pytest.approx(pi / 4 * 0.098**2)
    throttle = estimated("throttle", Geometry(0.065, shaft=0.008))
    assert 0.6 < throttle.area / (pi / 4 * 0.065**2) < 0.8
    assert not isfinite(estimated("plenum", Geometry(0.088)).area)
    tapered = estimated("runner", Geometry(0.044, 0.040, 0.31, entry_radius=0.01, cast=True))
    widening = estimated("runner", Geometry(0.040, 0.044, 0.31, entry_radius=0.01, cast=True))
    assert tapered.area < pi / 4 * 0.040**2 < widening.high


def test_series_rule_of_areas():
    assert float(series_area(np.array([3.0, 4.0]))) == pytest.approx(2.4)
    with pytest.raises(NotEnoughData):
        series_area(np.array([]))


def test_a_throttle_that_half_of_the_air_passes_is_met_by_that_half_at_twice_the_average():
    way = routes(two_bank_eight())
    passages = [cfm(900), cfm(420), lossless(), *[cfm(220)] * 4, cfm(420), lossless(), *[cfm(220)] * 4]
    rows = {row.row.label: row for row in engine_losses(way, passages, draw(0.2, 8)).rows}
    assert rows["Throttle 1"].met == pytest.approx(2 * rows["Throttle 1"].drop)
    assert rows["Filter"].met == pytest.approx(rows["Filter"].drop)
    assert rows["Runners"].met == pytest.approx(rows["Runners"].drop)
