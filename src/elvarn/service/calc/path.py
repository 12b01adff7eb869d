"""Calculations on the air path, the engine's demand and injectors."""

from pydantic import Field

from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE, INCH_OF_WATER, REFERENCE_DEPRESSION
from elvarn.core.gas import discharge
from elvarn.core.path import backsolve, passage
from elvarn.service.calc.fields import Fields


class SeriesIn(Fields):
    flows_cfm: dict[str, float] = Field(
        description="what each element passes alone, by its name, in the order of the air, at one depression"
    )
    depression_inh2o: float = 28.0
    share_limit_percent: float = 30.0


class SeriesOut(Fields):
    together_cfm: float = Field(description="losses in series, the air expanding: the estimate, usually low")
    rule_of_thumb_cfm: float = Field(description="the same by the sum of 1/Q², air of constant density")
    rule_differs_percent: float
    at_most_cfm: float = Field(description="the weakest link: a bound")
    weakest: str
    shares_percent: dict[str, float]
    wanted_cfm: dict[str, float] = Field(description="what elements above the limit would have to pass")


def series(given: SeriesIn) -> SeriesOut:
    names, flows = list(given.flows_cfm), list(given.flows_cfm.values())
    rule = backsolve.rule_of_thumb_flow(flows)
    together = backsolve.combined_flow(_si(flows), given.depression_inh2o * INCH_OF_WATER) / CUBIC_FOOT_PER_MINUTE
    shares = {name: 100 * (rule / flow) ** 2 for name, flow in given.flows_cfm.items()}
    limit = given.share_limit_percent / 100
    wanted = {
        name: backsolve.flow_for_share(flows, place, limit)
        for place, name in enumerate(names)
        if len(flows) > 1 and shares[name] > given.share_limit_percent
    }
    weakest = min(given.flows_cfm, key=lambda name: given.flows_cfm[name])
    return SeriesOut(
        together_cfm=together,
        rule_of_thumb_cfm=rule,
        rule_differs_percent=100 * (rule / together - 1),
        at_most_cfm=given.flows_cfm[weakest],
        weakest=weakest,
        shares_percent=shares,
        wanted_cfm=wanted,
    )


class BackSolveIn(Fields):
    together_cfm: float
    others_cfm: list[float] = Field(description="of the elements in front of it, in the order of the air")
    depression_inh2o: float = 28.0


class BackSolveOut(Fields):
    alone_cfm: float = Field(description="of the last element, the air expanding from one to the next")
    rule_of_thumb_cfm: float = Field(description="the same by the sum of 1/Q², air of constant density")
    rule_differs_percent: float


def back_solve(given: BackSolveIn) -> BackSolveOut:
    together, others = given.together_cfm * CUBIC_FOOT_PER_MINUTE, _si(given.others_cfm)
    alone = backsolve.back_solved_flow(together, others, given.depression_inh2o * INCH_OF_WATER) / CUBIC_FOOT_PER_MINUTE
    rule = backsolve.rule_of_thumb_alone(given.together_cfm, given.others_cfm)
    return BackSolveOut(alone_cfm=alone, rule_of_thumb_cfm=rule, rule_differs_percent=100 * (rule / alone - 1))


def _si(flows_cfm: list[float]) -> list[float]:
    return [flow * CUBIC_FOOT_PER_MINUTE for flow in flows_cfm]


class BendIn(Fields):
    angle_deg: float
    radius_over_bore: float = Field(description="centreline radius over bore; 0 is a mitre")


class TubeIn(Fields):
    bore_mm: float
    bore_out_mm: float | None = None
    length_mm: float | None = None
    bends: list[BendIn] = Field(default_factory=list)
    entry_radius_mm: float | None = None
    ribbed: bool = False


class TubeOut(Fields):
    flow_cfm: float
    flow_low_cfm: float
    flow_high_cfm: float
    findings: list[str] = Field(description="where it lies outside of what the sources of its loss cover")


def tube_flow(given: TubeIn) -> TubeOut:
    def metres(millimetres: float | None) -> float | None:
        return None if millimetres is None else millimetres / 1000

    geometry = passage.Geometry(
        given.bore_mm / 1000,
        metres(given.bore_out_mm),
        metres(given.length_mm),
        metres(given.entry_radius_mm),
        bends=tuple(passage.Bend(bend.angle_deg, bend.radius_over_bore) for bend in given.bends),
        ribbed=given.ribbed,
    )
    found = passage.estimated("tube", geometry)

    def cfm(area: float | None) -> float:
        return discharge.volume_flow_of(area or 0.0, REFERENCE_DEPRESSION) / CUBIC_FOOT_PER_MINUTE

    said = [one.text for one in found.findings]
    return TubeOut(flow_cfm=cfm(found.area), flow_low_cfm=cfm(found.low), flow_high_cfm=cfm(found.high), findings=said)


class EffectiveAreaIn(Fields):
    flow_cfm: float
    depression_inh2o: float = 28.0


class EffectiveAreaOut(Fields):
    effective_area_mm2: float


def effective_area(given: EffectiveAreaIn) -> EffectiveAreaOut:
    flow, depression = given.flow_cfm * CUBIC_FOOT_PER_MINUTE, given.depression_inh2o * INCH_OF_WATER
    return EffectiveAreaOut(effective_area_mm2=1e6 * discharge.effective_area(flow, depression))
