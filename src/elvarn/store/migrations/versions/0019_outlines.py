"""outlines traced from pictures, files or by hand"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0019"
down_revision = "0018"
branch_labels = None
depends_on = None

BEFORE = "kind in ('flow', 'pull', 'dimension', 'check', 'probe', 'log', 'section', 'wall')"
KINDS = "kind in ('flow', 'pull', 'dimension', 'check', 'probe', 'log', 'section', 'wall', 'outline')"
EVENTS = {"insert": "new", "update": "new", "delete": "old"}
OF_THE_PART = """
    (select p.job_id is null or r.job_id is null or p.job_id = r.job_id
     from part_state t join part p on p.id = t.part_id where t.id = new.part_state_id)
"""
JOBS = "select p.job_id from changed c join part_state s on s.id = c.part_state_id join part p on p.id = s.part_id"
PARTS = "select s.part_id from changed c join part_state s on s.id = c.part_state_id"


def upgrade() -> None:
    op.drop_constraint(op.f("ck_reading_kind"), "reading")
    op.create_check_constraint(op.f("ck_reading_kind"), "reading", KINDS)
    op.create_table(
        "outline_reading",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("part_state_id", sa.Uuid(), nullable=False),
        sa.Column("of", sa.String(), nullable=False),
        sa.Column("cylinder", sa.Integer()),
        sa.Column("place_m", sa.Float(), nullable=False),
        sa.Column("points_m", JSONB(), nullable=False),
        sa.Column("marks_m", JSONB(), nullable=False),
        sa.Column("area_m2", sa.Float(), nullable=False),
        sa.Column("perimeter_m", sa.Float(), nullable=False),
        sa.Column("edge_m", sa.Float()),
        sa.Column("source", sa.String(), nullable=False),
        sa.Column("file_digest", sa.String()),
        sa.Column("scale", JSONB()),
        sa.CheckConstraint(
            "of in ('runner', 'gasket', 'head', 'opening', 'throttle')", name=op.f("ck_outline_reading_of")
        ),
        sa.CheckConstraint("cylinder between 1 and 16", name=op.f("ck_outline_reading_cylinder")),
        sa.CheckConstraint("place_m between 0 and 2", name=op.f("ck_outline_reading_place")),
        sa.CheckConstraint(
            "case of when 'runner' then cylinder is not null else place_m = 0 end",
            name=op.f("ck_outline_reading_at"),
        ),
        sa.CheckConstraint("area_m2 > 0 and perimeter_m > 0", name=op.f("ck_outline_reading_sizes")),
        sa.CheckConstraint("edge_m >= 0", name=op.f("ck_outline_reading_edge")),
        sa.CheckConstraint("source in ('picture', 'file', 'hand')", name=op.f("ck_outline_reading_source")),
        sa.ForeignKeyConstraint(["id"], ["reading.id"], name=op.f("fk_outline_reading_id")),
        sa.ForeignKeyConstraint(
            ["part_state_id"], ["part_state.id"], name=op.f("fk_outline_reading_part_state_id")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_outline_reading")),
    )  # fmt: skip
    op.create_index(op.f("ix_outline_reading_part_state_id"), "outline_reading", ["part_state_id"])
    _never_changed()
    _touching()


def _never_changed() -> None:
    op.execute("create trigger outline_reading_append_only before update or delete on outline_reading "
               "for each row execute function refuse_change()")  # fmt: skip
    op.execute("create trigger outline_reading_keep before truncate on outline_reading "
               "for each statement execute function refuse_change()")  # fmt: skip
    op.execute(f"""
        create function outline_reading_of_its_job() returns trigger language plpgsql as $$
        begin
          if not (select {OF_THE_PART} from reading r where r.id = new.id) then
            raise exception 'a % of another job', tg_table_name
            using errcode = 'foreign_key_violation', constraint = 'fk_outline_reading_of_its_job';
          end if;
          return null;
        end $$
    """)
    op.execute("create trigger outline_reading_of_its_job after insert on outline_reading "
               "for each row execute function outline_reading_of_its_job()")  # fmt: skip


def _ids(question: str) -> str:
    return f"(select array_agg(distinct found.id) from ({question}) found(id) where found.id is not null)"


def _touching() -> None:
    op.execute(f"""
        create function touched_by_outline_reading() returns trigger language plpgsql as $$
        begin
          perform touch({_ids(JOBS)}, {_ids(PARTS)}, null);
          return null;
        end $$
    """)
    for event, rows in EVENTS.items():
        op.execute(f"create trigger outline_reading_touch_{event} after {event} on outline_reading "
                   f"referencing {rows} table as changed "
                   "for each statement execute function touched_by_outline_reading()")  # fmt: skip


def downgrade() -> None:
    op.drop_table("outline_reading")
    op.execute("drop function touched_by_outline_reading()")
    op.execute("drop function outline_reading_of_its_job()")
    op.execute("alter table reading disable trigger all")
    op.execute("delete from strike where reading_id in (select id from reading where kind = 'outline')")
    op.execute("delete from reading where kind = 'outline'")
    op.execute("alter table reading enable trigger all")
    op.drop_constraint(op.f("ck_reading_kind"), "reading")
    op.create_check_constraint(op.f("ck_reading_kind"), "reading", BEFORE)
