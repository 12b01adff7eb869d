"""bench that can be trusted"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None

METERS = "meter in ('ratio', 'volume', 'mass')"
KINDS = "kind in ('flow', 'pull', 'dimension', 'check', 'probe')"
PLANS = "kind in ('configuration', 'opening', 'lift', 'copy', 'pitot', 'swirl')"
ELEMENTS = "element_kind in ('inlet', 'filter', 'tube', 'meter', 'throttle', 'adapter', 'plenum', 'runner', 'head')"


def text(name: str, default: str = "") -> sa.Column[str]:
    return sa.Column(name, sa.String(), server_default=default, nullable=False)


def upgrade() -> None:
    op.add_column("bench", sa.Column("line", postgresql.JSONB(none_as_null=True), nullable=True))
    op.add_column("bench", text("meter", "ratio"))
    op.add_column("bench", sa.Column("ranges", postgresql.JSONB(), server_default="[]", nullable=False))
    op.add_column("bench", text("shop"))
    op.create_check_constraint(op.f("ck_bench_meter"), "bench", METERS)
    _setup()
    op.drop_constraint(op.f("ck_reading_kind"), "reading")
    op.create_check_constraint(op.f("ck_reading_kind"), "reading", KINDS)
    _plan()
    _flow_reading()
    _checks()
    _probes()
    for table in ("check_reading", "probe_reading"):
        op.execute(
            f"create trigger {table}_append_only before update or delete on {table} "
            "for each row execute function refuse_change()"
        )
        op.execute(
            f"create trigger {table}_keep before truncate on {table} "
            "for each statement execute function refuse_change()"
        )


def _setup() -> None:
    for name in ("mounted", "flaps", "clamps", "adapter"):
        op.add_column("setup", text(name))
    op.add_column("setup", text("direction", "in"))
    for name in ("entry_radius_mm", "opening_percent", "valve_lift_mm", "clock_hours"):
        op.add_column("setup", sa.Column(name, sa.Double(), nullable=True))
    op.add_column("setup", sa.Column("blade_seen_open", sa.Boolean(), nullable=True))
    for name, check in (
        ("entry_radius_mm", "entry_radius_mm > 0"),
        ("opening", "opening_percent > 0 and opening_percent <= 100"),
        ("valve_lift", "valve_lift_mm > 0"),
        ("clock", "clock_hours > 0 and clock_hours <= 12"),
        ("direction", "direction in ('in', 'out')"),
    ):
        op.create_check_constraint(op.f(f"ck_setup_{name}"), "setup", check)


def _plan() -> None:
    op.create_table(
        "test_plan",
        sa.Column("job_id", sa.Uuid(), nullable=False),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("title", sa.String(), nullable=False),
        sa.Column("setup_id", sa.Uuid(), nullable=False),
        sa.Column("element_kind", sa.String(), nullable=False),
        sa.Column("cylinder", sa.Integer(), nullable=True),
        sa.Column("series", postgresql.JSONB(), nullable=False),
        sa.Column("places", sa.ARRAY(sa.Float()), nullable=False),
        sa.Column("points", postgresql.JSONB(), nullable=False),
        sa.Column("bore_m", sa.Double(), nullable=True),
        sa.Column("person_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("content_digest", sa.String(length=64), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.CheckConstraint(PLANS, name=op.f("ck_test_plan_kind")),
        sa.CheckConstraint(ELEMENTS, name=op.f("ck_test_plan_element_kind")),
        sa.CheckConstraint("cylinder between 1 and 16", name=op.f("ck_test_plan_cylinder")),
        sa.CheckConstraint(
            "(element_kind = 'runner') = (cylinder is not null)", name=op.f("ck_test_plan_runner_has_cylinder")
        ),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"], name=op.f("fk_test_plan_job_id")),
        sa.ForeignKeyConstraint(["setup_id"], ["setup.id"], name=op.f("fk_test_plan_setup_id")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_test_plan_person_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_test_plan")),
    )
    op.create_index(op.f("ix_test_plan_job_id"), "test_plan", ["job_id"])


def _flow_reading() -> None:
    op.add_column("flow_reading", sa.Column("samples", sa.ARRAY(sa.Float()), server_default="{}", nullable=False))
    for name in ("depression_pa", "range_percent"):
        op.add_column("flow_reading", sa.Column(name, sa.Double(), nullable=True))
    op.add_column("flow_reading", sa.Column("refitted", sa.Boolean(), server_default="true", nullable=False))
    op.add_column("flow_reading", sa.Column("plan_id", sa.Uuid(), nullable=True))
    op.add_column("flow_reading", sa.Column("plan_point", sa.Integer(), nullable=True))
    op.create_check_constraint(op.f("ck_flow_reading_depression"), "flow_reading", "depression_pa > 0")
    op.create_foreign_key(op.f("fk_flow_reading_plan_id"), "flow_reading", "test_plan", ["plan_id"], ["id"])
    op.create_index(op.f("ix_flow_reading_plan_id"), "flow_reading", ["plan_id"])


def _checks() -> None:
    op.create_table(
        "check_reading",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("bench_id", sa.Uuid(), nullable=False),
        sa.Column("setup_id", sa.Uuid(), nullable=True),
        sa.Column("check_kind", sa.String(), nullable=False),
        sa.Column("typed", sa.String(), nullable=False),
        sa.Column("figure", sa.Double(), nullable=False),
        sa.Column("unit", sa.String(), nullable=False),
        sa.Column("flow_m3_s", sa.Double(), nullable=False),
        sa.Column("depression_pa", sa.Double(), nullable=False),
        sa.Column("samples", sa.ARRAY(sa.Float()), server_default="{}", nullable=False),
        text("plate"),
        sa.Column("plate_flow_m3_s", sa.Double(), nullable=True),
        sa.Column("plate_uncertainty_percent", sa.Double(), nullable=True),
        sa.CheckConstraint(
            "check_kind in ('zero', 'leak', 'plate', 'low', 'held')", name=op.f("ck_check_reading_check_kind")
        ),
        sa.CheckConstraint("flow_m3_s > -1 and flow_m3_s < 10", name=op.f("ck_check_reading_flow")),
        sa.CheckConstraint("depression_pa > 0", name=op.f("ck_check_reading_depression")),
        sa.CheckConstraint("plate_flow_m3_s > 0", name=op.f("ck_check_reading_plate_flow")),
        sa.CheckConstraint("plate_uncertainty_percent > 0", name=op.f("ck_check_reading_plate_uncertainty")),
        sa.CheckConstraint("check_kind = 'plate' or setup_id is not null", name=op.f("ck_check_reading_of_setup")),
        sa.ForeignKeyConstraint(["id"], ["reading.id"], name=op.f("fk_check_reading_id")),
        sa.ForeignKeyConstraint(["bench_id"], ["bench.id"], name=op.f("fk_check_reading_bench_id")),
        sa.ForeignKeyConstraint(["setup_id"], ["setup.id"], name=op.f("fk_check_reading_setup_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_check_reading")),
    )
    op.create_index(op.f("ix_check_reading_bench_id"), "check_reading", ["bench_id"])
    op.create_index(op.f("ix_check_reading_setup_id"), "check_reading", ["setup_id"])


def _probes() -> None:
    op.create_table(
        "probe_reading",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("plan_id", sa.Uuid(), nullable=False),
        sa.Column("plan_point", sa.Integer(), nullable=False),
        sa.Column("quantity", sa.String(), nullable=False),
        sa.Column("typed", sa.String(), nullable=False),
        sa.Column("figure", sa.Double(), nullable=False),
        sa.Column("unit", sa.String(), nullable=False),
        sa.Column("value_si", sa.Double(), nullable=False),
        sa.CheckConstraint("quantity in ('pitot', 'swirl')", name=op.f("ck_probe_reading_quantity")),
        sa.ForeignKeyConstraint(["id"], ["reading.id"], name=op.f("fk_probe_reading_id")),
        sa.ForeignKeyConstraint(["plan_id"], ["test_plan.id"], name=op.f("fk_probe_reading_plan_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_probe_reading")),
    )
    op.create_index(op.f("ix_probe_reading_plan_id"), "probe_reading", ["plan_id"])
