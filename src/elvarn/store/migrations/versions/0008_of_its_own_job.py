"""readings belong to the set-ups, states and builds of their own job, whoever writes; older databases are healed

Earlier states of 0001, 0006 and 0007 were in use before they were changed: what their databases lack is made here.
"""

from alembic import op

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None

# What a row of each table has to keep to: `r` is its reading.
RULES = {
    "flow_reading": """
        (select s.job_id is not distinct from r.job_id from setup s where s.id = new.setup_id)
        and (select p.job_id is null or r.job_id is null or p.job_id = r.job_id
             from part_state t join part p on p.id = t.part_id where t.id = new.part_state_id)""",
    "check_reading": """
        (new.setup_id is null
         or (select s.job_id is not distinct from r.job_id from setup s where s.id = new.setup_id))""",
    "dimension_reading": """
        (select p.job_id is null or r.job_id is null or p.job_id = r.job_id
         from part_state t join part p on p.id = t.part_id where t.id = new.part_state_id)""",
    "pull_reading": "(select b.job_id = r.job_id from build b where b.id = new.build_id)",
}
TOUCHING_THE_SHOP = ("check_reading", "strike")
INDEXES = (("flow_reading", "setup_id"), ("setup", "bench_id"))


def upgrade() -> None:
    _heal()
    for table, rule in RULES.items():
        op.execute(f"""
            create function {table}_of_its_job() returns trigger language plpgsql as $$
            begin
              if not (select {rule} from reading r where r.id = new.id) then
                raise exception 'a % of another job', tg_table_name
                using errcode = 'foreign_key_violation', constraint = 'fk_{table}_of_its_job';
              end if;
              return null;
            end $$
        """)
        op.execute(f"""
            create trigger {table}_of_its_job after insert on {table}
            for each row execute function {table}_of_its_job()
        """)


def _heal() -> None:
    op.execute("""
        alter table pull_reading add column if not exists
        row_count integer not null generated always as (cardinality(engine_speed_rpm)) stored
    """)
    for table in TOUCHING_THE_SHOP:
        op.execute(f"drop trigger if exists {table}_touch_shop on {table}")
        op.execute(f"""
            create trigger {table}_touch_shop after insert or update or delete on {table}
            for each statement execute function touch_shop()
        """)
    for table, column in INDEXES:
        op.execute(f"create index if not exists ix_{table}_{column} on {table} ({column})")


def downgrade() -> None:
    for table in RULES:
        op.execute(f"drop trigger {table}_of_its_job on {table}")
        op.execute(f"drop function {table}_of_its_job()")
