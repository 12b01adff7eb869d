"""What a design's parts promise and cost, beside what was measured with them."""

from collections.abc import Iterator, Sequence
from uuid import UUID

from elvarn import units
from elvarn.core.dyno.compare import BandComparison
from elvarn.core.finding import Grade
from elvarn.service.dyno.designs import Designs
from elvarn.service.dyno.judged import Standing
from elvarn.service.kernel.sentences import Sentence, first_up, sentence
from elvarn.service.record.features import Claim, read
from elvarn.store.models import Build, Part


def about_parts(
    designs: Designs, standing: Standing | None, builds: Sequence[Build], currency: str, preset: units.Preset
) -> list[Sentence]:
    """Claims of parts that a design has and the reference has not, and what the best design's parts cost for what they
    clearly gain."""
    if standing is None:
        return []
    parts = {build.id: _parts(build) for build in builds}
    base = parts.get(designs.reference.build_id, {})
    added = {
        band_of: [part for key, part in parts.get(band_of, {}).items() if key not in base]
        for band_of in (one.design.build_id for one, _ in standing.figures)
    }
    return [*_claims(standing, added), *_cost(standing, added, currency, preset)]


def _parts(build: Build) -> dict[UUID, Part]:
    states = [node.part_state for node in build.nodes if node.part_state is not None]
    return {state.part_id: state.part for state in states}


def _claims(standing: Standing, added: dict[UUID, list[Part]]) -> Iterator[Sentence]:
    """Each claim once, held against the design with the fewest parts beside the promising one."""
    told: set[UUID] = set()
    simplest = sorted(standing.figures, key=lambda pair: len(added[pair[0].design.build_id]))
    for one, band in simplest:
        for part in added[one.design.build_id]:
            if part.id in told:
                continue
            told.add(part.id)
            for claim in (read(Claim, kept) for kept in part.claims):
                if claim.gain_percent is not None:
                    yield _claim(part, claim, claim.gain_percent, one.design.name, band)


def _claim(part: Part, claim: Claim, promised: float, design: str, band: BandComparison) -> Sentence:
    power = band.power
    peak = power.other_peak.value / power.stock_peak.value - 1
    needs = f", with {claim.needs}" if claim.needs else ""
    answer = f"{part.name}: claim {promised:g} % power{needs}."
    average = units.percent_text(power.fraction)
    measured = f"Measured with {design}: peak in the band {units.percent_text(peak)}, average {average}."
    return sentence(answer, Grade.MEASURED, "doubt" if peak * 100 < promised else "plain", reason=measured)


def _cost(standing: Standing, added: dict[UUID, list[Part]], currency: str, preset: units.Preset) -> Iterator[Sentence]:
    if not standing.leads or standing.best is None:
        return
    one, band = standing.best
    prices = [part.price for part in added[one.design.build_id] if part.job_id is None]
    known = [price for price in prices if price]
    if not known or len(known) < len(prices):
        return
    shown = units.show_difference(band.power.verdict.change, "power", preset)
    each = sum(known) / shown.value
    answer = (
        f"{first_up(one.design.name)}: parts for {sum(known):.0f} {currency}, {each:.0f} {currency} per {shown.unit}"
    )
    yield sentence(f"{answer} in the band, without the work.", Grade.COMPUTED)
