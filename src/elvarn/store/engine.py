"""The way to the database."""

from sqlalchemy import Engine, create_engine

# A question is planned once a connection, not at each asking: the plan takes longer than the few rows that it finds.
SETTINGS = "-c plan_cache_mode=force_generic_plan -c jit=off"


def open_engine(url: str) -> Engine:
    """An engine on this database. The connection used last is used next: it has its questions prepared. What is told of
    a question that fails holds nobody's name."""
    return create_engine(url, pool_use_lifo=True, hide_parameters=True, connect_args={"options": SETTINGS})


def database_url(engine: Engine) -> str:
    """The address of an engine's database, as the driver alone takes it."""
    return engine.url.set(drivername="postgresql").render_as_string(hide_password=False)
