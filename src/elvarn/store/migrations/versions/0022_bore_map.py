"""a bore gauged along its depth, plates and the grooves of seals"""

import sqlalchemy as sa
from alembic import op

revision = "0022"
down_revision = "0021"
branch_labels = None
depends_on = None

BEFORE = "quantity in ('bore', 'bore_out', 'length', 'volume', 'opening', 'entry_radius', 'shaft')"
QUANTITIES = (
    "quantity in ('bore', 'bore_out', 'length', 'volume', 'opening', 'entry_radius', 'shaft', 'across', 'plate', "
    "'plate_at', 'wide_open_angle', 'closed_angle', 'land_in', 'land_out', 'groove_depth', 'groove_width')"
)
CHECKS = {
    "place": "place_m between 0 and 2",
    "hour": "hour > 0 and hour <= 12",
    "barrel": "barrel between 1 and 16",
    "across": "(quantity = 'across') = (place_m is not null and hour is not null and barrel is not null)",
}
COLUMNS = (("place_m", sa.Float), ("hour", sa.Float), ("barrel", sa.Integer))


def upgrade() -> None:
    for name, kind in COLUMNS:
        op.add_column("dimension_reading", sa.Column(name, kind()))
    op.drop_constraint(op.f("ck_dimension_reading_quantity"), "dimension_reading")
    op.create_check_constraint(op.f("ck_dimension_reading_quantity"), "dimension_reading", QUANTITIES)
    for name, check in CHECKS.items():
        op.create_check_constraint(op.f(f"ck_dimension_reading_{name}"), "dimension_reading", check)


def downgrade() -> None:
    """What no earlier version knows goes: it would count as a bore."""
    op.execute("alter table dimension_reading disable trigger user")
    op.execute("alter table reading disable trigger user")
    op.execute(f"""
        with gone as (delete from dimension_reading where not ({BEFORE}) returning id),
             struck as (delete from strike where reading_id in (select id from gone))
        delete from reading where id in (select id from gone)
    """)
    op.execute("alter table reading enable trigger user")
    op.execute("alter table dimension_reading enable trigger user")
    for name in CHECKS:
        op.drop_constraint(op.f(f"ck_dimension_reading_{name}"), "dimension_reading")
    op.drop_constraint(op.f("ck_dimension_reading_quantity"), "dimension_reading")
    op.create_check_constraint(op.f("ck_dimension_reading_quantity"), "dimension_reading", BEFORE)
    for name, _ in COLUMNS:
        op.drop_column("dimension_reading", name)
