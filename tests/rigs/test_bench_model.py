"""The simulated bench behaves as a bench does: what is true, what it shows, and how each fault shows itself."""

import numpy as np
import pytest

from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE, INCH_OF_WATER, REFERENCE_DEPRESSION
from elvarn.core.gas.discharge import volume_flow_of
from elvarn.rigs.bench_model import FAULTS, RANGES, FlowBenchModel, MountedPart

CFM = CUBIC_FOOT_PER_MINUTE
PART = MountedPart((9.24e-4, 9.16e-4, 8.82e-4), throttled=True)


class Clock:
    """Time as the test says."""

    def __init__(self):
        self.now = 0.0

    def __call__(self):
        return self.now


def bench(seed=1, warm=60.0, **settings):
    clock = Clock()
    model = FlowBenchModel(PART, clock, np.random.default_rng(seed), **settings)
    model.run(True)
    clock.now = warm
    return model, clock


def mean(model, clock, count=400, step=0.05):
    flows, depressions = [], []
    for _ in range(count):
        clock.now += step
        sample = model.sample()
        flows.append(sample.flow / CFM)
        depressions.append(sample.depression / INCH_OF_WATER)
    return np.mean(flows), np.std(flows), np.mean(depressions)


def test_a_sound_bench_reads_near_the_truth_and_pulls_less_than_it_was_asked():
    model, clock = bench()
    flow, scatter, depression = mean(model, clock)
    true = model.true_flow(depression * INCH_OF_WATER) / CFM
    assert flow == pytest.approx(true, rel=0.01)
    assert 0.5 < scatter < 1.5
    assert 26 < depression < 28


def test_the_part_alone_passes_what_its_area_says():
    model, _ = bench()
    alone = volume_flow_of(PART.areas[0], REFERENCE_DEPRESSION, model.room) / CFM
    assert model.true_flow(REFERENCE_DEPRESSION) / CFM == pytest.approx(alone + 0.35, abs=0.01)


def test_it_drifts_upwards_as_its_air_warms():
    model, clock = bench(warm=20.0)
    cold, _, _ = mean(model, clock, 200)
    clock.now = 1800.0
    warm, _, _ = mean(model, clock, 200)
    assert 1.003 < warm / cold < 1.015


def test_neighbouring_samples_are_not_independent():
    model, clock = bench()
    flows = []
    for _ in range(2000):
        clock.now += 0.05
        flows.append(model.sample().flow)
    off = np.array(flows) - np.mean(flows)
    assert np.mean(off[1:] * off[:-1]) / np.var(off) > 0.5


def test_with_the_motor_off_nothing_flows():
    model, _ = bench()
    model.run(False)
    sample = model.sample()
    assert (sample.flow / CFM < 1, sample.depression < 50) == (True, True)


def test_the_same_seed_gives_the_same_bench():
    first, second = (mean(*bench(seed=7), count=20) for _ in range(2))
    assert first == second
    assert mean(*bench(seed=8), count=20) != first


@pytest.mark.parametrize(
    ("fault", "low", "high"),
    [("INJECTOR", 1.03, 1.10), ("GASKET", 1.01, 1.03), ("BLADE", 0.88, 0.94), ("LIP", 0.93, 0.95),
     ("HOSE", 0.94, 0.97), ("RANGE", 0.6, 0.8)],
)  # fmt: skip
def test_each_fault_shows_itself(fault, low, high):
    sound, _, _ = mean(*bench())
    faulty, _, _ = mean(*bench(faults={fault}))
    assert low < faulty / sound < high
    assert FAULTS[fault]


def test_a_leak_is_seen_with_the_part_blanked():
    sound, _, _ = mean(*bench(blanked=True), count=100)
    leaking, _, _ = mean(*bench(blanked=True, faults={"GASKET"}), count=100)
    assert sound < 0.5
    assert leaking > 3


def test_a_soft_hose_loses_more_the_harder_it_is_pulled():
    def lost(inches):
        flows = [bench(faults=f)[0].true_flow(inches * INCH_OF_WATER) for f in (set(), {"HOSE"})]
        return 1 - flows[1] / flows[0]

    assert lost(10) < lost(20) < lost(28)


def test_beyond_the_motor_the_depression_gives_way():
    wide = MountedPart((40e-4,))
    model, clock = bench()
    model.part, model.port = wide, 1
    _, _, depression = mean(model, clock, 50)
    assert depression < 24
    assert model.sample().range_used <= 1
    assert tuple(sorted(RANGES)) == RANGES
