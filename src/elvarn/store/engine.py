"""The way to the database."""

from datetime import UTC, datetime

import psycopg
from psycopg.types.datetime import TimestamptzLoader
from sqlalchemy import Engine, create_engine

# A question is planned once a connection, not at each asking: the plan takes longer than the few rows that it finds.
SETTINGS = "-c plan_cache_mode=force_generic_plan -c jit=off"


FIRST, LAST = datetime(1, 1, 2, tzinfo=UTC), datetime(9999, 12, 30, tzinfo=UTC)


class _AnyTime(TimestamptzLoader):
    """A time that a database of before the bounds holds, and that no calendar here does, stands at the end of it: its
    job is shown, and it can be struck out."""

    def load(self, data: bytes | bytearray | memoryview) -> datetime:
        try:
            return super().load(data)
        except (psycopg.DataError, OverflowError):
            return FIRST if b"BC" in bytes(data) or bytes(data).startswith(b"0") else LAST


psycopg.adapters.register_loader("timestamptz", _AnyTime)


def open_engine(url: str) -> Engine:
    """An engine on this database. The connection used last is used next: it has its questions prepared. What is told of
    a question that fails holds nobody's name."""
    return create_engine(url, pool_use_lifo=True, hide_parameters=True, connect_args={"options": SETTINGS})


def database_url(engine: Engine) -> str:
    """The address of an engine's database, as the driver alone takes it."""
    return engine.url.set(drivername="postgresql").render_as_string(hide_password=False)
