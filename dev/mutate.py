"""Files as they come out of a broken stick, a wrong program or a half-sent message: bytes changed, cut, doubled and
mixed, of every kind that is read. Each gets an answer, soon, and none takes memory along."""

import random
import time
from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass, field
from io import BytesIO
from typing import Any

from elvarn.exchange.flow_file import read_flow_file
from elvarn.exchange.picture import PictureError, stripped
from elvarn.exchange.pull_columns import ColumnMap
from elvarn.exchange.pull_file import Contradiction, UnitAsked
from elvarn.exchange.shelf_file import ShelfRecord, read_shelf, write_shelf_json, write_shelf_table
from elvarn.exchange.table import TableError
from elvarn.service.dyno.looked import doubts, look, rows_of, runs_in, traces_in
from elvarn.service.kernel.apart import Run
from elvarn.service.kernel.errors import Invalid

REFUSALS = (TableError, PictureError, Contradiction, UnitAsked, Invalid)
LONGEST_PIECE = 3000
MOST_TIMES = 40
SIGNS = (
    b'"',
    b"\0",
    b"\n",
    b",",
    b";",
    b"\t",
    b"[" * 600,
    b"{" * 2000,
    b"1e999",
    b"nan",
    b"\xff\xfe",
    b"=1+1",
    b"\xd8\x00",
)


@dataclass
class Tally:
    """What became of each file: read or refused, and those that fell; the slowest of all [s]."""

    answers: Counter[str] = field(default_factory=Counter)
    fell: list[str] = field(default_factory=list)
    slowest_s: float = 0.0


def mutated(run: Run, count: int, seed: int = 1) -> Tally:
    """Read so many changed files, of each kind in turn; the same seed changes the same."""
    chance, tally, kinds = random.Random(seed), Tally(), _kinds()
    for number in range(count):
        name, read, whole = kinds[number % len(kinds)]
        content = _changed(whole, kinds, chance)
        began = time.perf_counter()
        try:
            read(run, content)
            tally.answers["read"] += 1
        except REFUSALS as refusal:
            tally.answers["refused"] += 1
            if not str(refusal):
                tally.fell.append(f"{name} {number}: refused without a word")
        except Exception as error:
            tally.fell.append(f"{name} {number}: {type(error).__name__}: {error}"[:300])
        tally.slowest_s = max(tally.slowest_s, time.perf_counter() - began)
    return tally


Kind = tuple[str, Callable[[Run, bytes], Any], bytes]


def _kinds() -> list[Kind]:
    """Every kind of file that comes in, how it is read, and a sound one."""
    rows = [(n, 0.02 * n + 90, (0.02 * n + 90) * n / 9549.3) for n in range(1800, 7000, 40)]
    comma = "Engine speed,Torque,Power\nrpm,N·m,kW\n" + "".join(f"{n},{m:.2f},{p:.3f}\n" for n, m, p in rows)
    semicolon = "# made up\nDrehzahl [1/min];Drehmoment [Nm]\n" + "".join(f"{n};{m:.2f}\n" for n, m, _ in rows)
    flows = "runner,before,after\n" + "".join(f"{n},{200 + n}.5,{210 + n}.5\n" for n in range(1, 9))
    shelf = [
        ShelfRecord("throttle", f"Throttle {n}", "Norrvik", str(n), measured={"bore_mm": 60.0 + n}) for n in range(9)
    ]
    pictures = [(kind, _picture(kind)) for kind in ("JPEG", "PNG", "WEBP")]
    return [
        ("pull", _read_pull, comma.encode()),
        ("pull with decimal comma", _read_pull, semicolon.replace(".", ",").encode("cp1252")),
        ("pull in UTF-16", _read_pull, comma.replace(",", "\t").encode("utf-16")),
        ("pull in a workbook", _read_pull, _workbook(comma)),
        ("flow table", lambda run, content: run(read_flow_file, content, "cfm"), flows.encode()),
        ("shelf table", lambda run, content: run(read_shelf, "s.csv", content), write_shelf_table(shelf).encode()),
        ("shelf JSON", lambda run, content: run(read_shelf, "s.json", content), write_shelf_json(shelf).encode()),
        *((kind, lambda run, content: run(stripped, content), content) for kind, content in pictures),
    ]


def _read_pull(run: Run, content: bytes) -> None:
    mapping = run(look, content).mapping or ColumnMap(0, 1, "N·m", None, "kW")
    runs = run(runs_in, content, mapping)
    run(traces_in, content, runs, mapping)
    run(doubts, content, mapping, runs)
    run(rows_of, content, mapping, "check")


def _workbook(text: str) -> bytes:
    from openpyxl import Workbook

    book, out = Workbook(), BytesIO()
    assert book.active is not None
    for line in text.splitlines():
        book.active.append(line.split(","))
    book.save(out)
    return out.getvalue()


def _picture(kind: str) -> bytes:
    from PIL import Image

    out, told = BytesIO(), Image.Exif()
    told.get_ifd(0x8825).update({1: "N", 2: (59.0, 20.0, 30.5)})
    Image.linear_gradient("L").save(out, kind, exif=told)
    return out.getvalue()


def _changed(whole: bytes, kinds: list[Kind], chance: random.Random) -> bytes:
    """A file after one to four accidents."""
    content = bytearray(whole)
    for _ in range(chance.randint(1, 4)):
        chance.choice((_flip, _cut, _insert, _double, _swap))(content, chance)
    if chance.random() < 0.1:
        content += chance.choice(kinds)[2]
    return bytes(content)


def _flip(content: bytearray, chance: random.Random) -> None:
    for _ in range(chance.randint(1, 20)):
        if content:
            content[chance.randrange(len(content))] = chance.randrange(256)


def _cut(content: bytearray, chance: random.Random) -> None:
    at = chance.randrange(len(content) + 1)
    del content[at : chance.choice((at + chance.randint(1, LONGEST_PIECE), len(content)))]


def _insert(content: bytearray, chance: random.Random) -> None:
    at = chance.randrange(len(content) + 1)
    content[at:at] = chance.choice(SIGNS) * chance.randint(1, 3)


def _double(content: bytearray, chance: random.Random) -> None:
    at = chance.randrange(len(content) + 1)
    content[at:at] = content[at : at + chance.randint(1, LONGEST_PIECE)] * chance.randint(1, MOST_TIMES)


def _swap(content: bytearray, chance: random.Random) -> None:
    at, other = sorted(chance.randrange(len(content) + 1) for _ in range(2))
    content[:] = content[other:] + content[at:other] + content[:at]
