"""a sheet that was handed over is kept as it was"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None

CENTURY = "handed_at between timestamptz '2000-01-01' and timestamptz '2100-01-01'"


def upgrade() -> None:
    op.create_table(
        "handed_sheet",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("job_id", sa.Uuid(), nullable=False),
        sa.Column("person_id", sa.Uuid(), nullable=True),
        sa.Column("file_digest", sa.String(), nullable=False),
        sa.Column("headlines", JSONB(), nullable=False),
        sa.Column("units", sa.String(), nullable=False),
        sa.Column("method_version", sa.String(), nullable=False),
        sa.Column("handed_at", sa.DateTime(timezone=True), nullable=False),
        sa.CheckConstraint(CENTURY, name=op.f("ck_handed_sheet_handed_at")),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"], name=op.f("fk_handed_sheet_job_id")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_handed_sheet_person_id")),
        sa.ForeignKeyConstraint(["file_digest"], ["stored_file.digest"], name=op.f("fk_handed_sheet_file_digest")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_handed_sheet")),
    )
    op.create_index(op.f("ix_handed_sheet_job_id"), "handed_sheet", ["job_id"])
    op.execute(
        "create trigger handed_sheet_append_only before update or delete on handed_sheet "
        "for each row execute function refuse_change()"
    )
    op.execute(
        "create trigger handed_sheet_keep before truncate on handed_sheet "
        "for each statement execute function refuse_change()"
    )

    op.execute("""
        create function touched_by_handed_sheet() returns trigger language plpgsql as $$
        begin
          perform touch((select array_agg(distinct job_id) from changed), null, null);
          return null;
        end $$
    """)
    op.execute(
        "create trigger handed_sheet_touch_insert after insert on handed_sheet referencing new table as changed "
        "for each statement execute function touched_by_handed_sheet()"
    )


def downgrade() -> None:
    op.drop_table("handed_sheet")
    op.execute("drop function touched_by_handed_sheet()")
