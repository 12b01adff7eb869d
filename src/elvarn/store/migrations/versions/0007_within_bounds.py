"""times and figures within bounds, whoever writes; the ways to readings by their set-up and bench

A row of before that is beyond does not stop the start: the rule then holds for what comes, and it can be struck out.
"""

from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None

WHEN = "between timestamptz '2000-01-01' and timestamptz '2100-01-01'"
BOUNDS = (
    ("reading", "taken_at", f"taken_at {WHEN}"),
    ("strike", "struck_at", f"struck_at {WHEN}"),
    ("flow_reading", "most_flow", "flow_m3_s < 10"),
    ("flow_reading", "most_depression", "depression_pa <= 100000"),
    ("setup", "most_depression", "depression_pa <= 100000"),
    ("check_reading", "most_depression", "depression_pa <= 100000"),
    ("check_reading", "most_plate_flow", "plate_flow_m3_s < 10"),
    ("dimension_reading", "most_value", "value_si <= 20"),
)
INDEXES = (("flow_reading", "setup_id"), ("setup", "bench_id"))


def upgrade() -> None:
    for table, column in INDEXES:
        op.create_index(f"ix_{table}_{column}", table, [column])
    for table, name, rule in BOUNDS:
        op.execute(f"alter table {table} add constraint ck_{table}_{name} check ({rule}) not valid")
        op.execute(f"""
            do $$ begin
              alter table {table} validate constraint ck_{table}_{name};
            exception when check_violation then null;
            end $$
        """)


def downgrade() -> None:
    for table, column in INDEXES:
        op.drop_index(f"ix_{table}_{column}", table)
    for table, name, _ in BOUNDS:
        op.execute(f"alter table {table} drop constraint ck_{table}_{name}")
