"""Files that something happened to: 300 here, 10,000 in `./elvarn perf --fuzz`."""

import resource

from dev.mutate import mutated
from elvarn.service.kernel.apart import here

FILES = 300
MOST_GROWN_KB = 150_000


def test_every_file_that_something_happened_to_gets_an_answer():
    mutated(here, 20, seed=2)  # what is imported once is there
    before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    tally = mutated(here, FILES)
    assert tally.fell == []
    assert sum(tally.answers.values()) == FILES
    assert min(tally.answers["read"], tally.answers["refused"]) > FILES / 10
    assert tally.slowest_s < 2
    assert resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before < MOST_GROWN_KB
