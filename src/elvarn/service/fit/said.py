"""What is said of a swap, as it is kept and sent."""

from dataclasses import field
from uuid import UUID

from elvarn.core.fit.interface import Verb
from elvarn.core.fit.order import Phase
from elvarn.given import given
from elvarn.typed import Count, Millimetres, Minutes, Money


@given
class InterfaceSpec:
    """Something on an intake: what it is called, what it sits on, its boss, its connector and its signal."""

    words: str
    on: str = ""
    bore_mm: Millimetres | None = None
    connector: str = ""
    signal: str = ""


@given
class InTheWay:
    """Something that has to come off first and goes back on: its bolts, and how long it takes both ways."""

    words: str
    bolts: str = ""
    minutes: Minutes | None = None


@given
class Renewal:
    """Something worth renewing while it is open, its price, and whether it is taken."""

    words: str
    price: Money | None = None
    taken: bool = False


@given
class OwnStep:
    """A step of the shop's own, and in which part of the work it belongs."""

    title: str
    phase: Phase


@given
class SaidOf:
    """What is done with a strand, and how."""

    verb: Verb
    how: str = ""


@given
class SwapPlan:
    """What may be said of a swap: the way taken where people differ, what is done with a strand, strands and steps of
    one's own, what is in the way, what is renewed while it is open, what was counted of the kit, and what the rings are
    made of."""

    family: str = ""
    mock_up: bool = False
    seal: str = ""
    schools: dict[str, str] = field(default_factory=dict)
    said: dict[str, SaidOf] = field(default_factory=dict)
    extras: list[InterfaceSpec] = field(default_factory=list)
    steps: list[OwnStep] = field(default_factory=list)
    in_the_way: list[InTheWay] = field(default_factory=list)
    renewals: list[Renewal] = field(default_factory=list)
    kit: dict[str, Count] = field(default_factory=dict)


@given
class NewFitPlan:
    """A swap begun: of two builds of the job, or by the name of what goes on, then a build is made in passing."""

    person_id: UUID
    job_id: UUID
    off_build_id: UUID | None = None
    on_build_id: UUID | None = None
    on_name: str = ""
    family: str = ""
