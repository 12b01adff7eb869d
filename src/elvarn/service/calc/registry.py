"""Every calculation with its name, what it answers, and an example that runs."""

import inspect
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from elvarn.service.calc import bench, dyno, engine, fit, gas, path, port
from elvarn.service.calc.fields import Air, Fields
from elvarn.service.calc.looked_up import LOOKED_UP, LookedUp


@dataclass(frozen=True)
class Calculation:
    """A calculation: its input model, its function and an example of the input; formula and source where it is looked
    up by itself."""

    name: str
    answers: str
    given: type[Fields]
    result: type[Fields]
    function: Callable[[Any], Fields]
    example: dict[str, Any]
    formula: str = ""
    source: str = ""


PULL = {"engine_speed_rpm": [3000, 4000, 5000, 6000, 7000], "torque_n_m": [205, 224, 231, 222, 198]}
PORTED = {"engine_speed_rpm": [3000, 4000, 5000, 6000, 7000], "torque_n_m": [201, 223, 235, 233, 214]}
DAY = {"temperature_c": 18.5, "pressure_kpa": 99.2, "humidity_percent": 61}

_ALL = (
    Calculation(
        "moist-air", "How dense is this air, and how fast is sound in it?", Air, gas.MoistAirOut, gas.moist_air, DAY
    ),
    Calculation(
        "opening-ceiling",
        "What is the most that this bore can pass, and is a reading above it?",
        gas.OpeningIn,
        gas.OpeningOut,
        gas.opening_ceiling,
        {"bore_mm": 42, "flow_cfm": 214},
    ),
    Calculation(
        "orifice-plate",
        "What flows through this plate? (ISO 5167-2)",
        gas.PlateIn,
        gas.PlateOut,
        gas.orifice_plate,
        {"pipe_diameter_mm": 100, "hole_diameter_mm": 50, "pressure_drop_kpa": 1.5},
    ),
    Calculation(
        "flow-at-depression",
        "What would this flow be at another depression?",
        bench.DepressionIn,
        bench.DepressionOut,
        bench.flow_at_depression,
        {"flow_cfm": 180, "measured_inh2o": 15, "stated_inh2o": 28},
    ),
    Calculation(
        "effective-area",
        "What ideal nozzle passes as much as this?",
        path.EffectiveAreaIn,
        path.EffectiveAreaOut,
        path.effective_area,
        {"flow_cfm": 214},
    ),
    Calculation(
        "section",
        "What area has this section, and as which circle?",
        port.SectionIn,
        port.SectionOut,
        port.section_of,
        {"shape": "rounded rectangle", "across_mm": 45, "along_mm": 30, "radius_mm": 8},
    ),
    Calculation(
        "runner-volume",
        "What does a runner hold by its stations, and how does it taper?",
        port.RunnerVolumeIn,
        port.RunnerVolumeOut,
        port.runner_volume,
        {"stations_mm": [0, 40, 110, 190], "areas_mm2": [1320, 1250, 1190, 1150], "poured_cc": 232},
    ),
    Calculation(
        "wall-left",
        "What wall does this cut leave, and is that enough?",
        port.WallIn,
        port.WallOut,
        port.wall_left,
        {"wall_mm": 5, "bore_before_mm": 40, "bore_after_mm": 42, "core_shift_mm": 0.5},
    ),
    Calculation(
        "cut-depth",
        "How deep a cut gives this area, from the thick side first, and what stops it?",
        port.CutDepthIn,
        port.CutDepthOut,
        port.cut_depth,
        {"area_mm2": 1337, "wanted_mm2": 1399, "walls_mm": [3.2, 3.9, 4.6, 3.9], "clock": [12, 3, 6, 9]},
    ),
    Calculation(
        "flash-point",
        "From which temperature does the vapour of this lubricant ignite?",
        port.BottleIn,
        port.BottleOut,
        port.flash_point,
        {"alcohol_percent": 70},
    ),
    Calculation(
        "bolt-length",
        "Which length of bolt holds in this stack and hole, and does the one at hand?",
        fit.BoltLengthIn,
        fit.BoltLengthOut,
        fit.bolt_length,
        {"thread": "M6", "stack_mm": 29, "washers_mm": 5, "depth_mm": 14, "length_mm": 45},
    ),
    Calculation(
        "bolt-torque",
        "How tight may this bolt be, and what gives first?",
        fit.BoltTorqueIn,
        fit.BoltTorqueOut,
        fit.bolt_torque,
        {"thread": "M6", "engaged_mm": 11, "torque_n_m": 9},
    ),
    Calculation(
        "tap-drill",
        "Which drill comes before this tap, and how full a thread does another leave?",
        fit.TapDrillIn,
        fit.TapDrillOut,
        fit.tap_drill,
        {"thread": "M6", "drill_mm": 5.2},
    ),
    Calculation(
        "o-ring",
        "Is this ring squeezed, full and stretched as it should be in its gland?",
        fit.ORingIn,
        fit.ORingOut,
        fit.o_ring,
        {"section_mm": 3.53, "depth_mm": 2.7, "width_mm": 4.8},
    ),
    Calculation(
        "tightening-order",
        "In which order are these bolts tightened, and how far in each round?",
        fit.TighteningIn,
        fit.TighteningOut,
        fit.tightening_order,
        {"x_mm": [0, 40, 80, 0, 40, 80], "y_mm": [0, 0, 0, 90, 90, 90], "torque_n_m": 22},
    ),
    Calculation(
        "shared-relief",
        "How much comes off each part where clearance is short?",
        fit.ReliefIn,
        fit.ReliefOut,
        fit.shared_relief,
        {"short_mm": 2, "walls_mm": [6, 4], "least_mm": [3, 3]},
    ),
    Calculation(
        "series",
        "What do these elements pass together, and which of them is the pinch?",
        path.SeriesIn,
        path.SeriesOut,
        path.series,
        {"flows_cfm": {"filter": 550, "tube": 650, "throttle": 950, "opening": 1000}},
    ),
    Calculation(
        "back-solve",
        "What does the one element pass alone, from what all passed together?",
        path.BackSolveIn,
        path.BackSolveOut,
        path.back_solve,
        {"together_cfm": 276, "others_cfm": [990]},
    ),
    Calculation(
        "tube-flow",
        "What would a tube of this geometry pass at 28 inH2O?",
        path.TubeIn,
        path.TubeOut,
        path.tube_flow,
        {"bore_mm": 70, "length_mm": 420, "bends": [{"angle_deg": 45, "radius_over_bore": 1.5}]},
    ),
    Calculation(
        "air-demand",
        "How much air does this engine draw?",
        engine.DemandIn,
        engine.DemandOut,
        engine.air_demand,
        {"bore_mm": 83, "stroke_mm": 88.7, "cylinders": 5, "engine_speed_rpm": 7000},
    ),
    Calculation(
        "runner-tuning",
        "Which speed does this runner favour?",
        engine.TuningIn,
        engine.TuningOut,
        engine.runner_tuning,
        {
            "sections": [{"length_mm": 310, "bore_mm": 42}, {"length_mm": 90, "bore_mm": 38}],
            "cylinder_displacement_cc": 480,
            "compression_ratio": 11.2,
        },
    ),
    Calculation(
        "injector-duty",
        "Do these injectors feed this power?",
        engine.InjectorIn,
        engine.InjectorOut,
        engine.injector_duty,
        {"flow_cc_min": 410, "power_kw": 172, "injectors": 5},
    ),
    Calculation(
        "gain",
        "What was gained at each runner and over these runners, and which of it is clear?",
        bench.GainIn,
        bench.GainOut,
        bench.gain,
        {"before_cfm": {"1": [201.6], "2": [199.1]}, "after_cfm": {"1": [215.2], "2": [213.0]}},
    ),
    Calculation(
        "balance",
        "How even are the runners, and who is behind?",
        bench.BalanceIn,
        bench.BalanceOut,
        bench.runner_balance,
        {"flows_cfm": {"1": 215.2, "2": 213.0, "3": 205.3, "4": 214.1}, "runner_count": 5},
    ),
    Calculation(
        "repeatability",
        "Within what does this bench repeat?",
        bench.RepeatsIn,
        bench.RepeatsOut,
        bench.bench_repeatability,
        {"groups_cfm": [[240.1, 240.9, 240.4], [251.2, 250.6, 251.5]]},
    ),
    Calculation(
        "correction-factor",
        "By what are power and torque multiplied in this weather?",
        dyno.CorrectionIn,
        dyno.CorrectionOut,
        dyno.correction_factor,
        {"standard": "sae_j1349", "air": DAY},
    ),
    Calculation(
        "power-of-torque",
        "What power is this torque at this speed?",
        dyno.TorqueIn,
        dyno.TorqueOut,
        dyno.power_of_torque,
        {"engine_speed_rpm": 6500, "torque_n_m": 222},
    ),
    Calculation(
        "compare-pulls",
        "What did this design gain over stock, where, and is it clear?",
        dyno.CompareIn,
        dyno.CompareOut,
        dyno.compare_pulls,
        {"stock": PULL, "other": PORTED, "band_rpm": [4500, 7000]},
    ),
    Calculation(
        "claim-sums",
        "Do the figures of this claim agree with each other?",
        dyno.ClaimIn,
        dyno.ClaimOut,
        dyno.claim_sums,
        {
            "band_rpm": [3500, 6400],
            "stock_mean_power_kw": 118.0,
            "stock_mean_torque_n_m": 228.0,
            "other_mean_power_kw": 121.5,
            "other_mean_torque_n_m": 231.0,
            "claimed_gain_kw": 6.0,
        },
    ),
)


def _looked_up(one: LookedUp) -> Calculation:
    result = one.result
    return Calculation(
        one.name, one.answers, one.given, result, one.function(result), one.example, one.formula, source_of(one)
    )


def source_of(one: LookedUp) -> str:
    """What the function of the core names as its source."""
    told = (inspect.getdoc(one.rests_on) or "").split("Source:")[-1]
    return " ".join(told.split())


CALCULATIONS = {one.name: one for one in (*_ALL, *map(_looked_up, LOOKED_UP))}


def run(name: str, given: dict[str, Any]) -> dict[str, Any]:
    """Run a calculation on plain data. Raises KeyError for an unknown name, pydantic's and the core's errors."""
    calculation = CALCULATIONS[name]
    return calculation.function(calculation.given.model_validate(given)).model_dump(mode="json")
