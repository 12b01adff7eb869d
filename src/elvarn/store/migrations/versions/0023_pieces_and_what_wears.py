"""pieces along a runner, and tools worn out on a pass"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0023"
down_revision = "0022"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("port_plan", sa.Column("pieces", JSONB(), server_default="[]", nullable=False))
    op.add_column("port_pass", sa.Column("worn", sa.Integer(), server_default="0", nullable=False))
    op.create_check_constraint(op.f("ck_port_pass_worn"), "port_pass", "worn between 0 and 99")


def downgrade() -> None:
    op.drop_column("port_pass", "worn")
    op.drop_column("port_plan", "pieces")
