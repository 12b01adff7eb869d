"""The shop: people, benches and dynos with their repeatability, and what it remembers of files."""

from datetime import datetime
from typing import TYPE_CHECKING, Any

from sqlalchemy import BigInteger, CheckConstraint, func
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from elvarn.core.bench.stated import MeterKind
from elvarn.store.models.base import AsTyped, Base, ClientMade, Revised, Versioned, one_of

if TYPE_CHECKING:
    pass


class Person(ClientMade, Versioned, Base):
    __tablename__ = "person"
    __table_args__ = (CheckConstraint("name <> ''", name="named"),)

    name: Mapped[str] = mapped_column(unique=True)


class Bench(ClientMade, Versioned, AsTyped, Revised, Base):
    """A flow bench. Percentages are of the reading; empty ones are assumed until the bench's own are learned. `line`
    tells how its figures come in; without one they are typed. `meter` says what kind it is, `ranges` what they reach.
    `shop` names the other shop whose bench it is; it is empty for our own."""

    __tablename__ = "bench"
    __table_args__ = (
        CheckConstraint(one_of("meter", *MeterKind), name="meter"),
        CheckConstraint("repeatability_percent > 0", name="repeatability"),
        CheckConstraint("session_shift_percent >= 0", name="session_shift"),
    )

    name: Mapped[str] = mapped_column(unique=True)
    repeatability_percent: Mapped[float | None]
    session_shift_percent: Mapped[float | None]
    line: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    meter: Mapped[str] = mapped_column(default=MeterKind.RATIO.value, server_default=MeterKind.RATIO.value)
    ranges: Mapped[list[dict[str, Any]]] = mapped_column(JSONB, default=list, server_default="[]")
    shop: Mapped[str] = mapped_column(default="", server_default="")


class Dyno(ClientMade, Versioned, Base):
    """A dyno: at the engine, at the hubs or on rollers; what holds it back. Repeatability is by how much two pulls of
    one mount differ at most, 19 times in 20, in percent; the day's shift a standard deviation. Empty ones are assumed
    until the dyno's own are learned. `line` tells how its samples come in; without one pulls come as files."""

    __tablename__ = "dyno"
    __table_args__ = (
        CheckConstraint(one_of("kind", "engine", "hub", "roller"), name="kind"),
        CheckConstraint(one_of("load", "", "inertia", "brake"), name="load"),
        CheckConstraint("repeatability_percent > 0", name="repeatability"),
        CheckConstraint("day_shift_percent > 0", name="day_shift"),
    )

    name: Mapped[str] = mapped_column(unique=True)
    kind: Mapped[str] = mapped_column(default="engine", server_default="engine")
    load: Mapped[str] = mapped_column(default="", server_default="")
    repeatability_percent: Mapped[float | None]
    day_shift_percent: Mapped[float | None]
    line: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))

    @property
    def measures(self) -> str:
        """Whether its power is the engine's or the wheels'."""
        return "engine" if self.kind == "engine" else "wheel"


class ColumnMapping(Base):
    """How the columns of a file were mapped last, by the digest of its headings."""

    __tablename__ = "column_mapping"

    headings_digest: Mapped[str] = mapped_column(primary_key=True)
    mapping: Mapped[dict[str, Any]] = mapped_column(JSONB)
    updated_at: Mapped[datetime] = mapped_column(server_default=func.now(), onupdate=func.now())


class StoredFile(Base):
    """A file in the data folder, by the digest of its content."""

    __tablename__ = "stored_file"

    digest: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str]
    size_bytes: Mapped[int]
    created_at: Mapped[datetime] = mapped_column(server_default=func.now())


class ShopState(Base):
    """One row: the revision of people, benches, dynos and settings."""

    __tablename__ = "shop_state"
    __table_args__ = (CheckConstraint("id = 1", name="one"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    revision: Mapped[int] = mapped_column(BigInteger, server_default="1")


class Setting(Versioned, Base):
    """Something that the shop decided for itself, by its name; what is not here stands at its usual value."""

    __tablename__ = "setting"

    name: Mapped[str] = mapped_column(primary_key=True)
    value: Mapped[dict[str, Any]] = mapped_column(JSONB)
