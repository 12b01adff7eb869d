"""pulls are recorded live, sample by sample, and what was logged beside torque is kept"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None

CENTURY = "started_at between timestamptz '2000-01-01' and timestamptz '2100-01-01'"
KEYS = (("person", "person"), ("job", "job"), ("build", "build"), ("dyno", "dyno"))


def upgrade() -> None:
    op.add_column("pull_reading", sa.Column("channels", JSONB(), server_default="{}", nullable=False))
    op.add_column("dyno", sa.Column("line", JSONB()))
    op.create_table(
        "recording",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("content_digest", sa.String(64), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        *(sa.Column(f"{name}_id", sa.Uuid(), nullable=False) for name, _ in KEYS),
        *(sa.Column(name, JSONB(), nullable=False) for name in ("declared", "limits", "checked", "line", "fields")),
        sa.Column("started_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("stop_asked_at", sa.DateTime(timezone=True)),
        sa.Column("ended_at", sa.DateTime(timezone=True)),
        sa.Column("ended_how", sa.String(), server_default="", nullable=False),
        sa.Column("ended_words", sa.String(), server_default="", nullable=False),
        sa.Column("file_digest", sa.String()),
        sa.Column("dropped_at", sa.DateTime(timezone=True)),
        sa.CheckConstraint(CENTURY, name=op.f("ck_recording_started_at")),
        *(
            sa.ForeignKeyConstraint([f"{name}_id"], [f"{table}.id"], name=op.f(f"fk_recording_{name}_id"))
            for name, table in KEYS
        ),
        sa.ForeignKeyConstraint(["file_digest"], ["stored_file.digest"], name=op.f("fk_recording_file_digest")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_recording")),
    )
    op.create_index(op.f("ix_recording_job_id"), "recording", ["job_id"])
    op.create_index(
        "ix_recording_open", "recording", ["dyno_id"], unique=True, postgresql_where=sa.text("ended_at is null")
    )
    op.create_table(
        "recording_piece",
        sa.Column("recording_id", sa.Uuid(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("samples", JSONB(), nullable=False),
        sa.Column("received_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.ForeignKeyConstraint(["recording_id"], ["recording.id"], name=op.f("fk_recording_piece_recording_id")),
        sa.PrimaryKeyConstraint("recording_id", "number", name=op.f("pk_recording_piece")),
    )
    _guards()


def _guards() -> None:
    op.execute(
        "create trigger recording_piece_append_only before update or delete on recording_piece "
        "for each row execute function refuse_change()"
    )
    for table in ("recording", "recording_piece"):
        op.execute(
            f"create trigger {table}_keep before truncate on {table} for each statement execute function refuse_change()"
        )
    op.execute("""
        create function touched_by_recording() returns trigger language plpgsql as $$
        begin
          perform touch((select array_agg(distinct job_id) from changed), null, null);
          return null;
        end $$
    """)
    for event in ("insert", "update"):
        op.execute(
            f"create trigger recording_touch_{event} after {event} on recording referencing new table as changed "
            "for each statement execute function touched_by_recording()"
        )


def downgrade() -> None:
    op.drop_table("recording_piece")
    op.drop_table("recording")
    op.execute("drop function touched_by_recording()")
    op.drop_column("dyno", "line")
    op.drop_column("pull_reading", "channels")
