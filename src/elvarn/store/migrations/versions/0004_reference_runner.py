"""reference runner"""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("job", sa.Column("reference_runner", sa.Integer(), nullable=True))
    op.create_check_constraint(op.f("ck_job_reference_runner"), "job", "reference_runner between 1 and 16")


def downgrade() -> None:
    op.drop_column("job", "reference_runner")
