"""Many new rows at once, copied into their tables: a unit of work would tell the database of each by itself."""

from collections.abc import Hashable, Sequence
from typing import Any

from psycopg import Error as PsycopgError
from psycopg.sql import SQL, Identifier
from psycopg.types.json import Jsonb
from sqlalchemy import Column, Table, inspect
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session

from elvarn.store.models.base import Base


def lay_down(session: Session, rows: Sequence[Base]) -> None:
    """Insert new rows, those of one class together, its base table first. What hangs on a row by a relationship is not
    inserted with it, and the rows are not the session's: it knows nothing of them until it asks. Raises what the
    database says of a row that breaks one of its rules."""
    alike: dict[Hashable, list[Base]] = {}
    for row in rows:
        alike.setdefault((type(row), frozenset(row.__dict__)), []).append(row)
    for of_kind in alike.values():
        mapper = inspect(type(of_kind[0]))
        for level in reversed(list(mapper.iterate_to_root())):
            keys = {column: mapper.get_property_by_column(column).key for column in level.local_table.columns}
            _copy(session, level.local_table, {c: key for c, key in keys.items() if _told(of_kind[0], c, key)}, of_kind)


def _copy(session: Session, table: Table, keys: dict[Column[Any], str], rows: Sequence[Base]) -> None:
    names = SQL(", ").join(Identifier(column.name) for column in keys)
    statement = SQL("copy {} ({}) from stdin").format(Identifier(table.name), names)
    connection = session.connection().connection.driver_connection
    assert connection is not None
    try:
        with connection.cursor() as cursor, cursor.copy(statement) as copy:
            for row in rows:
                copy.write_row([_value(row, column, key) for column, key in keys.items()])
    except PsycopgError as error:
        raise DBAPIError.instance(f"copy {table.name}", None, error, PsycopgError) from error


def _told(row: Base, column: Column[Any], key: str) -> bool:
    return key in row.__dict__ or column.default is not None


def _value(row: Base, column: Column[Any], key: str) -> Any:
    """What is written of a row: what it holds, else the column's own default."""
    value = row.__dict__[key] if key in row.__dict__ else _default(column)
    return Jsonb(value) if isinstance(column.type, JSONB) and value is not None else value


def _default(column: Column[Any]) -> Any:
    arg: Any = getattr(column.default, "arg", None)
    return arg(None) if callable(arg) else arg
