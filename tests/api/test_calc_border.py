"""Whatever a calculation is asked, it is answered: computed, or refused with the reason."""

import copy

import pytest

from elvarn.service.calc import CALCULATIONS

ODD = (0, -1, 1e308, -1e308, 1e-308, 10**30, "x", "", None, [], {}, [0], [1e308, 1], True)


def places(value, path=()):
    """Every place in an example, with what holds others."""
    if path:
        yield path
    if isinstance(value, dict):
        for key, inner in value.items():
            yield from places(inner, (*path, key))
    if isinstance(value, list):
        for index, inner in enumerate(value[:2]):
            yield from places(inner, (*path, index))


def put_at(example, path, value):
    changed = copy.deepcopy(example)
    holder = changed
    for step in path[:-1]:
        holder = holder[step]
    holder[path[-1]] = value
    return changed


@pytest.mark.parametrize("name", CALCULATIONS)
def test_whatever_stands_in_a_field_is_answered(client, name):
    example = CALCULATIONS[name].example
    fell = set()
    for path in places(example):
        for odd in ODD:
            answer = client.post(f"/api/calc/{name}", json=put_at(example, path, odd))
            if answer.status_code not in (200, 422):
                fell.add((path, str(odd), answer.status_code))
    assert fell == set()
