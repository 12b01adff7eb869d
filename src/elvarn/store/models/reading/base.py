"""What every reading says of itself."""

from datetime import datetime
from uuid import UUID

from sqlalchemy import ARRAY, CheckConstraint, ForeignKey, String
from sqlalchemy.orm import Mapped, mapped_column, relationship

from elvarn.store.models.base import Base, ByPerson, one_of, within_a_century
from elvarn.store.models.reading.strike import Strike

KINDS = ("flow", "pull", "dimension", "check", "probe", "log", "section", "wall", "outline")


class Reading(ByPerson, Base):
    """A measured figure. `marks` are the doubts under which it was kept."""

    __tablename__ = "reading"
    __table_args__: tuple[CheckConstraint, ...] = (
        CheckConstraint(one_of("kind", *KINDS), name="kind"),
        CheckConstraint(within_a_century("taken_at"), name="taken_at"),
    )

    job_id: Mapped[UUID | None] = mapped_column(ForeignKey("job.id"), index=True)
    kind: Mapped[str]
    taken_at: Mapped[datetime]
    marks: Mapped[list[str]] = mapped_column(ARRAY(String), default=list)

    strike: Mapped["Strike | None"] = relationship(lazy="joined")

    __mapper_args__ = {"polymorphic_on": "kind", "polymorphic_identity": "reading"}
