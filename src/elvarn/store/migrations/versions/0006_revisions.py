"""revisions of job, part, bench and shop, raised by triggers on every table that hangs on them"""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None

OWN = ("job", "part", "bench")

# What a changed row of a table touches: jobs, parts, benches as questions to the changed rows.
OF_JOB = "select job_id from changed"
PARTS_OF_STATES = "select s.part_id from changed c join part_state s on s.id = c.part_state_id"
JOBS_OF_STATES = (
    "select p.job_id from changed c join part_state s on s.id = c.part_state_id join part p on p.id = s.part_id"
)
NOTHING = "select null::uuid"
TOUCHES = {
    "engine": ("select j.id from changed c join job j on j.engine_id = c.id", NOTHING, NOTHING),
    "build": (OF_JOB, NOTHING, NOTHING),
    "build_node": ("select b.job_id from changed c join build b on b.id = c.build_id", NOTHING, NOTHING),
    "part_state": (
        "select p.job_id from changed c join part p on p.id = c.part_id",
        "select part_id from changed",
        NOTHING,
    ),
    "part_piece": (
        "select p.job_id from changed c join part p on p.id in (c.part_id, c.piece_id)",
        "select part_id from changed union select piece_id from changed",
        NOTHING,
    ),
    "reading": (OF_JOB, NOTHING, NOTHING),
    "flow_reading": (
        JOBS_OF_STATES,
        PARTS_OF_STATES,
        "select s.bench_id from changed c join setup s on s.id = c.setup_id",
    ),
    "dimension_reading": (JOBS_OF_STATES, PARTS_OF_STATES, NOTHING),
    "check_reading": (NOTHING, NOTHING, "select bench_id from changed"),
    "strike": (
        "select r.job_id from changed c join reading r on r.id = c.reading_id",
        """select s.part_id from changed c
           left join flow_reading f on f.id = c.reading_id left join dimension_reading d on d.id = c.reading_id
           join part_state s on s.id = coalesce(f.part_state_id, d.part_state_id)""",
        """select coalesce(k.bench_id, s.bench_id) from changed c
           left join check_reading k on k.id = c.reading_id
           left join flow_reading f on f.id = c.reading_id left join setup s on s.id = f.setup_id""",
    ),
    "setup": (OF_JOB, NOTHING, NOTHING),
    "step": (OF_JOB, NOTHING, NOTHING),
    "received_item": (OF_JOB, NOTHING, NOTHING),
    "photo": (OF_JOB, "select part_id from changed", NOTHING),
    "test_plan": (OF_JOB, NOTHING, NOTHING),
}
# A check may be a plate's, which corrects what its bench read in any job.
OF_SHOP = ("person", "dyno", "setting", "job_kind", "rail_step", "column_mapping", "setup", "check_reading", "strike")
EVENTS = {"insert": "new", "update": "new", "delete": "old"}


def upgrade() -> None:
    for table in OWN:
        op.add_column(table, sa.Column("revision", sa.BigInteger(), server_default="1", nullable=False))
    op.create_table(
        "shop_state",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("revision", sa.BigInteger(), server_default="1", nullable=False),
        sa.CheckConstraint("id = 1", name=op.f("ck_shop_state_one")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_shop_state")),
    )
    op.execute("insert into shop_state (id) values (1)")
    _raise_own()
    _touch_others()
    _touch_shop()


def _raise_own() -> None:
    """A row that is updated, be it only to say so, is raised."""
    op.execute("""
        create function raise_revision() returns trigger language plpgsql as $$
        begin
          new.revision := old.revision + 1;
          return new;
        end $$
    """)
    for table in OWN:
        op.execute(
            f"create trigger {table}_revision before update on {table} for each row execute function raise_revision()"
        )


def _touch_others() -> None:
    """Always job before part before bench: two writers that touch the same rows wait, and never for each other."""
    op.execute("""
        create function touch(jobs uuid[], parts uuid[], benches uuid[]) returns void language plpgsql as $$
        begin
          if jobs is not null then update job set revision = revision where id = any(jobs); end if;
          if parts is not null then update part set revision = revision where id = any(parts); end if;
          if benches is not null then update bench set revision = revision where id = any(benches); end if;
        end $$
    """)
    for table, questions in TOUCHES.items():
        jobs, parts, benches = (_ids(question) for question in questions)
        op.execute(f"""
            create function touched_by_{table}() returns trigger language plpgsql as $$
            begin
              perform touch({jobs}, {parts}, {benches});
              return null;
            end $$
        """)
        _after_statements(table, f"touched_by_{table}", "touch")
    op.execute("""
        create function touched_by_part() returns trigger language plpgsql as $$
        begin
          if new.job_id is not null then perform touch(array[new.job_id], null, null); end if;
          return null;
        end $$
    """)
    op.execute("create trigger part_touch_insert after insert on part for each row execute function touched_by_part()")
    op.execute("create trigger part_touch_update after update on part for each row "
               "when (old.version <> new.version) execute function touched_by_part()")  # fmt: skip


def _touch_shop() -> None:
    op.execute("""
        create function touch_shop() returns trigger language plpgsql as $$
        begin
          update shop_state set revision = revision + 1;
          return null;
        end $$
    """)
    for table in OF_SHOP:
        op.execute(f"create trigger {table}_touch_shop after insert or update or delete on {table} "
                   "for each statement execute function touch_shop()")  # fmt: skip
    op.execute(
        "create trigger bench_touch_shop_insert after insert on bench for each row execute function touch_shop()"
    )
    op.execute("create trigger bench_touch_shop_update after update on bench for each row "
               "when (old.version <> new.version) execute function touch_shop()")  # fmt: skip


def _ids(question: str) -> str:
    """The ids that a question gives as one array, or null where there is none."""
    if question == NOTHING:
        return "null"
    return f"(select array_agg(distinct found.id) from ({question}) found(id) where found.id is not null)"


def _after_statements(table: str, function: str, name: str) -> None:
    for event, rows in EVENTS.items():
        op.execute(f"create trigger {table}_{name}_{event} after {event} on {table} referencing {rows} table as changed "
                   f"for each statement execute function {function}()")  # fmt: skip


def downgrade() -> None:
    for table in ("bench", "part", *TOUCHES):
        for event in EVENTS:
            op.execute(f"drop trigger if exists {table}_touch_{event} on {table}")
    for table in (*OF_SHOP, "bench"):
        for suffix in ("", "_insert", "_update"):
            op.execute(f"drop trigger if exists {table}_touch_shop{suffix} on {table}")
    for table in OWN:
        op.execute(f"drop trigger {table}_revision on {table}")
        op.drop_column(table, "revision")
    for table in (*TOUCHES, "part"):
        op.execute(f"drop function touched_by_{table}()")
    op.execute("drop function touch_shop()")
    op.execute("drop function touch(uuid[], uuid[], uuid[])")
    op.execute("drop function raise_revision()")
    op.drop_table("shop_state")
