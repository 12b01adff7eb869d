"""Flow benches: what each repeats within, its meter and ranges, and the line on which its figures come in."""

from dataclasses import asdict, dataclass, field
from typing import Any
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.core.bench.stated import MeterKind
from elvarn.given import given
from elvarn.instruments import reach
from elvarn.instruments.line import Line, flow_pattern
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.find import find
from elvarn.service.kernel.writes import edit, find_for_edit, write_once
from elvarn.service.shop.fields import check_address, check_percent, named
from elvarn.store.models import Bench
from elvarn.typed import CubicFeet, InchesOfWater, Percent, typed_texts


@given
class BenchRange:
    """A range of a bench: its full scale, and the depression that can be pulled there."""

    full_scale_cfm: CubicFeet
    depression_inh2o: InchesOfWater


@dataclass(frozen=True)
class BenchView:
    id: UUID
    name: str
    repeatability_percent: float | None
    session_shift_percent: float | None
    version: int
    line: Line | None
    meter: str
    ranges: list[BenchRange]
    shop: str
    typed: dict[str, str]


@given
class NewBench:
    """A bench; with a line, its figures come in by themselves. Its meter answers to the ratio of two drops in the same
    air, to volume, or to mass. Another shop's bench names that shop: its figures are kept apart."""

    name: str
    repeatability_percent: Percent | None = None
    session_shift_percent: Percent | None = None
    line: Line | None = None
    meter: str = MeterKind.RATIO.value
    ranges: list[BenchRange] = field(default_factory=list)
    shop: str = ""


@given
class BenchEdit:
    version: int
    name: str
    repeatability_percent: Percent | None
    session_shift_percent: Percent | None
    line: Line | None = None
    meter: str = MeterKind.RATIO.value
    ranges: list[BenchRange] = field(default_factory=list)
    shop: str = ""


def add_bench(session: Session, identifier: UUID, new: NewBench) -> BenchView:
    """A flow bench."""
    check_percent(new.repeatability_percent, "repeatability_percent")
    check_percent(new.session_shift_percent, "session_shift_percent", "session shift")
    line = _checked_line(new.line)

    def make(digest: str) -> Bench:
        return Bench(
            id=identifier,
            content_digest=digest,
            name=named(new.name),
            repeatability_percent=new.repeatability_percent,
            session_shift_percent=new.session_shift_percent,
            line=line,
            meter=_checked_meter(new.meter),
            ranges=_checked_ranges(new.ranges),
            shop=new.shop.strip(),
            typed=typed_texts(new),
        )

    return bench_view(write_once(session, Bench, identifier, new, make))


def edit_bench(session: Session, identifier: UUID, change: BenchEdit) -> BenchView:
    """Set what a bench repeats within, once it was learned."""
    check_percent(change.repeatability_percent, "repeatability_percent")
    check_percent(change.session_shift_percent, "session_shift_percent", "session shift")
    row = find_for_edit(session, Bench, identifier, "bench")
    changes = {
        "name": named(change.name),
        "repeatability_percent": change.repeatability_percent,
        "session_shift_percent": change.session_shift_percent,
        "line": _checked_line(change.line),
        "meter": _checked_meter(change.meter),
        "ranges": _checked_ranges(change.ranges),
        "shop": change.shop.strip(),
        "typed": typed_texts(change),
    }
    edit(row, change.version, changes, "bench")
    session.flush()
    return bench_view(row)


def bench_view(row: Bench) -> BenchView:
    return BenchView(
        row.id,
        row.name,
        row.repeatability_percent,
        row.session_shift_percent,
        row.version,
        line_of(row),
        row.meter,
        [BenchRange(**one) for one in row.ranges],
        row.shop,
        row.typed,
    )


def line_of(bench: Bench) -> Line | None:
    """How a bench's figures come in, or None where they are typed."""
    return None if bench.line is None else Line(**bench.line)


def live_line(session: Session, bench_id: UUID) -> Line:
    """The line of a bench. Raises NotFound, or Invalid for a bench whose figures are typed."""
    line = line_of(find(session, Bench, bench_id, "bench"))
    if line is None:
        raise Invalid("This bench has no connection. Add one in bench settings.", path="line")
    return line


def _checked_line(line: Line | None) -> dict[str, Any] | None:
    """A line as it is kept. Raises Invalid for a port or pattern that can't be."""
    if line is None:
        return None
    if not 3 <= line.samples <= 200:
        raise Invalid(f"A figure can't be the mean of {line.samples} samples. Enter 3 to 200.", path="line.samples")
    check_address(line, reach.FAREWELLS)
    try:
        flow_pattern(line.pattern)
    except ValueError as error:
        raise Invalid(str(error), path="line.pattern") from error
    return asdict(line)


def _checked_meter(meter: str) -> str:
    if meter not in [kind.value for kind in MeterKind]:
        known = ", ".join(MeterKind)
        raise Invalid(f"'{meter}' is no kind of meter. Known: {known}.", path="meter")
    return meter


def _checked_ranges(ranges: list[BenchRange]) -> list[dict[str, float]]:
    """Ranges as they are kept, the smallest first. Raises Invalid for one that can't be."""
    for number, one in enumerate(ranges):
        if not 0 < one.full_scale_cfm <= 5000:
            message = f"A range of {one.full_scale_cfm:g} CFM can't be. Enter above 0, up to 5000."
            raise Invalid(message, path=f"ranges.{number}.full_scale_cfm")
        if not 0.5 <= one.depression_inh2o <= 80:
            message = f"A range can't be pulled at {one.depression_inh2o:g} inH2O. Enter 0.5 to 80."
            raise Invalid(message, path=f"ranges.{number}.depression_inh2o")
    return [asdict(one) for one in sorted(ranges, key=lambda one: one.full_scale_cfm)]
