"""Flow tables in: each figure becomes a reading, asked about like a typed one."""

from dataclasses import dataclass

from elvarn.exchange.flow_file import ExportedReading, FlowRow, read_flows, write_flows
from elvarn.exchange.table import TableError, read_table
from elvarn.service.errors import Invalid
from elvarn.store.models import FlowReading


@dataclass(frozen=True)
class FlowTable:
    """The figures of a table, to be captured one by one."""

    rows: list[FlowRow]


def read_flow_table(name: str, content: bytes, default_unit: str, runner_count: int) -> FlowTable:
    """The figures of a dropped table. Raises Invalid naming what is wrong; nothing is kept of it yet."""
    try:
        rows = read_flows(read_table(content), default_unit)
    except TableError as error:
        raise Invalid(f"{name}: {error}", path="file") from error
    beyond = sorted({row.cylinder for row in rows if not 1 <= row.cylinder <= runner_count})
    if beyond:
        named = ", ".join(str(number) for number in beyond)
        raise Invalid(f"{name} names runner {named}; this part has {runner_count}.", path="file")
    return FlowTable(rows)


def flow_csv(title: str, readings: list[tuple[FlowReading, str]]) -> str:
    """Every runner reading of a job as CSV, struck ones with their reason."""
    rows = [
        ExportedReading(
            reading.cylinder or 0,
            side,
            reading.figure,
            reading.unit,
            reading.pulled_words,
            reading.taken_at.isoformat(),
            reading.strike.reason if reading.strike else "",
        )
        for reading, side in readings
    ]
    return write_flows(rows, [f"Elvarn flow figures: {title}"])
