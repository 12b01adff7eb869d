"""Parts, the pieces they consist of, and the states that cutting makes."""

from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import CheckConstraint, ForeignKey, UniqueConstraint
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from elvarn.core.path.features import PART_KINDS
from elvarn.store.models.base import AsTyped, Base, ByPerson, Revised, Versioned, one_of


class Part(ByPerson, Versioned, AsTyped, Revised, Base):
    """A thing that can be held. One without a job lies on the shelf.

    `advertised` are dimensions that its maker states, in mm and litres; `features` what it offers to its neighbours;
    `claims` what its seller promises. What was measured are readings.
    """

    __tablename__ = "part"
    __table_args__ = (
        CheckConstraint(one_of("kind", *PART_KINDS), name="kind"),
        CheckConstraint("name <> ''", name="named"),
        CheckConstraint("mass_kg > 0", name="mass"),
        CheckConstraint("price >= 0", name="price"),
        CheckConstraint("lead_days >= 0", name="lead_days"),
        CheckConstraint("on_hand between 0 and 10000", name="on_hand"),
    )

    job_id: Mapped[UUID | None] = mapped_column(ForeignKey("job.id"), index=True)
    kind: Mapped[str]
    name: Mapped[str]
    maker: Mapped[str | None]
    number: Mapped[str | None]
    material: Mapped[str | None]
    mass_kg: Mapped[float | None]
    price: Mapped[float | None]
    lead_days: Mapped[int | None]
    note: Mapped[str] = mapped_column(default="", server_default="")
    on_hand: Mapped[int] = mapped_column(default=0, server_default="0")
    archived_at: Mapped[datetime | None]
    advertised: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default="{}")
    features: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default="{}")
    claims: Mapped[list[Any]] = mapped_column(JSONB, default=list, server_default="[]")

    states: Mapped[list["PartState"]] = relationship(back_populates="part", order_by="PartState.sequence")
    pieces: Mapped[list["PartPiece"]] = relationship(
        foreign_keys="PartPiece.part_id", order_by="PartPiece.position", viewonly=True
    )


class PartPiece(Base):
    """A part that is a piece of another: upper half, lid, plate, runner insert."""

    __tablename__ = "part_piece"
    __table_args__ = (
        CheckConstraint("part_id <> piece_id", name="not_itself"),
        UniqueConstraint("part_id", "position"),
    )

    part_id: Mapped[UUID] = mapped_column(ForeignKey("part.id"), primary_key=True)
    piece_id: Mapped[UUID] = mapped_column(ForeignKey("part.id"), primary_key=True)
    position: Mapped[int]
    role: Mapped[str]

    piece: Mapped[Part] = relationship(foreign_keys=[piece_id])


class PartState(ByPerson, Base):
    """A part as it was at a time. Cutting makes a new state, `in_work` while it is being cut; its geometry is its valid
    dimension readings. Where somebody chose which set-up's flow readings count, it says which, who and when."""

    __tablename__ = "part_state"
    __table_args__ = (
        UniqueConstraint("part_id", "sequence"),
        CheckConstraint("sequence >= 1", name="sequence"),
        CheckConstraint("stage between 0 and 3", name="stage"),
        CheckConstraint("label <> ''", name="labelled"),
    )

    part_id: Mapped[UUID] = mapped_column(ForeignKey("part.id"), index=True)
    sequence: Mapped[int]
    label: Mapped[str]
    stage: Mapped[int | None]
    in_work: Mapped[bool] = mapped_column(default=False, server_default="false")
    counting_setup_id: Mapped[UUID | None] = mapped_column(ForeignKey("setup.id"))
    counting_by_id: Mapped[UUID | None] = mapped_column(ForeignKey("person.id"))
    counting_at: Mapped[datetime | None]

    part: Mapped[Part] = relationship(back_populates="states")
