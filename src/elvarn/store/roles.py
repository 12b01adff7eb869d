"""Who may do what in the database: one role owns it and changes its schema, the other reads and writes rows."""

from sqlalchemy import Engine, text

OWNER = "elvarn"
APPLICATION = "elvarn_app"


def allow(engine: Engine) -> None:
    """Let the application's role read and write every table there is now, and nothing beyond: it can take away no
    trigger, no constraint and no table, nor say which schema this is."""
    with engine.begin() as connection:
        for statement in (
            f"grant usage on schema public to {APPLICATION}",
            f"grant select, insert, update, delete on all tables in schema public to {APPLICATION}",
            f"grant usage on all sequences in schema public to {APPLICATION}",
            f"revoke insert, update, delete on alembic_version from {APPLICATION}",
        ):
            connection.execute(text(statement))
