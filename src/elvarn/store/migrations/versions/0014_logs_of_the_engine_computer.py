"""logs of the engine computer, without torque"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0014"
down_revision = "0013"
branch_labels = None
depends_on = None

KINDS = "kind in ('flow', 'pull', 'dimension', 'check', 'probe', 'log')"
BEFORE = "kind in ('flow', 'pull', 'dimension', 'check', 'probe')"


def upgrade() -> None:
    op.drop_constraint(op.f("ck_reading_kind"), "reading")
    op.create_check_constraint(op.f("ck_reading_kind"), "reading", KINDS)
    op.create_table(
        "log_reading",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("build_id", sa.Uuid(), nullable=False),
        sa.Column("file_digest", sa.String(), nullable=False),
        sa.Column("label", sa.String(), server_default="", nullable=False),
        sa.Column("stretches", JSONB(), nullable=False),
        sa.Column("outside_kpa", sa.Float()),
        sa.Column("outside_from", sa.String(), server_default="", nullable=False),
        sa.Column("engine_speed_rpm", sa.ARRAY(sa.Float()), nullable=False),
        sa.Column("channels", JSONB(), nullable=False),
        sa.CheckConstraint("cardinality(engine_speed_rpm) >= 5", name=op.f("ck_log_reading_rows")),
        sa.CheckConstraint("outside_kpa between 50 and 120", name=op.f("ck_log_reading_outside")),
        sa.CheckConstraint(
            "outside_from in ('', 'logged', 'at_rest', 'typed')", name=op.f("ck_log_reading_outside_from")
        ),
        sa.ForeignKeyConstraint(["id"], ["reading.id"], name=op.f("fk_log_reading_id")),
        sa.ForeignKeyConstraint(["build_id"], ["build.id"], name=op.f("fk_log_reading_build_id")),
        sa.ForeignKeyConstraint(["file_digest"], ["stored_file.digest"], name=op.f("fk_log_reading_file_digest")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_log_reading")),
    )
    op.create_index(op.f("ix_log_reading_build_id"), "log_reading", ["build_id"])
    op.execute(
        "create trigger log_reading_append_only before update or delete on log_reading "
        "for each row execute function refuse_change()"
    )
    op.execute(
        "create trigger log_reading_keep before truncate on log_reading "
        "for each statement execute function refuse_change()"
    )
    op.execute("""
        create function log_reading_of_its_job() returns trigger language plpgsql as $$
        begin
          if not (select b.job_id = r.job_id from reading r, build b where r.id = new.id and b.id = new.build_id) then
            raise exception 'a % of another job', tg_table_name
            using errcode = 'foreign_key_violation', constraint = 'fk_log_reading_of_its_job';
          end if;
          return null;
        end $$
    """)
    op.execute(
        "create trigger log_reading_of_its_job after insert on log_reading "
        "for each row execute function log_reading_of_its_job()"
    )


def downgrade() -> None:
    op.drop_table("log_reading")
    op.execute("drop function log_reading_of_its_job()")
    op.execute("alter table reading disable trigger all")
    op.execute("delete from strike where reading_id in (select id from reading where kind = 'log')")
    op.execute("delete from reading where kind = 'log'")
    op.execute("alter table reading enable trigger all")
    op.drop_constraint(op.f("ck_reading_kind"), "reading")
    op.create_check_constraint(op.f("ck_reading_kind"), "reading", BEFORE)
