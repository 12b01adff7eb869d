"""sections and walls of runners, what a part is to become, and the passes that make it so"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0018"
down_revision = "0017"
branch_labels = None
depends_on = None

BEFORE = "kind in ('flow', 'pull', 'dimension', 'check', 'probe', 'log')"
KINDS = "kind in ('flow', 'pull', 'dimension', 'check', 'probe', 'log', 'section', 'wall')"
READINGS = ("section_reading", "wall_reading")
EVENTS = {"insert": "new", "update": "new", "delete": "old"}
LAWS = (
    "law in ('constant area', 'taper', 'constant velocity', 'equal to the best runner', 'equal volume', 'equal flow', "
    "'to the head port', 'by hand')"
)
OF_THE_PART = """
    (select p.job_id is null or r.job_id is null or p.job_id = r.job_id
     from part_state t join part p on p.id = t.part_id where t.id = new.part_state_id)
"""
TOUCHES = {
    **dict.fromkeys(
        READINGS,
        (
            "select p.job_id from changed c join part_state s on s.id = c.part_state_id join part p on p.id = s.part_id",
            "select s.part_id from changed c join part_state s on s.id = c.part_state_id",
        ),
    ),
    "port_plan": ("select job_id from changed", "select part_id from changed"),
    "port_pass": ("select job_id from changed", "select null::uuid"),
}


def upgrade() -> None:
    op.drop_constraint(op.f("ck_reading_kind"), "reading")
    op.create_check_constraint(op.f("ck_reading_kind"), "reading", KINDS)
    op.add_column("part_state", sa.Column("in_work", sa.Boolean(), server_default="false", nullable=False))
    op.add_column("photo", sa.Column("part_state_id", sa.Uuid()))
    op.add_column("photo", sa.Column("cylinder", sa.Integer()))
    op.add_column("photo", sa.Column("place_m", sa.Float()))
    op.create_foreign_key(op.f("fk_photo_part_state_id"), "photo", "part_state", ["part_state_id"], ["id"])
    op.create_check_constraint(op.f("ck_photo_cylinder"), "photo", "cylinder between 1 and 16")
    op.create_check_constraint(op.f("ck_photo_place"), "photo", "place_m between 0 and 2")
    _sections()
    _walls()
    _plans()
    _passes()
    for table in READINGS:
        _never_changed(table)
    for table, questions in TOUCHES.items():
        _touching(table, *(_ids(question) for question in questions))


def _of_a_runner(table: str) -> tuple[sa.schema.SchemaItem, ...]:
    return (
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("part_state_id", sa.Uuid(), nullable=False),
        sa.Column("cylinder", sa.Integer(), nullable=False),
        sa.Column("place_m", sa.Float(), nullable=False),
        sa.Column("typed", sa.String(), nullable=False),
        sa.CheckConstraint("cylinder between 1 and 16", name=op.f(f"ck_{table}_cylinder")),
        sa.CheckConstraint("place_m between 0 and 2", name=op.f(f"ck_{table}_place")),
        sa.ForeignKeyConstraint(["id"], ["reading.id"], name=op.f(f"fk_{table}_id")),
        sa.ForeignKeyConstraint(["part_state_id"], ["part_state.id"], name=op.f(f"fk_{table}_part_state_id")),
        sa.PrimaryKeyConstraint("id", name=op.f(f"pk_{table}")),
    )


def _sections() -> None:
    op.create_table(
        "section_reading",
        *_of_a_runner("section_reading"),
        sa.Column("shape", sa.String(), nullable=False),
        sa.Column("sizes", sa.ARRAY(sa.Float()), nullable=False),
        sa.CheckConstraint(
            "shape in ('round', 'oval', 'ellipse', 'rectangle', 'd', 'area')", name=op.f("ck_section_reading_shape")
        ),
        sa.CheckConstraint(
            "cardinality(sizes) between 1 and 3 and 0 <= all (sizes)", name=op.f("ck_section_reading_sizes")
        ),
    )
    op.create_index(op.f("ix_section_reading_part_state_id"), "section_reading", ["part_state_id"])


def _walls() -> None:
    op.create_table(
        "wall_reading",
        *_of_a_runner("wall_reading"),
        sa.Column("hour", sa.Float(), nullable=False),
        sa.Column("holds", sa.String(), nullable=False),
        sa.Column("thickness_m", sa.Float(), nullable=False),
        sa.CheckConstraint("hour > 0 and hour <= 12", name=op.f("ck_wall_reading_hour")),
        sa.CheckConstraint("holds in ('wall', 'spot', 'water')", name=op.f("ck_wall_reading_holds")),
        sa.CheckConstraint("thickness_m > 0 and thickness_m <= 0.1", name=op.f("ck_wall_reading_thickness")),
    )
    op.create_index(op.f("ix_wall_reading_part_state_id"), "wall_reading", ["part_state_id"])


def _by_person(table: str) -> tuple[sa.schema.SchemaItem, ...]:
    return (
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("content_digest", sa.String(64), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("person_id", sa.Uuid(), nullable=False),
        sa.Column("version", sa.Integer(), server_default="1", nullable=False),
        sa.Column("job_id", sa.Uuid(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f(f"fk_{table}_person_id")),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"], name=op.f(f"fk_{table}_job_id")),
        sa.PrimaryKeyConstraint("id", name=op.f(f"pk_{table}")),
    )


def _plans() -> None:
    op.create_table(
        "port_plan",
        *_by_person("port_plan"),
        sa.Column("part_id", sa.Uuid(), nullable=False),
        sa.Column("material", sa.String(), nullable=False),
        sa.Column("stations_m", sa.ARRAY(sa.Float()), nullable=False),
        sa.Column("law", sa.String(), nullable=False),
        sa.Column("law_takes", JSONB(), server_default="{}", nullable=False),
        sa.Column("reach_m", sa.Float(), nullable=False),
        sa.Column("least_wall_m", sa.Float()),
        sa.Column("zones", JSONB(), server_default="[]", nullable=False),
        sa.Column("jet_runners", sa.ARRAY(sa.Integer()), server_default="{}", nullable=False),
        sa.Column("recipe", JSONB(), server_default="{}", nullable=False),
        sa.CheckConstraint(
            "material in ('aluminium', 'magnesium', 'iron', 'composite')", name=op.f("ck_port_plan_material")
        ),
        sa.CheckConstraint(LAWS, name=op.f("ck_port_plan_law")),
        sa.CheckConstraint("reach_m between 0 and 2", name=op.f("ck_port_plan_reach")),
        sa.CheckConstraint("least_wall_m between 0 and 0.1", name=op.f("ck_port_plan_least_wall")),
        sa.CheckConstraint("cardinality(stations_m) <= 40", name=op.f("ck_port_plan_stations")),
        sa.ForeignKeyConstraint(["part_id"], ["part.id"], name=op.f("fk_port_plan_part_id")),
        sa.UniqueConstraint("job_id", "part_id", name=op.f("uq_port_plan_job_id_part_id")),
    )
    op.create_index(op.f("ix_port_plan_job_id"), "port_plan", ["job_id"])
    op.create_index(op.f("ix_port_plan_part_id"), "port_plan", ["part_id"])


def _passes() -> None:
    op.create_table(
        "port_pass",
        *_by_person("port_pass"),
        sa.Column("part_state_id", sa.Uuid(), nullable=False),
        sa.Column("cylinder", sa.Integer(), nullable=False),
        sa.Column("round", sa.String(), nullable=False),
        sa.Column("seconds", sa.Float(), server_default="0", nullable=False),
        sa.Column("running_since", sa.DateTime(timezone=True)),
        sa.Column("done_at", sa.DateTime(timezone=True)),
        sa.Column("inspected", JSONB(), server_default="[]", nullable=False),
        sa.CheckConstraint("cylinder between 1 and 16", name=op.f("ck_port_pass_cylinder")),
        sa.CheckConstraint("round <> ''", name=op.f("ck_port_pass_round")),
        sa.CheckConstraint("seconds between 0 and 360000", name=op.f("ck_port_pass_seconds")),
        sa.CheckConstraint("running_since is null or done_at is null", name=op.f("ck_port_pass_runs_or_done")),
        sa.ForeignKeyConstraint(["part_state_id"], ["part_state.id"], name=op.f("fk_port_pass_part_state_id")),
        sa.UniqueConstraint(
            "part_state_id", "cylinder", "round", name=op.f("uq_port_pass_part_state_id_cylinder_round")
        ),
    )
    op.create_index(op.f("ix_port_pass_job_id"), "port_pass", ["job_id"])
    op.create_index(op.f("ix_port_pass_part_state_id"), "port_pass", ["part_state_id"])


def _never_changed(table: str) -> None:
    op.execute(f"create trigger {table}_append_only before update or delete on {table} "
               "for each row execute function refuse_change()")  # fmt: skip
    op.execute(f"create trigger {table}_keep before truncate on {table} "
               "for each statement execute function refuse_change()")  # fmt: skip
    op.execute(f"""
        create function {table}_of_its_job() returns trigger language plpgsql as $$
        begin
          if not (select {OF_THE_PART} from reading r where r.id = new.id) then
            raise exception 'a % of another job', tg_table_name
            using errcode = 'foreign_key_violation', constraint = 'fk_{table}_of_its_job';
          end if;
          return null;
        end $$
    """)
    op.execute(f"create trigger {table}_of_its_job after insert on {table} "
               f"for each row execute function {table}_of_its_job()")  # fmt: skip


def _ids(question: str) -> str:
    return f"(select array_agg(distinct found.id) from ({question}) found(id) where found.id is not null)"


def _touching(table: str, jobs: str, parts: str) -> None:
    op.execute(f"""
        create function touched_by_{table}() returns trigger language plpgsql as $$
        begin
          perform touch({jobs}, {parts}, null);
          return null;
        end $$
    """)
    for event, rows in EVENTS.items():
        op.execute(f"create trigger {table}_touch_{event} after {event} on {table} referencing {rows} table as changed "
                   f"for each statement execute function touched_by_{table}()")  # fmt: skip


def downgrade() -> None:
    op.drop_column("part_state", "in_work")
    for column in ("place_m", "cylinder", "part_state_id"):
        op.drop_column("photo", column)
    for table in TOUCHES:
        op.drop_table(table)
        op.execute(f"drop function touched_by_{table}()")
    for table in READINGS:
        op.execute(f"drop function {table}_of_its_job()")
    op.execute("alter table reading disable trigger all")
    op.execute("delete from strike where reading_id in (select id from reading where kind in ('section', 'wall'))")
    op.execute("delete from reading where kind in ('section', 'wall')")
    op.execute("alter table reading enable trigger all")
    op.drop_constraint(op.f("ck_reading_kind"), "reading")
    op.create_check_constraint(op.f("ck_reading_kind"), "reading", BEFORE)
