"""What becomes of each interface, by hand: who has a place for what, and what that needs and leaves over."""

import pytest

from elvarn.core.fit.interface import KINDS, Verb, kind_of
from elvarn.core.fit.order import graph_of
from elvarn.core.fit.schools import OF_CODE, oil_for
from elvarn.core.fit.swap import (
    Interface,
    Need,
    Part,
    Said,
    Sits,
    as_said,
    interface_strand,
    kit_of,
    part_strand,
    spare_strand,
    with_said,
    worth_renewing,
)
from elvarn.core.fit.tasks import Circumstances, tasks_of

SENSOR = Sits(0.0127)


@pytest.mark.parametrize(
    ("words", "name"),
    [("MAP sensor", "pressure sensor"), ("booster", "brake servo"), ("PCV", "breather"),
     ("idle valve", "idle-air valve"), ("MAF", "air meter"), ("earth", "earth strap"), ("Injectors", "injector"),
     ("widget", None)],
)  # fmt: skip
def test_words_of_the_trade_are_understood(words, name):
    kind = kind_of(words)
    assert (kind.name if kind else None) == name


def test_a_hose_says_which_way_it_flows_and_what_is_lost_without_it():
    for kind in KINDS:
        assert kind.lost, kind.name
        assert bool(kind.idle) == bool(kind.full), kind.name
    breather = kind_of("breather")
    assert "from the crankcase into the manifold" in breather.idle
    assert kind_of("brake servo").safety


@pytest.mark.parametrize(
    ("becomes", "known", "moved", "verb"),
    [
        (None, True, True, Verb.TRANSFER),
        (None, False, False, Verb.LOOK),
        (None, True, False, Verb.TAP),
        (Sits(0.0127), True, False, Verb.TRANSFER),
        (Sits(0.0120), True, False, Verb.REAM),
        (Sits(0.0135), True, False, Verb.ADAPT),
    ],
)
def test_a_sensor_by_how_it_sits_on_the_new_part(becomes, known, moved, verb):
    strand = interface_strand(Interface("pressure sensor", "manifold", SENSOR, becomes, known, moved))
    assert strand.verb is verb
    assert bool(strand.question) == (verb is Verb.LOOK)


def test_what_sits_on_a_part_that_is_taken_out_goes_with_it_and_the_tuner_is_told():
    strand = interface_strand(Interface("air meter", "meter", gone=True))
    assert (strand.verb, strand.how, strand.left) == (Verb.DELETE, "tell the tuner", ("air meter",))


def test_of_builds_that_are_alike_nothing_is_to_be_done():
    assert tasks_of([], Circumstances()) == []


def test_fuel_is_relieved_before_any_manifold_comes_off_though_nobody_noted_a_rail():
    manifold = part_strand(Part("manifold", "Manifold", "F5", "S5"))
    graph = graph_of(tasks_of([manifold], Circumstances()))
    assert "fuel relieved" in {one.key for one in graph.befores["off part manifold"]}
    assert "fuel leak" in {one.key for one in graph.befores["start"]}


def test_a_boss_is_reamed_to_the_sensor_and_measured():
    strand = interface_strand(Interface("pressure sensor", "manifold", SENSOR, Sits(0.012)))
    assert strand.tools == ("reamer 12.70 mm", "bore gauge")
    (task,) = (one for one in tasks_of([strand], Circumstances()) if one.key.startswith("do "))
    assert task.asks.low == pytest.approx(0.0127)
    assert task.asks.low < task.asks.high < 0.0128


def test_another_signal_is_a_question_and_another_plug_a_harness():
    was = Sits(None, "six-way", "two tracks, opposed")
    signal = interface_strand(
        Interface("throttle position", "throttle", was, Sits(None, "six-way", "two tracks, alike"))
    )
    assert "Limp mode" in signal.question
    plug = interface_strand(
        Interface("throttle position", "throttle", was, Sits(None, "four-way", "Two tracks, opposed"))
    )
    assert (plug.verb, plug.question) == (Verb.ADAPT, "")
    assert plug.needs == (Need("adapter harness, six-way to four-way"),)


@pytest.mark.parametrize(
    ("words", "verb", "left"),
    [("brake servo", Verb.TAP, ()), ("throttle coolant", Verb.LOOP, ("throttle coolant hose",)),
     ("flaps", Verb.DELETE, ("flaps",)), ("idle-air valve", Verb.BLANK, ("idle-air valve",))],
)  # fmt: skip
def test_without_a_place_the_usual_is_done(words, verb, left):
    strand = interface_strand(Interface(words, "manifold", becomes=None))
    assert (strand.verb, strand.left) == (verb, left)


def test_what_somebody_decided_goes_before():
    strand = interface_strand(Interface("purge", "manifold", known=False))
    (said,) = with_said([strand], {"manifold purge": Said(Verb.BLANK, "race only")})
    assert (said.verb, said.how, said.question) == (Verb.BLANK, "race only", "")
    for verb in Verb:
        if verb is not Verb.LOOK:
            assert as_said(strand, Said(verb)).verb is verb


def test_a_part_that_is_cut_goes_on_again_and_another_leaves_the_old_one_over():
    cut = part_strand(Part("manifold", "Manifold", "F5", "F5, stage 2", same=True, seals=(Need("flange gasket", 2),)))
    assert (cut.verb, cut.left, cut.how) == (Verb.TRANSFER, (), "2 × flange gasket")
    new = part_strand(Part("manifold", "Manifold", "F5", "S5", mass=14.0, longer=0.024))
    assert (new.verb, new.left, new.people) == (Verb.NEW, ("F5",), 2)
    assert Need("coupler 24 mm shorter") in new.needs
    assert part_strand(Part("filter", "Filter", "box", "")).verb is Verb.DELETE


def test_a_place_that_nothing_connects_to_is_capped():
    strand = spare_strand("breather", "manifold")
    assert (strand.verb, strand.off, strand.needs) == (Verb.BLANK, "", (Need("cap for the breather place"),))
    tasks = {task.key for task in tasks_of([strand], Circumstances())}
    assert "do manifold spare breather" in tasks
    assert "off manifold spare breather" not in tasks


def test_the_kit_counts_rings_by_size():
    injectors = interface_strand(Interface("injector", "manifold", Sits(0.0138), Sits(0.0138), count=5, rings=2))
    sensor = interface_strand(Interface("pressure sensor", "manifold", SENSOR, SENSOR))
    kit = kit_of([injectors, sensor])
    assert kit == {"O-ring for the injector, bore 13.8 mm": 10, "O-ring for the pressure sensor, bore 12.7 mm": 1}


def test_worth_renewing_is_what_is_open():
    manifold = part_strand(Part("manifold", "Manifold", "F5", "S5"))
    assert all(one.on == "manifold" for one in worth_renewing([manifold]))
    assert worth_renewing([]) == []


def test_every_way_has_a_reason_and_the_first_one_stands():
    for school in OF_CODE.values():
        assert all(way.why for way in school.ways)
        assert school.way("nonsense") is school.ways[0]


@pytest.mark.parametrize(
    ("seal", "fuel", "oil"),
    [("silicone", "", "engine oil"), ("EPDM", "", "silicone grease"), ("FKM", "petrol", "engine oil"),
     ("FKM", "E85", "silicone grease"), ("NBR", "", "engine oil")],
)  # fmt: skip
def test_a_ring_is_put_in_with_what_suits_its_seal_and_fuel(seal, fuel, oil):
    assert oil_for(seal, fuel)[0] == oil
