"""plans of a swap, what an engine family has, what is noted while fitting; tasks say of which plan they are; drives"""

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0025"
down_revision = "0024"
branch_labels = None
depends_on = None

EVENTS = {"insert": "new", "update": "new", "delete": "old"}
JOBS = "(select array_agg(distinct found.id) from (select job_id from changed) found(id) where found.id is not null)"
OF_JOBS = ("fit_plan", "fit_note")
DRIVES = "drive in ('hex head', 'cap head, socket', 'low head, socket', 'button head, socket')"


def _made() -> list[sa.Column[Any]]:
    return [
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("content_digest", sa.String(64), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("person_id", sa.Uuid(), sa.ForeignKey("person.id"), nullable=False),
        sa.Column("version", sa.Integer(), server_default="1", nullable=False),
    ]


def _json(name: str, empty: str) -> sa.Column[Any]:
    return sa.Column(name, JSONB(), server_default=empty, nullable=False)


def upgrade() -> None:
    op.create_table(
        "fit_plan",
        *_made(),
        sa.Column("job_id", sa.Uuid(), nullable=False),
        sa.Column("off_build_id", sa.Uuid(), nullable=False),
        sa.Column("on_build_id", sa.Uuid(), nullable=False),
        sa.Column("family", sa.String(), server_default="", nullable=False),
        sa.Column("mock_up", sa.Boolean(), server_default="false", nullable=False),
        sa.Column("seal", sa.String(), server_default="", nullable=False),
        *(_json(name, "{}") for name in ("schools", "said")),
        *(_json(name, "[]") for name in ("extras", "steps", "in_the_way", "renewals")),
        *(_json(name, "{}") for name in ("kit", "codes")),
        _json("seen", "[]"),
        sa.Column("put_away_at", sa.DateTime(timezone=True)),
        sa.CheckConstraint("off_build_id <> on_build_id", name=op.f("ck_fit_plan_two_builds")),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"], name=op.f("fk_fit_plan_job_id")),
        sa.ForeignKeyConstraint(["off_build_id"], ["build.id"], name=op.f("fk_fit_plan_off_build_id")),
        sa.ForeignKeyConstraint(["on_build_id"], ["build.id"], name=op.f("fk_fit_plan_on_build_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_fit_plan")),
    )
    op.create_index(op.f("ix_fit_plan_job_id"), "fit_plan", ["job_id"])
    op.create_table(
        "engine_family",
        *_made(),
        sa.Column("name", sa.String(), nullable=False),
        *(_json(name, "[]") for name in ("interfaces", "in_the_way", "renewals")),
        sa.CheckConstraint("name <> ''", name=op.f("ck_engine_family_named")),
        sa.UniqueConstraint("name", name=op.f("uq_engine_family_name")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_engine_family")),
    )
    op.create_table(
        "fit_note",
        *_made(),
        sa.Column("job_id", sa.Uuid(), nullable=False),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("said", JSONB(), nullable=False),
        sa.Column("photo_id", sa.Uuid()),
        sa.CheckConstraint(
            "kind in ('clearance', 'code', 'cause', 'broken', 'impression')", name=op.f("ck_fit_note_kind")
        ),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"], name=op.f("fk_fit_note_job_id")),
        sa.ForeignKeyConstraint(["photo_id"], ["photo.id"], name=op.f("fk_fit_note_photo_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_fit_note")),
    )
    op.create_index(op.f("ix_fit_note_job_id"), "fit_note", ["job_id"])
    op.add_column("step", sa.Column("fit_plan_id", sa.Uuid()))
    op.add_column("step", sa.Column("fit_key", sa.String()))
    op.add_column("step", _json("readings", "[]"))
    op.create_foreign_key(op.f("fk_step_fit_plan_id"), "step", "fit_plan", ["fit_plan_id"], ["id"])
    op.create_check_constraint(op.f("ck_step_of_plan"), "step", "(fit_plan_id is null) = (fit_key is null)")
    op.create_unique_constraint(op.f("uq_step_fit_plan_id_fit_key"), "step", ["fit_plan_id", "fit_key"])
    op.add_column("photo", sa.Column("task_id", sa.Uuid()))
    op.create_foreign_key(op.f("fk_photo_task_id"), "photo", "step", ["task_id"], ["id"], ondelete="SET NULL")
    op.add_column("bolt_map", sa.Column("drive", sa.String(), server_default="hex head", nullable=False))
    op.create_check_constraint(op.f("ck_bolt_map_drive"), "bolt_map", DRIVES)
    op.add_column("bolt_map", sa.Column("forming", sa.Boolean(), server_default="false", nullable=False))
    for table in OF_JOBS:
        op.execute(f"""
            create function touched_by_{table}() returns trigger language plpgsql as $$
            begin
              perform touch({JOBS}, null, null);
              return null;
            end $$
        """)
        _touches(table, f"touched_by_{table}")
    _touches("engine_family", "touch_shop")


def _touches(table: str, function: str) -> None:
    for event, rows in EVENTS.items():
        op.execute(f"create trigger {table}_touch_{event} after {event} on {table} referencing {rows} table as changed "
                   f"for each statement execute function {function}()")  # fmt: skip


def downgrade() -> None:
    op.drop_column("bolt_map", "forming")
    op.drop_column("bolt_map", "drive")
    op.drop_column("photo", "task_id")
    for column in ("readings", "fit_key", "fit_plan_id"):
        op.drop_column("step", column)
    for table in OF_JOBS:
        op.drop_table(table)
        op.execute(f"drop function touched_by_{table}()")
    op.drop_table("engine_family")
