"""Calculations on bench figures."""

from dataclasses import replace

from pydantic import Field

from elvarn.core.bench import assumed, reference
from elvarn.core.bench.balance import balance
from elvarn.core.bench.gain import ASSUMED, gain_over_runners, smallest_gain_shown
from elvarn.core.bench.pairs import Refit, pairs_of
from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE, INCH_OF_WATER
from elvarn.core.difference import Known
from elvarn.core.statistics import repeatability
from elvarn.core.statistics.scatter import ASSUMED_WEIGHT, Scatter
from elvarn.service.calc.fields import Fields, texts


class DepressionIn(Fields):
    flow_cfm: float
    measured_inh2o: float
    stated_inh2o: float = 28.0


class DepressionOut(Fields):
    flow_cfm: float
    findings: list[str]


def flow_at_depression(given: DepressionIn) -> DepressionOut:
    measured, stated = given.measured_inh2o * INCH_OF_WATER, given.stated_inh2o * INCH_OF_WATER
    flow = reference.flow_at_depression(given.flow_cfm, measured, stated)
    return DepressionOut(flow_cfm=flow, findings=texts(reference.conversion_findings(measured, stated)))


class GainIn(Fields):
    before_cfm: dict[int, list[float]] = Field(description="readings of each runner before, one a set-up")
    after_cfm: dict[int, list[float]] = Field(description="readings of each runner after, one a set-up")
    repeatability_percent: float = assumed.BENCH_REPEATABILITY * 100
    session_shift_percent: float = assumed.SESSION_SHIFT * 100
    same_session: bool = False


class RunnerGainOut(Fields):
    runner: int
    gain_cfm: float
    gain_percent: float
    half_width_cfm: float
    real: bool
    more_setups: int | None


class GainOut(Fields):
    gain_cfm: float
    gain_percent: float
    half_width_cfm: float
    real: bool
    smallest_gain_of_one_runner_cfm: float
    runners: list[RunnerGainOut]


def gain(given: GainIn) -> GainOut:
    known = Known(
        Scatter(given.repeatability_percent, ASSUMED_WEIGHT),
        Scatter(given.session_shift_percent, ASSUMED_WEIGHT),
        ASSUMED.plate,
    )
    after = 0 if given.same_session else 1
    result = gain_over_runners(pairs_of(_refits(given.before_cfm, 0), _refits(given.after_cfm, after)), known)
    return GainOut(
        gain_cfm=result.verdict.change,
        gain_percent=result.fraction * 100,
        half_width_cfm=result.verdict.half_width,
        real=result.verdict.real,
        smallest_gain_of_one_runner_cfm=smallest_gain_shown(known, given.same_session) * result.before,
        runners=[
            RunnerGainOut(
                runner=r.cylinder,
                gain_cfm=r.verdict.change,
                gain_percent=r.fraction * 100,
                half_width_cfm=r.verdict.half_width,
                real=r.verdict.real,
                more_setups=None if r.verdict.remedy else r.verdict.more,
            )
            for r in result.runners
        ],
    )


def _refits(flows: dict[int, list[float]], session: int) -> dict[int, list[Refit]]:
    return {runner: [Refit(flow, session) for flow in read] for runner, read in flows.items()}


class BalanceIn(Fields):
    flows_cfm: dict[int, float]
    runner_count: int
    repeatability_percent: float = assumed.BENCH_REPEATABILITY * 100


class BalanceOut(Fields):
    mean_cfm: float
    spread_percent: float
    even: bool
    weakest: int
    strongest: int
    behind: list[int]


def runner_balance(given: BalanceIn) -> BalanceOut:
    refits = {number: [Refit(flow * CUBIC_FOOT_PER_MINUTE)] for number, flow in given.flows_cfm.items()}
    known = replace(ASSUMED, refit=Scatter(given.repeatability_percent, ASSUMED_WEIGHT))
    result = balance(refits, given.runner_count, known)
    return BalanceOut(
        mean_cfm=result.mean / CUBIC_FOOT_PER_MINUTE,
        spread_percent=result.spread * 100,
        even=result.even,
        weakest=result.weakest,
        strongest=result.strongest,
        behind=list(result.behind),
    )


class RepeatsIn(Fields):
    groups_cfm: list[list[float]] = Field(description="repeats of each piece, taken off and put on again")


class RepeatsOut(Fields):
    repeatability_cfm: float
    limit_cfm: float = Field(description="two readings closer than this are not distinguishable")


def bench_repeatability(given: RepeatsIn) -> RepeatsOut:
    value = repeatability.pooled_repeatability(given.groups_cfm)
    return RepeatsOut(repeatability_cfm=value, limit_cfm=repeatability.repeatability_limit(value))
