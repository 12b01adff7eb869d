"""All designs of a job on one basis, each held against stock (or against any of them), over a band and every use."""

from collections.abc import Hashable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.core.dyno.compare import BandComparison, Compared, compare, over_band
from elvarn.core.dyno.correction import Standard
from elvarn.core.dyno.learned import DynoKnown
from elvarn.core.dyno.pairing import Pull
from elvarn.core.dyno.profile import Profile
from elvarn.core.errors import CoreError
from elvarn.service.dyno.basis import Based, Place, core_pulls, on_one_basis, places
from elvarn.service.dyno.trust import known_of
from elvarn.service.dyno.uses import Use, offered_of, uses_of
from elvarn.service.kernel.sentences import not_comparable
from elvarn.service.record.curves import CurveShelf
from elvarn.store import queries
from elvarn.store.models import Job
from elvarn.store.queries import PulledJob, PulledPull


@dataclass(frozen=True)
class Design:
    """A build that was pulled: its pulls on the basis of all, as they were made, and their curves."""

    build_id: UUID
    name: str
    is_stock: bool
    pulls: tuple[Based, ...]
    curves: tuple[Pull, ...]

    @property
    def key(self) -> Hashable:
        return tuple(
            (one.row.id, one.factor, p.day, p.mount, p.signature, p.weather, p.humidity) for one, p in self.pairs
        )

    @property
    def pairs(self) -> list[tuple[Based, Pull]]:
        return list(zip(self.pulls, self.curves, strict=True))


@dataclass(frozen=True)
class Against:
    """A design against the reference: the comparison, or why there is none."""

    design: Design
    compared: Compared | None
    shelf: CurveShelf
    unlike: str = ""

    def over(self, profile: Profile) -> BandComparison | None:
        """Its figures over a profile; None where there are none."""
        compared = self.compared
        if compared is None or compared.traces is None:
            return None
        return self.shelf.bands.get((compared, profile), lambda: _over(compared, profile))


@dataclass(frozen=True)
class Designs:
    """A job's designs: the reference, and each other one against it."""

    job: PulledJob
    reference: Design
    others: tuple[Against, ...]
    known: Mapping[UUID, DynoKnown]
    shelf: CurveShelf

    @cached_property
    def every(self) -> list[Design]:
        return [self.reference, *(one.design for one in self.others)]

    @cached_property
    def uses(self) -> list[Use]:
        return uses_of(self.job, self._highest)

    @property
    def offered(self) -> list[tuple[str, float, float]]:
        """Usual uses to begin with, and their bands."""
        return offered_of(self.job, self._highest)

    @cached_property
    def _highest(self) -> float:
        return max((pull.curve.highest for design in self.every for pull in design.curves), default=0.0)

    @property
    def basis(self) -> str:
        """The name of the basis on which all stand; empty where they stand on several."""
        names = {one.standard.label for design in self.every for one in design.pulls}
        return names.pop() if len(names) == 1 else ""

    def between(self, one: Design, other: Design) -> Against:
        """Any design against any: as many are judged together."""
        return _against(one, other, self.known_for(one, other), max(len(self.others), 1), self.shelf)

    def known_for(self, *designs: Design) -> DynoKnown:
        """What is known of the dyno on which all these were pulled; of several the one that repeats worst."""
        return _known_for(self.known, designs)


def designs_of(
    session: Session,
    shelf: CurveShelf,
    job_id: UUID,
    reference_id: UUID | None = None,
    standard: Standard | None = None,
    loaded: Job | None = None,
) -> Designs | None:
    """The designs of a job that were pulled, against stock, or the chosen one, or else the first that was pulled. None
    where nothing was. A job that is `loaded` is not asked for again."""
    job = PulledJob.of(loaded) if loaded else queries.pulled_job(session, job_id)
    return designs_from(session, shelf, job, queries.pulled_in_job(session, job_id), reference_id, standard)


def designs_from(
    session: Session,
    shelf: CurveShelf,
    job: PulledJob | None,
    made: Sequence[PulledPull],
    reference_id: UUID | None = None,
    standard: Standard | None = None,
) -> Designs | None:
    """The same of a job and pulls that were asked for already."""
    rows = [row for row in made if not row.struck]
    if job is None or not rows:
        return None
    wanted = standard or Standard.of(job.standard)
    designs = _designs(session, shelf, on_one_basis(rows, wanted, job.boosted), places(made))
    reference = next((d for d in designs if d.build_id == reference_id), None) or designs[0]
    known = {dyno_id: known_of(session, shelf, dyno_id) for dyno_id in {row.dyno_id for row in rows}}
    others = [design for design in designs if design is not reference]
    against = tuple(
        _against(reference, other, _known_for(known, (reference, other)), len(others), shelf) for other in others
    )
    return Designs(job, reference, against, known, shelf)


def _designs(session: Session, shelf: CurveShelf, found: Sequence[Based], at: dict[UUID, Place]) -> list[Design]:
    curves = core_pulls(session, shelf, found, at)
    builds: dict[UUID, list[tuple[Based, Pull]]] = {}
    for one, pull in zip(found, curves, strict=True):
        builds.setdefault(one.row.build_id, []).append((one, pull))
    ordered = sorted(builds.values(), key=lambda group: (not group[0][0].row.is_stock, group[0][0].row.sequence))
    return [
        Design(
            group[0][0].row.build_id,
            group[0][0].row.build,
            group[0][0].row.is_stock,
            tuple(one for one, _ in group),
            tuple(pull for _, pull in group),
        )
        for group in ordered
    ]


def _against(reference: Design, other: Design, known: DynoKnown, designs: int, shelf: CurveShelf) -> Against:
    try:
        key = (reference.key, other.key, known, designs)
        found = shelf.comparisons.get(key, lambda: compare(reference.curves, other.curves, known, designs))
    except CoreError as error:
        return Against(other, None, shelf, str(error))
    return Against(other, found, shelf, _why_unlike(found, reference.name))


def _known_for(known: Mapping[UUID, DynoKnown], designs: Sequence[Design]) -> DynoKnown:
    used = [{one.row.dyno_id for one in design.pulls} for design in designs]
    return max((known[i] for i in set.intersection(*used) or set.union(*used)), key=lambda one: one.pull.value)


def _over(compared: Compared, profile: Profile) -> BandComparison | None:
    try:
        return over_band(compared, profile)
    except CoreError:
        return None


def _why_unlike(found: Compared, reference: str) -> str:
    """Why two designs have no figure; nothing where they have."""
    spoiled = [drift for drift in found.drifts if drift.spoils]
    if found.depends_on:
        return f"gain depends on {', '.join(found.depends_on)}: no joint figure"
    if found.pairing.unlike:
        return not_comparable(found.pairing.unlike)
    if found.traces is None and spoiled:
        return f"not comparable: {reference} itself drifted by {abs(spoiled[0].verdict.change):.1f} % that day"
    return ""
