"""Bring a database to the newest schema."""

from pathlib import Path

from alembic import command
from alembic.config import Config
from sqlalchemy import Engine

SCRIPTS = Path(__file__).parent / "migrations"


def config_for(engine: Engine) -> Config:
    config = Config()
    config.set_main_option("script_location", str(SCRIPTS))
    config.attributes["engine"] = engine
    return config


def migrate(engine: Engine) -> None:
    """Run every migration that the database has not had yet."""
    command.upgrade(config_for(engine), "head")
