"""bolts of a flange where they sit, and which of them are tight"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0024"
down_revision = "0023"
branch_labels = None
depends_on = None

EVENTS = {"insert": "new", "update": "new", "delete": "old"}
JOBS = "(select array_agg(distinct found.id) from (select job_id from changed) found(id) where found.id is not null)"
CLASSES = "bolt_class in ('4.8', '8.8', '9.8', '10.9', '12.9', 'A2-70', 'A4-80', 'Ti-6Al-4V')"
INTO = (
    "\"into\" in ('cast aluminium, heat-treated', 'cast aluminium, as cast', 'wrought aluminium', "
    "'steel insert in aluminium', 'cast iron', 'steel', 'brass insert in plastic')"
)


def upgrade() -> None:
    op.create_table(
        "bolt_map",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("content_digest", sa.String(64), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("person_id", sa.Uuid(), nullable=False),
        sa.Column("version", sa.Integer(), server_default="1", nullable=False),
        sa.Column("job_id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("thread", sa.String(), nullable=False),
        sa.Column("bolt_class", sa.String(), nullable=False),
        sa.Column("lubrication", sa.String(), nullable=False),
        sa.Column("into", sa.String(), nullable=False),
        sa.Column("stack_m", sa.Float(), nullable=False),
        sa.Column("washers_m", sa.Float(), nullable=False),
        sa.Column("depth_m", sa.Float()),
        sa.Column("length_m", sa.Float(), nullable=False),
        sa.Column("torque_nm", sa.Float()),
        sa.Column("torque_typed", sa.String(), server_default="", nullable=False),
        sa.Column("torque_source", sa.String(), server_default="", nullable=False),
        sa.Column("places", JSONB(), nullable=False),
        sa.Column("ticks", JSONB(), server_default="[]", nullable=False),
        sa.Column("doubts", sa.ARRAY(sa.String()), server_default="{}", nullable=False),
        sa.CheckConstraint("name <> ''", name=op.f("ck_bolt_map_named")),
        sa.CheckConstraint(CLASSES, name=op.f("ck_bolt_map_bolt_class")),
        sa.CheckConstraint("lubrication in ('dry', 'oiled', 'moly paste')", name=op.f("ck_bolt_map_lubrication")),
        sa.CheckConstraint(INTO, name=op.f("ck_bolt_map_into")),
        sa.CheckConstraint("stack_m > 0 and washers_m >= 0 and length_m > 0", name=op.f("ck_bolt_map_sizes")),
        sa.CheckConstraint("depth_m > 0", name=op.f("ck_bolt_map_depth")),
        sa.CheckConstraint("torque_nm > 0", name=op.f("ck_bolt_map_torque")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_bolt_map_person_id")),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"], name=op.f("fk_bolt_map_job_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_bolt_map")),
    )
    op.create_index(op.f("ix_bolt_map_job_id"), "bolt_map", ["job_id"])
    op.execute(f"""
        create function touched_by_bolt_map() returns trigger language plpgsql as $$
        begin
          perform touch({JOBS}, null, null);
          return null;
        end $$
    """)
    for event, rows in EVENTS.items():
        op.execute(f"create trigger bolt_map_touch_{event} after {event} on bolt_map referencing {rows} table as changed "
                   "for each statement execute function touched_by_bolt_map()")  # fmt: skip


def downgrade() -> None:
    op.drop_table("bolt_map")
    op.execute("drop function touched_by_bolt_map()")
