"""Calculations that are looked up one at a time: a few numbers in, one or two out, declared in a line or two each."""

from collections.abc import Callable
from dataclasses import dataclass
from math import pi
from typing import Any

from pydantic import Field, create_model

from elvarn.core import constants
from elvarn.core.bench import leak, power, reference
from elvarn.core.dyno import correction, inertia
from elvarn.core.engine import demand, geometry, injector, tuning
from elvarn.core.gas import air, discharge
from elvarn.core.path import losses
from elvarn.core.statistics import student
from elvarn.service.calc.fields import Fields

CFM, WATER, PSI = constants.CUBIC_FOOT_PER_MINUTE, constants.INCH_OF_WATER, 6894.757293168361
WARM = 343.0  # m/s: sound in air of 20 °C


@dataclass(frozen=True)
class LookedUp:
    """A question, its formula, the numbers that it takes with an example of each, those that it gives, the sum, and the
    function of the core that it rests on."""

    name: str
    answers: str
    formula: str
    example: dict[str, float]
    gives: tuple[str, ...]
    sum: Callable[..., tuple[float, ...]]
    rests_on: Callable[..., Any]

    @property
    def given(self) -> type[Fields]:
        fields: dict[str, Any] = {
            name: (int if isinstance(value, int) and not isinstance(value, bool) and name in COUNTS else float, Field())
            for name, value in self.example.items()
        }
        return create_model(f"{_title(self.name)}In", __base__=Fields, **fields)

    @property
    def result(self) -> type[Fields]:
        fields: dict[str, Any] = dict.fromkeys(self.gives, (float, Field()))
        return create_model(f"{_title(self.name)}Out", __base__=Fields, **fields)

    def function(self, result: type[Fields]) -> Callable[[Any], Fields]:
        return lambda given: result(**dict(zip(self.gives, self.sum(**given.model_dump()), strict=True)))


COUNTS = ("cylinders", "injectors", "returns", "pairs", "valves", "samples")


def _title(name: str) -> str:
    return "".join(word.capitalize() for word in name.split("-"))


def _weather(temperature_c: float, pressure_kpa: float, humidity_percent: float) -> air.Weather:
    return air.Weather(temperature_c + constants.ZERO_CELSIUS, pressure_kpa * 1000, humidity_percent / 100)


def _bore_area(bore_mm: float) -> float:
    return discharge.round_area(bore_mm / 1000)


def _range(loss: losses.Loss) -> tuple[float, float, float]:
    return loss.value, loss.low, loss.high


K_RANGE = ("loss_coefficient", "at_least", "at_most")
DAY = {"temperature_c": 24.0, "pressure_kpa": 99.2, "humidity_percent": 55.0}

