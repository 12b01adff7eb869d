"""Every fault of the simulated bench is named by its signature; sound series are left in peace.

How often each is found over many seeds is written into docs/faults.md by `table_of_faults`, and held here.
"""

from collections import Counter

import numpy as np
import pytest
from scipy.stats import binom

from elvarn.core.bench.faults import FALSE_ALARMS, Evidence, suspicions
from elvarn.core.bench.gain import ASSUMED
from elvarn.core.bench.pairs import Refit, pairs_of
from elvarn.core.bench.reference import flow_at_depression
from elvarn.core.bench.samples import series_of
from elvarn.core.bench.stated import BenchState, stated_flow
from elvarn.core.constants import INCH_OF_WATER, REFERENCE_DEPRESSION
from elvarn.core.difference import Known
from elvarn.core.errors import OutOfRange
from elvarn.core.statistics.scatter import Scatter
from elvarn.rigs.bench_model import FlowBenchModel, MountedPart

RUNNERS = (1, 2, 3, 4, 5)
PART = MountedPart((9.24e-4, 9.16e-4, 8.82e-4, 9.10e-4, 9.18e-4))
THROTTLE = MountedPart((1.1e-3,), throttled=True)
MOUNTING, SESSION = 0.004, 0.004
WELL_KNOWN = Known(Scatter(0.49, 24, 20), Scatter(0.41, 12, 8), ASSUMED.plate)  # as it is, samples too
NAMES = {
    "INJECTOR": "open_hole",
    "GASKET": "leaking_gasket",
    "BLADE": "blade_short",
    "LIP": "adapter_lip",
    "HOSE": "soft_hose",
    "RANGE": "wrong_range",
}


class Session:
    """A series as somebody flows it: the bench warm, each runner put on, ten samples taken."""

    def __init__(self, seed, part=PART):
        self.generator = np.random.default_rng(seed)
        self.now = 0.0
        session = 1 + self.generator.normal(0, SESSION)
        self.model = FlowBenchModel(part, lambda: self.now, self.generator, mounting_scatter=MOUNTING, session=session)
        self.model.run(True)
        self.now = 1200.0

    def read(self, leak=None):
        """A figure at the reference depression, and the share of the range."""
        samples = []
        for _ in range(10):
            self.now += 0.05
            samples.append(self.model.sample())
        self.now += 20
        shown = series_of([s.flow for s in samples]).mean
        depression = float(np.mean([s.depression for s in samples]))
        flow = stated_flow(shown, depression, BenchState(leak=leak or 0.0, leak_depression=REFERENCE_DEPRESSION))
        return flow_at_depression(flow, depression, REFERENCE_DEPRESSION), max(s.range_used for s in samples)

    def series(self, fault=None, at=3):
        """Leak, every runner, and the last one again at a low depression. A hole stands open at one runner only."""
        everywhere = {fault} - {None, "INJECTOR"}
        self.model.faults |= everywhere
        self.model.blanked = True
        leak, _ = self.read()
        self.model.blanked = False
        flows, used = {}, {}
        for runner in RUNNERS:
            self.model.mount(runner)
            self.model.faults = everywhere | ({"INJECTOR"} if fault == "INJECTOR" and runner == at else set())
            flows[runner], used[runner] = self.read(leak)
        self.model.faults = everywhere
        self.model.target = 12 * INCH_OF_WATER
        low, _ = self.read(leak)
        self.model.target = REFERENCE_DEPRESSION
        full, _ = self.read(leak)
        return flows, used, leak / np.mean(list(flows.values())), (12 * INCH_OF_WATER, low, full)


def beside(earlier, now):
    """Each runner then and now, of two sessions."""
    sides = ({n: [Refit(flow, session)] for n, flow in side.items()} for session, side in enumerate((earlier, now)))
    return pairs_of(*sides)


def codes(seed, fault=None, known=WELL_KNOWN):
    """What is suspected of a series with this fault, an earlier sound one beside it."""
    if fault == "BLADE":
        return blade_codes(seed, fault)
    earlier, *_ = Session(seed).series()
    flows, used, leak, at_low = Session(seed + 50_000).series(fault)
    evidence = Evidence(flows, beside(earlier, flows), known, leak=leak, range_used=used, at_low=at_low)
    return [suspicion.code for suspicion in suspicions(evidence)]


def blade_codes(seed, fault=None):
    """A throttle alone: at its stop, then pushed to full bore by hand."""
    session = Session(seed, THROTTLE)
    session.model.faults = {fault} - {None}
    at_stop, used = session.read()
    session.model.held_open = True
    held, _ = session.read()
    evidence = Evidence({1: at_stop}, throttled=True, range_used={1: used}, held_open=(at_stop, held))
    return [suspicion.code for suspicion in suspicions(evidence)]


@pytest.mark.parametrize("fault", NAMES)
def test_each_fault_is_named(fault):
    for seed in range(10):
        found = codes(seed, fault)
        assert found[:1] == [NAMES[fault]], f"seed {seed}: {found}"


def test_false_alarms_stay_within_the_stated_rate():
    alarms = sum(bool(codes(seed)) for seed in range(400))
    assert alarms <= binom.ppf(0.999, 400, FALSE_ALARMS)
    assert sum(bool(blade_codes(seed)) for seed in range(400)) <= binom.ppf(0.999, 400, FALSE_ALARMS)


def table_of_faults(seeds=200, known=WELL_KNOWN):
    """Rows of the confusion matrix: what was done, and how often each was named first, in percent."""
    rows = {}
    for fault in (None, *NAMES):
        first = Counter((codes(seed, fault, known) or ["nothing"])[0] for seed in range(1000, 1000 + seeds))
        rows[NAMES.get(fault, "sound")] = {name: 100 * count / seeds for name, count in first.items()}
    return rows


def test_a_fault_is_not_told_twice_and_the_runner_is_named():
    earlier = dict.fromkeys(RUNNERS, 200.0)
    now = {**earlier, 4: 213.0}
    found = suspicions(Evidence(now, beside(earlier, now), WELL_KNOWN))
    assert [(s.code, s.runner) for s in found] == [("open_hole", 4)]
    assert "injector or vacuum hole" in found[0].text
    now = {**earlier, 2: 188.0}
    lower = suspicions(Evidence(now, beside(earlier, now), WELL_KNOWN))
    assert [(s.code, s.runner) for s in lower] == [("obstructed", 2)]


def test_two_depressions_near_each_other_tell_nothing():
    near = Evidence({1: 190.0}, at_low=(20 * INCH_OF_WATER, 200.0, 190.0))
    assert suspicions(near) == []
    with pytest.raises(OutOfRange):
        suspicions(Evidence({1: 0.0}))
