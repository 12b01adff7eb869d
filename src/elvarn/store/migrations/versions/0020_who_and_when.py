"""what kind of work a step is, who does it when, and what is outside until when"""

import sqlalchemy as sa
from alembic import op

revision = "0020"
down_revision = "0019"
branch_labels = None
depends_on = None

WORKS = (
    "work in ('clean', 'mark the cutting line', 'cut open', 'weld', 'leak test the plenum', "
    "'check every face for flatness', 'skim', 'match the opening', 'blast', 'blow out', "
    "'mask lands, threads and bores', 'coat', 'measure lands, threads and bores again')"
)


def upgrade() -> None:
    op.add_column("step", sa.Column("work", sa.String()))
    op.add_column("step", sa.Column("assigned_to_id", sa.Uuid()))
    op.add_column("step", sa.Column("planned_on", sa.Date()))
    op.add_column("step", sa.Column("outside", sa.String(), server_default="", nullable=False))
    op.add_column("step", sa.Column("due_back_on", sa.Date()))
    op.add_column("step", sa.Column("doubts", sa.ARRAY(sa.String()), server_default="{}", nullable=False))
    op.create_foreign_key(op.f("fk_step_assigned_to_id"), "step", "person", ["assigned_to_id"], ["id"])
    op.create_check_constraint(op.f("ck_step_work"), "step", WORKS)
    op.create_check_constraint(op.f("ck_step_due_back"), "step", "due_back_on is null or outside <> ''")


def downgrade() -> None:
    for column in ("doubts", "due_back_on", "outside", "planned_on", "assigned_to_id", "work"):
        op.drop_column("step", column)
