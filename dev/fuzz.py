"""Requests that nobody would make: every address of the API's own description, with what it allows and what it does
not, and with ids that are kept here, so that they go deep. Whatever comes is answered, never with a fault of ours."""

import random
from collections import Counter
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from math import ceil
from typing import Any

KNOWN = 0.7  # how often an id is one that is kept
LISTS = {
    "people": "person_id", "benches": "bench_id", "dynos": "dyno_id", "jobs": "job_id", "closed": "job_id",
    "builds": "build_id", "parts": "part_id", "readings": "reading_id", "states": "state_id", "tests": "plan_id",
}  # fmt: skip
ALIKE = {"state_id": "before_state_id", "part_state_id": "before_state_id", "stock": "build_id", "other": "build_id",
         "copy_of": "build_id", "mounted": "part_state_id"}  # fmt: skip
CRAWLED = ("/shop", "/board", "/shelf")
OF_A_JOB = ("", "/bench", "/tests", "/dyno", "/checkin")
ENDLESS = "/live"


@dataclass
class Tally:
    """How each case was answered, by status, and those that made the server fall."""

    answers: Counter[int] = field(default_factory=Counter)
    fell: list[str] = field(default_factory=list)


def fuzz(client: Any, description: dict[str, Any], cases: int, seed: int = 1) -> Tally:
    """Send about so many cases through a client, spread over every operation; the same seed sends the same."""
    import schemathesis
    from hypothesis import HealthCheck, Phase, given, settings
    from hypothesis import seed as seeded

    found: Iterable[Any] = schemathesis.openapi.from_dict(description).get_all_operations()
    operations = [one.ok() for one in found]
    each, chance, ids, tally = ceil(cases / len(operations)), random.Random(seed), known_ids(client), Tally()
    how = settings(
        max_examples=each, database=None, deadline=None, phases=[Phase.generate],
        suppress_health_check=list(HealthCheck),
    )  # fmt: skip
    for operation in operations:

        @seeded(seed)
        @how
        @given(case=operation.as_strategy())
        def send(case: Any) -> None:
            if not case.path.endswith(ENDLESS):
                case.path_parameters = _known(case.path_parameters or {}, ids, chance)
            case.body = _known(case.body, ids, chance)
            _send(client, case, tally)

        send()
    return tally


def known_ids(client: Any) -> dict[str, list[str]]:
    """Ids that are kept, by what they are called in requests."""
    found: dict[str, set[str]] = {}
    for path in CRAWLED:
        _gather(client.get(f"/api{path}").json(), "", found)
    for job in sorted(found.get("job_id", ())):
        for sheet in OF_A_JOB:
            _gather(client.get(f"/api/jobs/{job}{sheet}").json(), "", found)
    for name, like in ALIKE.items():
        found.setdefault(name, set()).update(found.get(like, ()))
    return {name: sorted(ids) for name, ids in found.items()}


def _send(client: Any, case: Any, tally: Tally) -> None:
    told = case.as_transport_kwargs(base_url="http://127.0.0.1")
    try:
        answer = client.request(
            told["method"], told["url"], params=told.get("params"), json=told.get("json"), content=told.get("data"),
            headers={"content-type": "application/json"} if told.get("data") else None,
        )  # fmt: skip
    except (ValueError, UnicodeError, TypeError):  # nothing that a client can send
        return
    tally.answers[answer.status_code] += 1
    if answer.status_code >= 500:
        tally.fell.append(
            f"{told['method']} {told['url']} {told.get('params')} {told.get('json')}: {answer.text[:200]}"
        )


def _gather(value: Any, name: str, found: dict[str, set[str]]) -> None:
    for key, one in _entries(value):
        if isinstance(one, str) and key.endswith("_id"):
            found.setdefault(key, set()).add(one)
        elif isinstance(one, str) and key == "id" and name in LISTS:
            found.setdefault(LISTS[name], set()).add(one)
        elif isinstance(one, dict | list):
            _gather(one, key or name, found)


def _entries(value: Any) -> Iterator[tuple[str, Any]]:
    if isinstance(value, dict):
        yield from value.items()
    elif isinstance(value, list):
        yield from (("", one) for one in value)


def _known(value: Any, ids: dict[str, list[str]], chance: random.Random) -> Any:
    """A body or the parts of an address, with ids that are kept in most places where there are such."""
    if isinstance(value, list):
        return [_known(one, ids, chance) for one in value]
    if not isinstance(value, dict):
        return value
    return {
        key: chance.choice(ids[key])
        if isinstance(one, str) and ids.get(key) and chance.random() < KNOWN
        else _known(one, ids, chance)
        for key, one in value.items()
    }
