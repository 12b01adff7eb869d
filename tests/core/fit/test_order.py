"""The order of fitting: every order keeps every rule, whatever the swap, and a circle of rules is refused."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as some

from elvarn.core.fit.interface import KINDS, Verb
from elvarn.core.fit.order import RULES, FitRule, FitTask, Phase, graph_of
from elvarn.core.fit.schools import SCHOOLS
from elvarn.core.fit.swap import Interface, Part, Said, Sits, interface_strand, part_strand, with_said
from elvarn.core.fit.tasks import Circumstances, tasks_of

PARTS = ("filter", "tube", "meter", "throttle", "manifold")


@some.composite
def swaps(draw):
    """A swap of some parts with some of all interfaces, each as it may come, and circumstances of any kind."""
    on = draw(some.lists(some.sampled_from(PARTS), min_size=1, unique=True))
    strands = [
        part_strand(
            Part(kind, kind, f"old {kind}", draw(some.sampled_from([f"new {kind}", ""])), draw(some.booleans()))
        )
        for kind in on
    ]
    for kind in draw(some.lists(some.sampled_from(KINDS), unique_by=lambda one: one.name)):
        becomes = draw(some.sampled_from([None, Sits(), Sits(0.012, "six-way", "alike"), Sits(0.0135)]))
        was = draw(some.sampled_from([Sits(), Sits(0.0127, "four-way", "opposed")]))
        one = Interface(kind.name, kind.on, was, becomes, draw(some.booleans()), draw(some.booleans()))
        strands.append(interface_strand(one))
    verbs = draw(some.dictionaries(some.sampled_from([s.key for s in strands if not s.part] or ["none"]),
                                   some.sampled_from([v for v in Verb if v is not Verb.LOOK])))  # fmt: skip
    strands = with_said(strands, {key: Said(verb) for key, verb in verbs.items()})
    schools = {one.code: draw(some.sampled_from(one.ways)).word for one in SCHOOLS}
    at = Circumstances(
        tuple(draw(some.lists(some.sampled_from(["seat", "cover"]), unique=True))),
        tuple(draw(some.lists(some.sampled_from(["knock sensor", "hoses"]), unique=True))),
        draw(some.sampled_from(["vacuum", "other", "none", None])),
        draw(some.booleans()),
        schools,
        draw(some.booleans()),
    )
    return strands, at


@settings(max_examples=150, deadline=None)
@given(swaps())
def test_every_order_keeps_every_rule(swap):
    strands, at = swap
    tasks = tasks_of(strands, at)
    assert len({task.key for task in tasks}) == len(tasks)
    order = graph_of(tasks).tasks
    assert {task.key for task in order} == {task.key for task in tasks}
    place = {task.key: n for n, task in enumerate(order)}
    for rule in RULES:
        for first in order:
            for then in order:
                both = rule.first in first.all_tags and rule.then in then.all_tags and first is not then
                if both and (not rule.own or first.strand == then.strand):
                    assert place[first.key] < place[then.key], (rule, first.key, then.key)


@settings(max_examples=60, deadline=None)
@given(swaps())
def test_nothing_is_started_before_what_can_hurt_is_checked(swap):
    strands, at = swap
    graph = graph_of(tasks_of(strands, at))
    keys = [task.key for task in graph.tasks]
    if at.mock_up:
        assert "start" not in keys
        assert "sign off" not in keys
        return
    before = {one.key for one in graph.befores["start"]}
    assert {"shaft", "sweep", "local code"} <= before
    assert {task.key for task in graph.tasks if task.phase is Phase.BEFORE} <= before
    assert keys[-1] == "sign off"
    if at.brakes in ("vacuum", "other", None):
        assert "servo" in before


def test_what_waits_is_told_with_why():
    tasks = [FitTask("b", "B", Phase.OFF, frozenset({"then"})), FitTask("a", "A", Phase.SIGN, frozenset({"first"}))]
    graph = graph_of(tasks, [FitRule("first", "then", "because")])
    assert [task.key for task in graph.tasks] == ["a", "b"]
    assert [(one.key, one.why) for one in graph.holds_up("b", {"a", "b"})] == [("a", "because")]
    assert graph.holds_up("b", {"b"}) == []


def test_rules_that_go_round_in_a_circle_are_refused():
    tasks = [FitTask("a", "A", Phase.OFF, frozenset({"one"})), FitTask("b", "B", Phase.OFF, frozenset({"two"}))]
    rules = [FitRule("one", "two", ""), FitRule("two", "one", "")]
    with pytest.raises(ValueError, match="wait for each other"):
        graph_of(tasks, rules)


def test_where_people_differ_the_order_follows_the_way_that_is_taken():
    strands = [part_strand(Part(kind, kind, f"old {kind}", f"new {kind}")) for kind in ("throttle", "manifold")]

    def place(way):
        keys = [task.key for task in graph_of(tasks_of(strands, Circumstances(schools={"throttle": way}))).tasks]
        return keys.index("on part throttle") - keys.index("bolts")

    assert place("before the flange is tight") < 0
    assert place("last") > 0
