"""The shop as the choosers on the screens offer it: people, benches, dynos, kinds of job, units."""

from dataclasses import dataclass

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.dyno.correction import Standard
from elvarn.core.rail import Step
from elvarn.service.shop.benches import BenchView, bench_view
from elvarn.service.shop.dynos import DynoView, dyno_view
from elvarn.service.shop.people import PersonView
from elvarn.service.shop.settings import STAGES, path_settings, stage_words
from elvarn.store import queries


@dataclass(frozen=True)
class KindView:
    code: str
    title: str
    rail: list[str]


@dataclass(frozen=True)
class StepWord:
    """A step of the work: its word, its label, and the letters that go there after `g`."""

    word: str
    label: str
    letters: str


@dataclass(frozen=True)
class StandardWord:
    """A correction standard, and its name."""

    word: str
    label: str


@dataclass(frozen=True)
class StageWord:
    """A stage of port work, and what the shop calls it."""

    stage: int
    words: str


@dataclass(frozen=True)
class ShopView:
    people: list[PersonView]
    benches: list[BenchView]
    dynos: list[DynoView]
    kinds: list[KindView]
    presets: dict[str, dict[str, str]]
    steps: list[StepWord]
    standards: list[StandardWord]
    stages: list[StageWord]


def shop_view(session: Session) -> ShopView:
    """Everything that the choosers on the screens offer."""
    return ShopView(
        [PersonView(p.id, p.name) for p in queries.people(session)],
        [bench_view(b) for b in queries.benches(session)],
        [dyno_view(d) for d in queries.dynos(session)],
        [KindView(k.code, k.title, list(k.rail)) for k in queries.job_kinds(session)],
        {
            preset: {quantity: units.LABELS.get(unit, unit) for quantity, unit in chosen.items()}
            for preset, chosen in units.PRESETS.items()
        },
        [StepWord(step, step.label, step.letters) for step in Step],
        [StandardWord(standard, standard.label) for standard in Standard],
        [StageWord(stage, stage_words(path_settings(session).settings, stage)) for stage in STAGES],
    )
