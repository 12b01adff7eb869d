"""Strike-outs."""

from datetime import datetime
from uuid import UUID

from sqlalchemy import CheckConstraint, ForeignKey
from sqlalchemy.orm import Mapped, mapped_column

from elvarn.store.models.base import Base, within_a_century


class Strike(Base):
    """A reading struck out: who, when and why."""

    __tablename__ = "strike"
    __table_args__ = (
        CheckConstraint("reason <> ''", name="reason"),
        CheckConstraint(within_a_century("struck_at"), name="struck_at"),
    )

    reading_id: Mapped[UUID] = mapped_column(ForeignKey("reading.id"), primary_key=True)
    person_id: Mapped[UUID] = mapped_column(ForeignKey("person.id"))
    reason: Mapped[str]
    struck_at: Mapped[datetime]
