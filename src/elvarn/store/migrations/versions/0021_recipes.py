"""recipes of the shop, each in versions"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0021"
down_revision = "0020"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "port_recipe",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("content_digest", sa.String(64), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("person_id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("recipe", JSONB(), nullable=False),
        sa.CheckConstraint("name <> ''", name=op.f("ck_port_recipe_named")),
        sa.CheckConstraint("number >= 1", name=op.f("ck_port_recipe_number")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_port_recipe_person_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_port_recipe")),
        sa.UniqueConstraint("name", "number", name=op.f("uq_port_recipe_name_number")),
    )
    op.execute("create trigger port_recipe_touch_shop after insert on port_recipe "
               "for each statement execute function touch_shop()")  # fmt: skip


def downgrade() -> None:
    op.drop_table("port_recipe")
