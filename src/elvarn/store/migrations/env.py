"""Alembic's entry: the engine is handed over by elvarn.store.migrate."""

from alembic import context

from elvarn.store.models import Base

engine = context.config.attributes["engine"]

with engine.connect() as connection:
    context.configure(connection=connection, target_metadata=Base.metadata)
    with context.begin_transaction():
        context.run_migrations()
    connection.commit()
