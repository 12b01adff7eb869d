"""The published check values of tests/checks, each with its source, and how near a result has to come."""

import csv
import json
import re
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

FOLDER = Path(__file__).parents[1] / "checks"


@dataclass(frozen=True)
class CheckRow:
    identifier: str
    inputs: dict[str, Any]
    expected: str
    tolerance: str
    source: str

    def agrees(self, result: float | str) -> bool:
        if self.tolerance.startswith("exact"):
            return str(result) == self.expected or (not isinstance(result, str) and result == float(self.expected))
        kind, size = re.match(r"(rel|abs):([\d.e-]+)", self.tolerance).groups()
        expected = float(self.expected)
        room = float(size) * (abs(expected) if kind == "rel" else 1)
        # half a unit of the last printed digit, where the row prints fewer digits than its tolerance asks for
        digits = len(self.expected.split("e")[0].replace(".", "").lstrip("0-"))
        printed = 0.5 * abs(expected) * 10.0 ** (1 - digits) if expected else 0.0
        return abs(float(result) - expected) <= max(room, printed)


def check_rows() -> Iterator[CheckRow]:
    for path in sorted(FOLDER.glob("*.csv")):
        with path.open(encoding="utf-8") as file:
            for row in csv.DictReader(file):
                yield CheckRow(row["id"], json.loads(row["inputs"]), row["expected"], row["tolerance"], row["source"])
