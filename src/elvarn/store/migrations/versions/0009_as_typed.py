"""what was typed into plain fields is kept as typed; which set-up's readings of a part count can be chosen; a
set-up of a single figure of a part is no series' set-up"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None

TYPED_INTO = ("part", "engine", "job", "setup", "bench")


def upgrade() -> None:
    for table in TYPED_INTO:
        op.add_column(table, sa.Column("typed", JSONB(), server_default="{}", nullable=False))
    op.add_column("setup", sa.Column("alone", sa.Boolean(), server_default="false", nullable=False))
    op.add_column("part_state", sa.Column("counting_setup_id", sa.Uuid(), nullable=True))
    op.add_column("part_state", sa.Column("counting_by_id", sa.Uuid(), nullable=True))
    op.add_column("part_state", sa.Column("counting_at", sa.DateTime(timezone=True), nullable=True))
    for column, table in (("counting_setup_id", "setup"), ("counting_by_id", "person")):
        op.create_foreign_key(op.f(f"fk_part_state_{column}"), "part_state", table, [column], ["id"])


def downgrade() -> None:
    for column in ("counting_at", "counting_by_id", "counting_setup_id"):
        op.drop_column("part_state", column)
    op.drop_column("setup", "alone")
    for table in TYPED_INTO:
        op.drop_column(table, "typed")
