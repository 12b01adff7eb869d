"""Published coefficients: a file each, with its source in the line that begins with #."""

import csv
from dataclasses import dataclass
from importlib.resources import files
from itertools import pairwise

import numpy as np

from elvarn.core.errors import OutOfRange


@dataclass(frozen=True)
class Table:
    """Two columns in rising order of the first, and who published them."""

    source: str
    columns: tuple[str, str]
    x: tuple[float, ...]
    y: tuple[float, ...]

    def at(self, x: float) -> float:
        """Linear between the rows; beyond an end its row."""
        return float(np.interp(x, self.x, self.y))


def table(name: str) -> Table:
    """A table by the name of its file.

    Arguments: name: without its ending.
    Returns: table.
    Raises: OutOfRange for a file that has no source or does not rise.
    Source: none: each file names its own.
    """
    first, *rows = files(__name__).joinpath(f"{name}.csv").read_text(encoding="utf-8").splitlines()
    head, *figures = csv.reader(rows)
    x, y = zip(*((float(row[0]), float(row[1])) for row in figures), strict=True)
    if not first.startswith("# ") or any(after <= before for before, after in pairwise(x)):
        raise OutOfRange("table", f"The table '{name}' names no source or does not rise.", "Mend its file.")
    return Table(first.removeprefix("# "), (head[0], head[1]), x, y)
