"""Bring a database to the newest schema."""

from pathlib import Path

from alembic import command
from alembic.config import Config
from sqlalchemy import Engine
from sqlalchemy.orm import Session

from elvarn.core.rail import KINDS, Step
from elvarn.store.models import JobKind, KnownStep

SCRIPTS = Path(__file__).parent / "migrations"


def config_for(engine: Engine) -> Config:
    config = Config()
    config.set_main_option("script_location", str(SCRIPTS))
    config.attributes["engine"] = engine
    return config


def migrate(engine: Engine) -> None:
    """Run every migration that the database has not had yet, and write the core's list of steps and kinds of job."""
    command.upgrade(config_for(engine), "head")
    with Session(engine) as session, session.begin():
        _write_steps(session)


def _write_steps(session: Session) -> None:
    for step in Step:
        session.merge(KnownStep(word=step.value))
    session.flush()
    for position, kind in enumerate(KINDS, start=1):
        rail = [step.value for step in kind.rail]
        session.merge(JobKind(code=kind.code, title=kind.title, position=position, rail=rail))
