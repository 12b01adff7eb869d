"""Checks of a bench."""

from uuid import UUID

from sqlalchemy import ARRAY, CheckConstraint, Float, ForeignKey
from sqlalchemy.orm import Mapped, mapped_column

from elvarn.store.models.base import one_of
from elvarn.store.models.reading.base import Reading

CHECKS = ("zero", "leak", "plate", "low", "held")


class CheckReading(Reading):
    """What a bench showed of itself: at rest (zero), with everything blanked (leak), with its reference plate on, or of
    the part as it stood after the last figure: at a low depression (low), with the blade pushed to full bore (held).
    A plate whose flow is known calibrates; any plate tells one session from another."""

    __tablename__ = "check_reading"
    __table_args__ = (
        CheckConstraint(one_of("check_kind", *CHECKS), name="check_kind"),
        CheckConstraint("flow_m3_s > -1 and flow_m3_s < 10", name="flow"),
        CheckConstraint("depression_pa > 0", name="depression"),
        CheckConstraint("depression_pa <= 100000", name="most_depression"),
        CheckConstraint("plate_flow_m3_s < 10", name="most_plate_flow"),
        CheckConstraint("plate_flow_m3_s > 0", name="plate_flow"),
        CheckConstraint("plate_uncertainty_percent > 0", name="plate_uncertainty"),
        CheckConstraint("check_kind = 'plate' or setup_id is not null", name="of_setup"),
    )
    __mapper_args__ = {"polymorphic_identity": "check"}

    id: Mapped[UUID] = mapped_column(ForeignKey("reading.id"), primary_key=True)
    bench_id: Mapped[UUID] = mapped_column(ForeignKey("bench.id"), index=True)
    setup_id: Mapped[UUID | None] = mapped_column(ForeignKey("setup.id"), index=True)
    check_kind: Mapped[str]
    typed: Mapped[str]
    figure: Mapped[float]
    unit: Mapped[str]
    flow_m3_s: Mapped[float]
    depression_pa: Mapped[float]
    samples: Mapped[list[float]] = mapped_column(ARRAY(Float), default=list, server_default="{}")
    plate: Mapped[str] = mapped_column(default="", server_default="")
    plate_flow_m3_s: Mapped[float | None]
    plate_uncertainty_percent: Mapped[float | None]

    @property
    def valid(self) -> bool:
        return self.strike is None
