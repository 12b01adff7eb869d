"""a nitrous plate or its nozzles as an element and a part"""

from alembic import op

revision = "0017"
down_revision = "0016"
branch_labels = None
depends_on = None

ELEMENTS = (
    "inlet", "filter", "tube", "meter", "throttle", "adapter", "plenum", "runner", "head", "restrictor", "compressor",
    "cooler",
)  # fmt: skip
PARTS = (
    "inlet", "filter", "tube", "meter", "throttle", "adapter", "manifold", "head", "restrictor", "compressor", "cooler",
)  # fmt: skip
MORE = "nitrous"
OF_ELEMENTS = ("build_node", "dimension_reading", "flow_reading", "test_plan")


def upgrade() -> None:
    _known((*ELEMENTS, MORE), (*PARTS, MORE))


def downgrade() -> None:
    _known(ELEMENTS, PARTS)


def _known(elements: tuple[str, ...], parts: tuple[str, ...]) -> None:
    for table in OF_ELEMENTS:
        op.drop_constraint(op.f(f"ck_{table}_element_kind"), table)
        op.create_check_constraint(op.f(f"ck_{table}_element_kind"), table, _one_of("element_kind", elements))
    op.drop_constraint(op.f("ck_part_kind"), "part")
    op.create_check_constraint(op.f("ck_part_kind"), "part", _one_of("kind", parts))


def _one_of(column: str, words: tuple[str, ...]) -> str:
    return f"{column} in ({', '.join(repr(word) for word in words)})"
