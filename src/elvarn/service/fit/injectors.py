"""Injectors of a swap: what they flow at the pressure across them, how long they are open at the power aimed at."""

from elvarn import units
from elvarn.core.engine import demand, injector
from elvarn.core.errors import CoreError
from elvarn.core.finding import Grade
from elvarn.service.kernel.sentences import Sentence, sentence
from elvarn.store.models import Engine, Job

HARSH = ("E85", "methanol")  # fuels that usual seals don't stand; common practice, no source
DIFFERS = 0.01  # of the flow: below it the pressure is the rated one


def injector_sentences(job: Job) -> list[Sentence]:
    """What is known of the injectors; nothing where no engine or no injector is noted."""
    engine = job.engine
    if engine is None or engine.injector_cc_min is None:
        return []
    manifold = engine.boost_kpa if engine.boosted and engine.boost_kpa else 0.0
    rated, rail = engine.injector_rated_kpa, engine.rail_kpa
    if rated is None or rail is None:
        return [sentence("Injectors: rated or rail pressure is not noted, so their flow here is not known.",
                         Grade.RULE, "doubt")]  # fmt: skip
    try:
        across = injector.pressure_across(rail * 1000, manifold * 1000)
        flow = injector.flow_at_pressure(engine.injector_cc_min, rated * 1000, across)
    except CoreError as error:
        return [sentence(f"Injectors: {error}", Grade.COMPUTED, "doubt")]
    words = f"Injectors: {flow:.0f} cm³/min at {across / 1000:.0f} kPa across"
    if abs(flow / engine.injector_cc_min - 1) > DIFFERS:
        words += f", {engine.injector_cc_min:.0f} at the {rated:.0f} they are rated at"
    found = [_with_duty(job, engine, words, flow)]
    if engine.fuel in HARSH:
        text = f"{engine.fuel}: injectors, rings and hoses have to be made for it."
        found.append(sentence(text, Grade.RULE, "doubt", "", "Look up the seal's material before it is fitted."))
    return found


def _with_duty(job: Job, engine: Engine, words: str, flow: float) -> Sentence:
    if job.power_wanted_kw is None:
        return sentence(f"{words}. No power is aimed at, so their duty is not known.", Grade.COMPUTED)
    try:
        fuel = demand.FUEL_FOR_WORK_BOOSTED if engine.boosted else demand.FUEL_FOR_WORK
        needed = fuel * injector.fuel_factor(engine.fuel)
        mass = flow / 60e6 * injector.PETROL_DENSITY
        duty = injector.duty_for_power(job.power_wanted_kw * 1000, needed, engine.cylinder_count, mass)
    except CoreError as error:
        return sentence(f"{words}. {error}", Grade.COMPUTED, "doubt")
    aim = units.show(job.power_wanted_kw * 1000, "power", "trade", 0)
    open_for = f"{words}; duty about {100 * duty:.0f} % at {aim.text} {aim.unit} on {engine.fuel}"
    if duty > injector.DUTY_STOP:
        text = f"Injectors too small: {open_for.removeprefix('Injectors: ')}. Above 90 %: stop."
        return sentence(text, Grade.ESTIMATED, "harm", "", "Fit larger ones, or raise the rail's pressure.")
    if duty > injector.DUTY_WARNING:
        return sentence(f"{open_for}; above 85 % little is in hand.", Grade.ESTIMATED, "doubt")
    return sentence(f"{open_for}.", Grade.ESTIMATED)
