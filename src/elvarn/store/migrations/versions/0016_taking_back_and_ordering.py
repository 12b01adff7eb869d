"""jobs and parts put away or taken away, builds told by what they were copied from, parts wanted for jobs, engines as
their cards say and in versions"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0016"
down_revision = "0015"
branch_labels = None
depends_on = None

PUT_AWAY = ("job", "part")
EVENTS = {"insert": "new", "update": "new", "delete": "old"}


def upgrade() -> None:
    for table in PUT_AWAY:
        op.add_column(table, sa.Column("archived_at", sa.DateTime(timezone=True)))
        op.execute(
            f"create trigger {table}_touch_shop_delete after delete on {table} "
            "for each statement execute function touch_shop()"
        )
    op.add_column("build", sa.Column("copied_from_id", sa.Uuid()))
    op.create_foreign_key(
        op.f("fk_build_copied_from_id"), "build", "build", ["copied_from_id"], ["id"], ondelete="SET NULL"
    )
    op.add_column("part", sa.Column("on_hand", sa.Integer(), server_default="0", nullable=False))
    op.create_check_constraint(op.f("ck_part_on_hand"), "part", "on_hand between 0 and 10000")
    op.add_column("engine", sa.Column("card", JSONB(), server_default="{}", nullable=False))
    op.add_column("engine", sa.Column("follows_id", sa.Uuid()))
    op.create_foreign_key(op.f("fk_engine_follows_id"), "engine", "engine", ["follows_id"], ["id"])
    op.add_column("pull_card", sa.Column("engine_id", sa.Uuid()))
    op.create_foreign_key(op.f("fk_pull_card_engine_id"), "pull_card", "engine", ["engine_id"], ["id"])
    _wanted()


def _wanted() -> None:
    op.create_table(
        "wanted_part",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("content_digest", sa.String(64), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("person_id", sa.Uuid(), nullable=False),
        sa.Column("version", sa.Integer(), server_default="1", nullable=False),
        sa.Column("job_id", sa.Uuid()),
        sa.Column("part_id", sa.Uuid(), nullable=False),
        sa.Column("count", sa.Integer(), nullable=False),
        sa.Column("state", sa.String(), server_default="wanted", nullable=False),
        sa.Column("ordered_on", sa.Date()),
        sa.Column("expected_on", sa.Date()),
        sa.CheckConstraint("count between 1 and 1000", name=op.f("ck_wanted_part_count")),
        sa.CheckConstraint(
            "state in ('wanted', 'ordered', 'here', 'fitted', 'dropped')", name=op.f("ck_wanted_part_state")
        ),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_wanted_part_person_id")),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"], name=op.f("fk_wanted_part_job_id")),
        sa.ForeignKeyConstraint(["part_id"], ["part.id"], name=op.f("fk_wanted_part_part_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_wanted_part")),
    )
    op.create_index(op.f("ix_wanted_part_job_id"), "wanted_part", ["job_id"])
    op.create_index(op.f("ix_wanted_part_part_id"), "wanted_part", ["part_id"])
    op.execute("""
        create function touched_by_wanted_part() returns trigger language plpgsql as $$
        begin
          perform touch((select array_agg(distinct job_id) from changed where job_id is not null),
                        (select array_agg(distinct part_id) from changed), null);
          return null;
        end $$
    """)
    for event, rows in EVENTS.items():
        op.execute(
            f"create trigger wanted_part_touch_{event} after {event} on wanted_part referencing {rows} table as changed "
            "for each statement execute function touched_by_wanted_part()"
        )


def downgrade() -> None:
    op.drop_table("wanted_part")
    op.execute("drop function touched_by_wanted_part()")
    op.drop_column("pull_card", "engine_id")
    for column in ("follows_id", "card"):
        op.drop_column("engine", column)
    op.drop_column("part", "on_hand")
    op.drop_column("build", "copied_from_id")
    for table in PUT_AWAY:
        op.execute(f"drop trigger {table}_touch_shop_delete on {table}")
        op.drop_column(table, "archived_at")
