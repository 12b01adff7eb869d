"""A figure as it came: typed by a person, or the mean of what the bench sent."""

from dataclasses import dataclass
from statistics import fmean

from elvarn import units
from elvarn.core.bench.plausible import check_flow
from elvarn.core.bench.reference import check_depression
from elvarn.core.bench.samples import range_findings, series_of
from elvarn.core.constants import INCH_OF_WATER
from elvarn.core.errors import CoreError, OutOfRange
from elvarn.given import given
from elvarn.service.kernel.errors import Invalid

MOST_SAMPLES = 1000


@given
class Taken:
    """What the bench sent for one figure: its samples, the depression it pulled meanwhile, how much of its range it
    used, and whether it had settled."""

    samples_cfm: list[float]
    depression_inh2o: float
    range_percent: float | None = None
    settled: bool = True


@dataclass(frozen=True)
class TakenFigure:
    """A figure, in the unit as it came and in SI, with the marks that it brings itself."""

    words: str
    figure: float
    unit: str
    flow: float
    depression: float | None = None
    samples: tuple[float, ...] = ()
    range_percent: float | None = None
    marks: tuple[str, ...] = ()


def figure_of(typed: str, default_unit: str, taken: Taken | None) -> TakenFigure:
    """A runner's or element's figure. Raises Invalid for one that can't be read or is no flow."""
    if taken is None:
        return _typed(typed, default_unit)
    try:
        for sample in _checked(taken):
            check_flow(sample)
        series_of(taken.samples_cfm)
    except CoreError as error:
        raise Invalid(str(error), path="taken.samples_cfm") from error
    return _mean(taken)


def still_figure_of(typed: str, default_unit: str, taken: Taken | None) -> TakenFigure:
    """A figure that may be nought: what a bench shows at rest or with everything blanked."""
    if taken is not None:
        _checked(taken)
        return _mean(taken)
    found = _parse(typed, default_unit)
    return TakenFigure(typed, found.figure, found.unit, found.si)


def _mean(taken: Taken) -> TakenFigure:
    mean = fmean(taken.samples_cfm)
    used = taken.range_percent
    marks = [finding.code for finding in range_findings(used / 100)] if used is not None else []
    if not taken.settled:
        marks.append("not_settled")
    return TakenFigure(
        f"{mean:.1f} CFM, mean of {len(taken.samples_cfm)}",
        mean,
        "cfm",
        units.to_si(mean, "cfm", "flow"),
        max(taken.depression_inh2o * INCH_OF_WATER, 1.0),
        tuple(taken.samples_cfm),
        used,
        tuple(marks),
    )


def _checked(taken: Taken) -> list[float]:
    """The samples in SI. Raises Invalid for none, too many, or a depression that no bench pulls."""
    if not 1 <= len(taken.samples_cfm) <= MOST_SAMPLES:
        message = f"{len(taken.samples_cfm)} samples make no figure. Send 1 to {MOST_SAMPLES}."
        raise Invalid(message, path="taken.samples_cfm")
    if taken.range_percent is not None and not 0 <= taken.range_percent <= 200:
        raise Invalid(f"{taken.range_percent:g} % of a range can't be.", path="taken.range_percent")
    if not 0 <= taken.depression_inh2o <= 80:
        raise Invalid(f"No bench pulls {taken.depression_inh2o:g} inH2O.", path="taken.depression_inh2o")
    return [units.to_si(sample, "cfm", "flow") for sample in taken.samples_cfm]


def check_pulled(figure: TakenFigure) -> None:
    """Refuse a flow read at a depression at which no bench can be read. Raises Invalid."""
    if figure.depression is None:
        return
    try:
        check_depression(figure.depression)
    except OutOfRange as error:
        raise Invalid(str(error), path="taken.depression_inh2o") from error


def _typed(text: str, default_unit: str) -> TakenFigure:
    typed = _parse(text, default_unit)
    try:
        check_flow(typed.si)
    except OutOfRange as error:
        message = f"A flow of {text} can't be a reading: it must be above 0. Read it again."
        raise Invalid(message, path="typed") from error
    return TakenFigure(text, typed.figure, typed.unit, typed.si)


def _parse(text: str, default_unit: str) -> units.Typed:
    try:
        return units.parse(text, "flow", default_unit)
    except units.UnitError as error:
        raise Invalid(str(error), path="typed") from error
