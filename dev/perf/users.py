"""People who work at the same time, in a process of their own: four looks for each capture, and a breath after either.
Told on standard input what to ask; tells on standard output how long each took."""

import json
import random
import sys
import threading
import time
from datetime import UTC, datetime
from typing import Any
from uuid import uuid4

from dev.asking import Asking

LOOKS = 4  # for each capture


def work(told: dict[str, Any]) -> dict[str, list[float]]:
    """Let everybody work for a while. Returns the times of looks at the sheet, of others, and of captures [s]."""
    took: dict[str, list[float]] = {"sheet": [], "look": [], "capture": [], "failed": []}
    until = time.monotonic() + told["seconds"]
    people = [threading.Thread(target=_person, args=(told, number, until, took)) for number in range(told["people"])]
    for person in people:
        person.start()
    for person in people:
        person.join()
    return took


def _person(told: dict[str, Any], number: int, until: float, took: dict[str, list[float]]) -> None:
    chance, connection = random.Random(number), Asking(told["port"], told["key"])
    time.sleep(chance.random() * told["breath"])
    while time.monotonic() < until:
        kind = "capture" if chance.randrange(LOOKS + 1) == 0 else "look"
        began = time.perf_counter()
        if kind == "look":
            path = chance.choice(told["looks"])
            kind = "sheet" if path == told["sheet"] else kind
            connection.request("GET", path)
        else:
            body = {**told["figure"], "cylinder": chance.randint(1, told["runners"]),
                    "taken_at": datetime.now(UTC).isoformat()}  # fmt: skip
            path = told["capture"].replace("{id}", str(uuid4()))
            connection.request("PUT", path, json.dumps(body), {"content-type": "application/json"})
        answer = connection.getresponse()
        answer.read()
        took[kind if answer.status == 200 else "failed"].append(time.perf_counter() - began)
        time.sleep(chance.expovariate(1 / told["breath"]))


if __name__ == "__main__":
    json.dump(work(json.load(sys.stdin)), sys.stdout)
