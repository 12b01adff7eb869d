"""Bring a database to the newest schema."""

from pathlib import Path

from alembic import command
from alembic.config import Config
from alembic.script import ScriptDirectory
from sqlalchemy import Engine
from sqlalchemy.orm import Session

from elvarn.core.rail import KINDS, Step
from elvarn.store.models import JobKind, KnownStep
from elvarn.store.roles import allow

SCRIPTS = Path(__file__).parent / "migrations"


def config_for(engine: Engine) -> Config:
    config = Config()
    config.set_main_option("script_location", str(SCRIPTS))
    config.attributes["engine"] = engine
    return config


def known_schemas() -> set[str]:
    """Every schema that this program can bring to the newest."""
    config = Config()
    config.set_main_option("script_location", str(SCRIPTS))
    return {script.revision for script in ScriptDirectory.from_config(config).walk_revisions()}


def migrate(engine: Engine) -> None:
    """Run every migration that the database has not had yet, as its owner; write the core's list of steps and kinds of
    job; and let the application's role work on what is there."""
    command.upgrade(config_for(engine), "head")
    allow(engine)
    with Session(engine) as session, session.begin():
        _write_steps(session)


def _write_steps(session: Session) -> None:
    for step in Step:
        session.merge(KnownStep(word=step.value))
    session.flush()
    for position, kind in enumerate(KINDS, start=1):
        rail = [step.value for step in kind.rail]
        session.merge(JobKind(code=kind.code, title=kind.title, position=position, rail=rail))
