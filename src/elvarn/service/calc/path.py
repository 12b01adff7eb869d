"""Calculations on the air path, the engine's demand and injectors."""

from pydantic import Field

from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE, INCH_OF_WATER, REFERENCE_DEPRESSION
from elvarn.core.gas import discharge
from elvarn.core.path import backsolve, passage
from elvarn.service.calc.fields import Fields


class SeriesIn(Fields):
    flows_cfm: dict[str, float] = Field(description="what each element passes alone, by its name, at one depression")
    share_limit_percent: float = 30.0


class SeriesOut(Fields):
    together_cfm: float = Field(description="losses in series: the estimate, usually low")
    at_most_cfm: float = Field(description="the weakest link: a bound")
    weakest: str
    shares_percent: dict[str, float]
    wanted_cfm: dict[str, float] = Field(description="what elements above the limit would have to pass")


def series(given: SeriesIn) -> SeriesOut:
    names, flows = list(given.flows_cfm), list(given.flows_cfm.values())
    together = backsolve.combined_flow(flows)
    shares = {name: 100 * (together / flow) ** 2 for name, flow in given.flows_cfm.items()}
    limit = given.share_limit_percent / 100
    wanted = {
        name: backsolve.flow_for_share(flows, place, limit)
        for place, name in enumerate(names)
        if len(flows) > 1 and shares[name] > given.share_limit_percent
    }
    weakest = min(given.flows_cfm, key=lambda name: given.flows_cfm[name])
    return SeriesOut(
        together_cfm=together,
        at_most_cfm=given.flows_cfm[weakest],
        weakest=weakest,
        shares_percent=shares,
        wanted_cfm=wanted,
    )


class BackSolveIn(Fields):
    together_cfm: float
    others_cfm: list[float]


class BackSolveOut(Fields):
    alone_cfm: float


def back_solve(given: BackSolveIn) -> BackSolveOut:
    return BackSolveOut(alone_cfm=backsolve.back_solved_flow(given.together_cfm, given.others_cfm))


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

    return TubeOut(flow_cfm=cfm(found.area), flow_low_cfm=cfm(found.low), flow_high_cfm=cfm(found.high))


class EffectiveAreaIn(Fields):
    flow_cfm: float
    depression_inh2o: float = 28.0


class EffectiveAreaOut(Fields):
    effective_area_mm2: float


def effective_area(given: EffectiveAreaIn) -> EffectiveAreaOut:
    flow, depression = given.flow_cfm * CUBIC_FOOT_PER_MINUTE, given.depression_inh2o * INCH_OF_WATER
    return EffectiveAreaOut(effective_area_mm2=1e6 * discharge.effective_area(flow, depression))
