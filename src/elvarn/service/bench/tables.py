"""Flow tables in and out; what comes in is asked about like a typed figure."""

from dataclasses import dataclass
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.exchange.flow_file import ExportedReading, FlowRow, read_flow_file, write_flows
from elvarn.exchange.table import TableError
from elvarn.service.kernel.apart import Run
from elvarn.service.kernel.errors import Invalid
from elvarn.service.record.job import load_job
from elvarn.store.models import FlowReading


@dataclass(frozen=True)
class FlowTable:
    """The figures of a table, to be captured one by one."""

    rows: list[FlowRow]


def read_flow_table(run: Run, name: str, content: bytes, default_unit: str, runner_count: int) -> FlowTable:
    """The figures of a dropped table. Raises Invalid naming what is wrong; nothing is kept of it yet."""
    try:
        rows = run(read_flow_file, content, default_unit)
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


def export_flows(session: Session, job_id: UUID) -> tuple[str, list[tuple[FlowReading, str]]]:
    """Title of a job and its runner readings with the side that each belongs to."""
    record = load_job(session, job_id)
    sides = ((record.before_state, "before"), (record.after_state, "after"))
    rows = [
        (reading, side)
        for state, side in sides
        for readings in record.runner_readings(state, struck=True).values()
        for reading in readings
    ]
    return record.job.title, rows
