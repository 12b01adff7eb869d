"""one list of steps: the step takein becomes checkin; steps and kinds are written from the core's list"""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None

WORDS = ("checkin", "path", "bench", "port", "fit", "dyno", "handover")
OLD_WORDS = ("takein", *WORDS[1:])


def upgrade() -> None:
    op.drop_constraint(op.f("ck_job_kind_rail_known"), "job_kind")
    op.drop_constraint(op.f("ck_step_rail_step"), "step")
    op.execute("update job_kind set rail = array_replace(rail, 'takein', 'checkin')")
    op.execute("update step set rail_step = 'checkin' where rail_step = 'takein'")
    steps = op.create_table(
        "rail_step",
        sa.Column("word", sa.String(), nullable=False),
        sa.PrimaryKeyConstraint("word", name=op.f("pk_rail_step")),
    )
    op.bulk_insert(steps, [{"word": word} for word in WORDS])
    op.create_foreign_key(op.f("fk_step_rail_step_rail_step"), "step", "rail_step", ["rail_step"], ["word"])


def downgrade() -> None:
    op.drop_constraint(op.f("fk_step_rail_step_rail_step"), "step")
    op.drop_table("rail_step")
    op.execute("update job_kind set rail = array_replace(rail, 'checkin', 'takein')")
    op.execute("update step set rail_step = 'takein' where rail_step = 'checkin'")
    words = ", ".join(f"'{word}'" for word in OLD_WORDS)
    op.create_check_constraint(op.f("ck_job_kind_rail_known"), "job_kind", f"rail <@ array[{words}]::varchar[]")
    op.create_check_constraint(op.f("ck_step_rail_step"), "step", f"rail_step in ({words})")
