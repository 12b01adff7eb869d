"""Builds: the air path of one engine as a tree of part states."""

from uuid import UUID

from sqlalchemy import CheckConstraint, ForeignKey, ForeignKeyConstraint, Index, UniqueConstraint, text
from sqlalchemy.orm import Mapped, mapped_column, relationship

from elvarn.core.path.tree import ElementKind
from elvarn.store.models.base import Base, ByPerson, Versioned, one_of
from elvarn.store.models.part import PartState


class Build(ByPerson, Versioned, Base):
    """Everything is compared between builds; "stock" is one. A copy says which build it was copied from."""

    __tablename__ = "build"
    __table_args__ = (
        UniqueConstraint("job_id", "name"),
        Index("uq_build_one_stock", "job_id", unique=True, postgresql_where=text("is_stock")),
        CheckConstraint("name <> ''", name="named"),
        CheckConstraint("cylinder_count between 1 and 16", name="cylinder_count"),
        CheckConstraint("sequence >= 1", name="sequence"),
        UniqueConstraint("job_id", "sequence"),
    )

    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"), index=True)
    name: Mapped[str]
    is_stock: Mapped[bool] = mapped_column(default=False)
    sequence: Mapped[int]
    cylinder_count: Mapped[int]
    copied_from_id: Mapped[UUID | None] = mapped_column(ForeignKey("build.id", ondelete="SET NULL"))

    nodes: Mapped[list["BuildNode"]] = relationship(order_by="BuildNode.position", cascade="all, delete-orphan")


class BuildNode(Base):
    """A node of the tree: an element, or a series or branches of nodes. Only these two have children."""

    __tablename__ = "build_node"
    __table_args__ = (
        UniqueConstraint("id", "build_id", "node_type"),
        UniqueConstraint("build_id", "parent_id", "position"),
        Index("uq_build_node_one_root", "build_id", unique=True, postgresql_where=text("parent_id is null")),
        ForeignKeyConstraint(
            ["parent_id", "build_id", "parent_type"],
            ["build_node.id", "build_node.build_id", "build_node.node_type"],
            name="fk_build_node_parent",
            ondelete="CASCADE",
        ),
        CheckConstraint(one_of("node_type", "element", "series", "branches"), name="node_type"),
        CheckConstraint(one_of("parent_type", "series", "branches"), name="parent_type"),
        CheckConstraint("(parent_id is null) = (parent_type is null)", name="parent_whole"),
        CheckConstraint("(node_type = 'element') = (element_kind is not null)", name="element_has_kind"),
        CheckConstraint(one_of("element_kind", *ElementKind), name="element_kind"),
        CheckConstraint("node_type = 'element' or (part_state_id is null and cylinder is null)", name="only_elements"),
        CheckConstraint("cylinder between 1 and 16", name="cylinder"),
        CheckConstraint("bank between 1 and 4", name="bank"),
        CheckConstraint("position >= 0", name="position"),
        Index("uq_build_node_one_runner", "build_id", "cylinder", unique=True,
              postgresql_where=text("element_kind = 'runner' and cylinder is not null")),
    )  # fmt: skip

    id: Mapped[UUID] = mapped_column(primary_key=True)
    build_id: Mapped[UUID] = mapped_column(ForeignKey("build.id", ondelete="CASCADE"), index=True)
    parent_id: Mapped[UUID | None]
    parent_type: Mapped[str | None]
    position: Mapped[int]
    node_type: Mapped[str]
    element_kind: Mapped[str | None]
    label: Mapped[str] = mapped_column(default="")
    cylinder: Mapped[int | None]
    bank: Mapped[int | None]
    part_state_id: Mapped[UUID | None] = mapped_column(ForeignKey("part_state.id"))

    part_state: Mapped[PartState | None] = relationship()