LOOKED_UP = (
    LookedUp(
        "flow-units", "What is this flow in other units?", "1 CFM = 0.4719474 L/s", {"flow_cfm": 214},
        ("m3_h", "l_s", "m3_s"), lambda flow_cfm: (flow_cfm * CFM * 3600, flow_cfm * CFM * 1000, flow_cfm * CFM),
        reference.mass_flow,
    ),
    LookedUp(
        "pressure-units", "What is this pressure in other units?", "1 inH2O = 249.08891 Pa", {"pressure_kpa": 7},
        ("inh2o", "psi", "mbar", "inhg"),
        lambda pressure_kpa: (
            pressure_kpa * 1000 / WATER, pressure_kpa * 1000 / PSI, pressure_kpa * 10,
            pressure_kpa * 1000 / constants.INCH_OF_MERCURY,
        ),
        reference.flow_at_depression,
    ),
    LookedUp(
        "length-units", "What is this length in inches?", "1 in = 25.4 mm", {"length_mm": 70}, ("inches",),
        lambda length_mm: (length_mm / 25.4,), discharge.round_area,
    ),
    LookedUp(
        "dew-point", "At which temperature does this air's water condense?", "e_s(t_d) = φ e_s(t)", DAY,
        ("dew_point_c",), lambda **day: (air.dew_point(_weather(**day)) - constants.ZERO_CELSIUS,), air.dew_point,
    ),
    LookedUp(
        "wet-bulb", "What is the humidity by a sling psychrometer?", "e = e_w − A p (t − t_w)",
        {"dry_bulb_c": 24, "wet_bulb_c": 18, "pressure_kpa": 99.2}, ("humidity_percent",),
        lambda dry_bulb_c, wet_bulb_c, pressure_kpa: (
            100 * air.relative_humidity_from_wet_bulb(
                dry_bulb_c + constants.ZERO_CELSIUS, wet_bulb_c + constants.ZERO_CELSIUS, pressure_kpa * 1000
            ),
        ),
        air.relative_humidity_from_wet_bulb,
    ),
    LookedUp(
        "altitude", "What are temperature and pressure at this height?", "p = p0 (T/T0)^5.256", {"altitude_m": 800},
        ("temperature_c", "pressure_kpa"),
        lambda altitude_m: (
            air.standard_atmosphere(altitude_m)[0] - constants.ZERO_CELSIUS,
            air.standard_atmosphere(altitude_m)[1] / 1000,
        ),
        air.standard_atmosphere,
    ),
    LookedUp(
        "mean-velocity", "How fast is this flow in this bore?", "v = Q/A", {"flow_cfm": 214, "bore_mm": 42},
        ("velocity_m_s", "velocity_ft_s"),
        lambda flow_cfm, bore_mm: (
            discharge.mean_velocity(flow_cfm * CFM, _bore_area(bore_mm)),
            discharge.mean_velocity(flow_cfm * CFM, _bore_area(bore_mm)) / constants.FOOT,
        ),
        discharge.mean_velocity,
    ),
    LookedUp(
        "bore-for-velocity", "Which bore carries this flow at this velocity?", "d = sqrt(4 Q/(π v))",
        {"flow_cfm": 498, "velocity_m_s": 60}, ("bore_mm",),
        lambda flow_cfm, velocity_m_s: (1000 * (4 * flow_cfm * CFM / (pi * velocity_m_s)) ** 0.5,),
        discharge.mean_velocity,
    ),
    LookedUp(
        "curtain-area", "How large is a valve's curtain, and at which lift is it the port's size?", "A = π d l",
        {"valve_diameter_mm": 34, "lift_mm": 9, "port_bore_mm": 31}, ("curtain_mm2", "lift_of_equal_area_mm"),
        lambda valve_diameter_mm, lift_mm, port_bore_mm: (
            1e6 * discharge.curtain_area(valve_diameter_mm / 1000, lift_mm / 1000),
            1e6 * _bore_area(port_bore_mm) / (pi * valve_diameter_mm),
        ),
        discharge.curtain_area,
    ),
    LookedUp(
        "leak-at-depression", "What does this leak at another depression?", "q = q0 (Δp/Δp0)^0.65",
        {"leak_cfm": 2.4, "measured_inh2o": 28, "wanted_inh2o": 10}, ("leak_cfm",),
        lambda leak_cfm, measured_inh2o, wanted_inh2o: (
            leak.leak_at_depression(leak_cfm * CFM, measured_inh2o * WATER, wanted_inh2o * WATER) / CFM,
        ),
        leak.leak_at_depression,
    ),
    LookedUp(
        "inclined-manometer", "What head does an inclined manometer show?", "h = L s (sin θ + a/A)",
        {"reading_mm": 120, "angle_deg": 15, "specific_gravity": 0.826, "tube_bore_mm": 5, "well_bore_mm": 60},
        ("head_inh2o",),
        lambda reading_mm, angle_deg, specific_gravity, tube_bore_mm, well_bore_mm: (
            reference.inclined_manometer_head(
                reading_mm / 1000, angle_deg, specific_gravity, tube_bore_mm / 1000, well_bore_mm / 1000
            ) / constants.INCH,
        ),
        reference.inclined_manometer_head,
    ),
    LookedUp(
        "displacement", "What are displacement and mean piston speed?", "V = π/4 d² s z; v = 2 s n",
        {"bore_mm": 83, "stroke_mm": 88.7, "cylinders": 5, "engine_speed_rpm": 7000}, ("litres", "piston_speed_m_s"),
        lambda bore_mm, stroke_mm, cylinders, engine_speed_rpm: (
            1000 * geometry.engine_displacement(bore_mm / 1000, stroke_mm / 1000, cylinders),
            geometry.mean_piston_speed(stroke_mm / 1000, engine_speed_rpm),
        ),
        geometry.engine_displacement,
    ),
    LookedUp(
        "port-velocity", "How fast is the air in the port on the intake stroke?", "v = v_p A_p/A",
        {"bore_mm": 83, "stroke_mm": 88.7, "engine_speed_rpm": 7000, "port_bore_mm": 40}, ("velocity_m_s",),
        lambda bore_mm, stroke_mm, engine_speed_rpm, port_bore_mm: (
            discharge.port_velocity_during_stroke(
                bore_mm / 1000, stroke_mm / 1000, engine_speed_rpm, _bore_area(port_bore_mm)
            ),
        ),
        discharge.port_velocity_during_stroke,
    ),
    LookedUp(
        "mach-index", "Where does the valve end the filling?", "Z = v_p A_p/(C A_v a); VE falls off above 0.6",
        {"bore_mm": 83, "stroke_mm": 88.7, "engine_speed_rpm": 7000, "valve_diameter_mm": 33, "valves": 2,
         "flow_coefficient": 0.37},
        ("mach_index",),
        lambda bore_mm, stroke_mm, engine_speed_rpm, valve_diameter_mm, valves, flow_coefficient: (
            demand.mach_index(
                bore_mm / 1000, geometry.mean_piston_speed(stroke_mm / 1000, engine_speed_rpm),
                valve_diameter_mm / 1000, valves, flow_coefficient, WARM,
            ),
        ),
        demand.mach_index,
    ),
    LookedUp(
        "rule-of-thumb-power", "What power does the trade expect of this runner flow at 28 inH2O?", "hp = 0.257 CFM z",
        {"flow_cfm": 218, "cylinders": 5}, ("power_hp",),
        lambda flow_cfm, cylinders: (
            demand.rule_of_thumb_power(flow_cfm * CFM, cylinders) / constants.HORSEPOWER,
        ),
        demand.rule_of_thumb_power,
    ),
    LookedUp(
        "air-for-power", "How much air does this power need?", "m = P AFR bsfc",
        {"power_kw": 190, "air_fuel_ratio": 12.8, "bsfc_g_kwh": 280}, ("air_kg_h", "air_cfm"),
        lambda power_kw, air_fuel_ratio, bsfc_g_kwh: (
            3600 * demand.air_for_power(power_kw * 1000, air_fuel_ratio, bsfc_g_kwh / 3.6e9),
            demand.air_for_power(power_kw * 1000, air_fuel_ratio, bsfc_g_kwh / 3.6e9)
            / air.density_ideal(air.STANDARD_AIR) / CFM,
        ),
        demand.air_for_power,
    ),
    LookedUp(
        "bsfc-units", "What is this consumption in pounds for a horsepower hour?", "1 lb/(hp h) = 608.277 g/kWh",
        {"bsfc_g_kwh": 280}, ("bsfc_lb_hp_h",),
        lambda bsfc_g_kwh: (demand.fuel_for_work_in_pounds(bsfc_g_kwh / 3.6e9),), demand.fuel_for_work_in_pounds,
    ),
    LookedUp(
        "injector-pressure", "What does an injector flow at another pressure?", "Q = Q0 sqrt(Δp/Δp0)",
        {"flow_cc_min": 330, "rated_kpa": 300, "pressure_kpa": 380}, ("flow_cc_min",),
        lambda flow_cc_min, rated_kpa, pressure_kpa: (
            injector.flow_at_pressure(flow_cc_min, rated_kpa * 1000, pressure_kpa * 1000),
        ),
        injector.flow_at_pressure,
    ),
    LookedUp(
        "injector-pulse", "What duty is this pulse?", "duty = t n/120", {"pulse_ms": 12, "engine_speed_rpm": 6500},
        ("duty_percent",),
        lambda pulse_ms, engine_speed_rpm: (100 * injector.duty_of_pulse(pulse_ms / 1000, engine_speed_rpm),),
        injector.duty_of_pulse,
    ),
    LookedUp(
        "helmholtz", "At which frequency do a neck and a volume swing?", "f = a/2π sqrt(A/(L V))",
        {"bore_mm": 70, "length_mm": 400, "volume_l": 3.1}, ("frequency_hz",),
        lambda bore_mm, length_mm, volume_l: (
            tuning.helmholtz_frequency(_bore_area(bore_mm), length_mm / 1000, volume_l / 1000, WARM),
        ),
        tuning.helmholtz_frequency,
    ),
    LookedUp(
        "quarter-wave", "Which quarter wave has a pipe of this length?", "f = a/(4 L)", {"length_mm": 420},
        ("frequency_hz",), lambda length_mm: (tuning.quarter_wave_frequency(length_mm / 1000, WARM),),
        tuning.quarter_wave_frequency,
    ),
    LookedUp(
        "end-correction", "By how much is a pipe longer than it measures?", "δ = 0.82 r flanged, 0.61 r free",
        {"bore_mm": 42}, ("flanged_mm", "free_mm"),
        lambda bore_mm: (
            1000 * tuning.end_correction(bore_mm / 2000), 1000 * tuning.end_correction(bore_mm / 2000, flanged=False),
        ),
        tuning.end_correction,
    ),
    LookedUp(
        "return-length", "Which runner brings its wave back after this crank angle?", "L = θ a/(12 n k)",
        {"crank_angle_deg": 90, "engine_speed_rpm": 6500, "returns": 3}, ("length_mm",),
        lambda crank_angle_deg, engine_speed_rpm, returns: (
            1000 * tuning.length_for_return(crank_angle_deg, engine_speed_rpm, WARM, returns),
        ),
        tuning.length_for_return,
    ),
    LookedUp(
        "step-loss", "What does a step from one bore to another cost?", "K = (1 − A1/A2)² out; 0.5 (1 − A2/A1) in",
        {"bore_mm": 70, "bore_out_mm": 76}, K_RANGE,
        lambda bore_mm, bore_out_mm: _range(
            (losses.sudden_expansion if bore_out_mm >= bore_mm else losses.sudden_contraction)(
                _bore_area(bore_mm), _bore_area(bore_out_mm)
            )
        ),
        losses.sudden_expansion,
    ),
    LookedUp(
        "mitre-loss", "What does a mitred corner cost?", "K by angle", {"angle_deg": 90}, K_RANGE,
        lambda angle_deg: _range(losses.mitre_bend(angle_deg)), losses.mitre_bend,
    ),
    LookedUp(
        "bellmouth-loss", "What does an entry with this radius cost?", "K by r/d", {"radius_mm": 10, "bore_mm": 70},
        K_RANGE, lambda radius_mm, bore_mm: _range(losses.rounded_entry(radius_mm / bore_mm)), losses.rounded_entry,
    ),
    LookedUp(
        "wire-screen", "What does a screen of round wire cost?", "K = 1.3 (1 − f) + (1/f − 1)²", {"open_percent": 65},
        K_RANGE, lambda open_percent: _range(losses.wire_screen(open_percent / 100)), losses.wire_screen,
    ),
    LookedUp(
        "loss-in-pressure", "What pressure does a loss coefficient cost?", "Δp = K ρ/2 v²",
        {"loss_coefficient": 0.3, "flow_cfm": 498, "bore_mm": 70}, ("drop_kpa", "drop_inh2o"),
        lambda loss_coefficient, flow_cfm, bore_mm: tuple(
            losses.pressure_drop(
                loss_coefficient, air.density_ideal(air.STANDARD_AIR),
                discharge.mean_velocity(flow_cfm * CFM, _bore_area(bore_mm)),
            ) / unit
            for unit in (1000, WATER)
        ),
        losses.pressure_drop,
    ),
    LookedUp(
        "torque-of-power", "What torque is this power at this speed?", "T = P/ω",
        {"power_kw": 150, "engine_speed_rpm": 6500}, ("torque_n_m", "torque_lb_ft"),
        lambda power_kw, engine_speed_rpm: tuple(
            float(correction.torque_from_power(power_kw * 1000, engine_speed_rpm)) / unit
            for unit in (1, constants.POUND_FORCE * constants.FOOT)
        ),
        correction.torque_from_power,
    ),
    LookedUp(
        "old-corrections", "What do the superseded standards make of this weather?",
        "J607: 29.92 inHg dry, 60 °F; DIN 70020: 1013.25 mbar, 20 °C", DAY, ("sae_j607", "din_70020"),
        lambda **day: (correction.factor_sae_j607(_weather(**day)), correction.factor_din_70020(_weather(**day))),
        correction.factor_sae_j607,
    ),
    LookedUp(
        "smoothing-bias", "What does a moving average take off a peak?", "c h² m (m + 1)/3",
        {"peak_width_rpm": 2000, "drop_at_width_percent": 5, "step_rpm": 50, "samples": 5}, ("lost_percent",),
        lambda peak_width_rpm, drop_at_width_percent, step_rpm, samples: (
            inertia.moving_average_bias(drop_at_width_percent / (peak_width_rpm / 2) ** 2, step_rpm, samples),
        ),
        inertia.moving_average_bias,
    ),
    LookedUp(
        "paired-effect", "What is the smallest mean gain that so many castings show?", "noncentral t, 4 times in 5",
        {"pairs": 5, "scatter_percent": 1.2}, ("smallest_percent",),
        lambda pairs, scatter_percent: (power.smallest_paired_effect(pairs) * scatter_percent,),
        power.smallest_paired_effect,
    ),
    LookedUp(
        "probability-of-t", "How often does chance alone give so large a t?", "p = 2 P(T > |t|)",
        {"t": 2.8, "degrees_of_freedom": 4}, ("probability",),
        lambda t, degrees_of_freedom: (student.two_sided_probability(t, degrees_of_freedom),),
        student.two_sided_probability,
    ),
)  # fmt: skip
