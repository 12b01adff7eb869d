"""The way to the database."""

from datetime import UTC, datetime
from typing import Any

import psycopg
from psycopg.abc import AdaptContext, Buffer
from psycopg.adapt import Loader
from sqlalchemy import Engine, create_engine
from sqlalchemy.exc import InterfaceError, OperationalError

# A question is planned once a connection, not at each asking: the plan takes longer than the few rows that it finds.
SETTINGS = "-c plan_cache_mode=force_generic_plan -c jit=off"


USUAL: Any = psycopg.adapters.get_loader(psycopg.adapters.types["timestamptz"].oid, psycopg.pq.Format.TEXT)
AWAY = (OperationalError, InterfaceError)  # the database is not there: no fault of what was asked
FIRST, LAST = datetime(1, 1, 2, tzinfo=UTC), datetime(9999, 12, 30, tzinfo=UTC)


class _AnyTime(Loader):
    """A time that a database of before the bounds holds, and that no calendar here does, stands at the end of it: its
    job is shown, and it can be struck out."""

    def __init__(self, oid: int, context: AdaptContext | None = None) -> None:
        super().__init__(oid, context)
        self._usual = USUAL(oid, context)

    def load(self, data: Buffer) -> datetime:
        try:
            usual: datetime = self._usual.load(data)
            return usual
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
