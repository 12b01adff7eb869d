"""People who work at the same time, in a process of their own: four looks for each capture, and a breath after either.
Told on standard input what to ask; tells on standard output how long each took."""

import json
import random
import sys
import time
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime
from typing import Any
from uuid import uuid4

from dev.asking import Asking

LOOKS = 4  # for each capture


def work(told: dict[str, Any]) -> dict[str, list[float]]:
    """Let everybody work for a while. Returns the times of looks at the sheet, of others, and of captures [s]."""
    took: dict[str, list[float]] = {"sheet": [], "look": [], "capture": [], "failed": []}
    until = time.monotonic() + told["seconds"]
    with ThreadPoolExecutor(told["people"]) as people:
        list(people.map(lambda number: _person(told, number, until, took), range(told["people"])))
    return took


def _person(told: dict[str, Any], number: int, until: float, took: dict[str, list[float]]) -> None:
    chance, connection = random.Random(number), Asking(told["port"], told["key"])
    time.sleep(chance.random() * told["breath"])
    while time.monotonic() < until:
        kind, asked = _wanted(told, chance)
        began = time.perf_counter()
        status, _ = connection.answer(*asked, {"content-type": "application/json"})
        took[kind if status == 200 else "failed"].append(time.perf_counter() - began)
        time.sleep(chance.expovariate(1 / told["breath"]))


def _wanted(told: dict[str, Any], chance: random.Random) -> tuple[str, tuple[str, str, str | None]]:
    """What a person does next, and what is asked for it: method, path and body."""
    if chance.randrange(LOOKS + 1):
        path = chance.choice(told["looks"])
        return "sheet" if path == told["sheet"] else "look", ("GET", path, None)
    cylinder = chance.randint(1, told["runners"])
    body = {**told["figure"], "cylinder": cylinder, "taken_at": datetime.now(UTC).isoformat()}
    return "capture", ("PUT", told["capture"].replace("{id}", str(uuid4())), json.dumps(body))


if __name__ == "__main__":
    json.dump(work(json.load(sys.stdin)), sys.stdout)
