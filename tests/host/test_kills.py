"""Being killed: nothing that was acknowledged is lost, and nothing is there twice."""

from pathlib import Path

from dev.kills import kill_at_random

ROOT = Path(__file__).resolve().parents[2]
KILLS = 20


def test_every_acknowledged_reading_is_there_once_whatever_was_killed(folder):
    tally = kill_at_random(ROOT, folder / "data", KILLS)
    assert set(tally.kills) == {"server", "database", "both"}
    assert len(tally.acknowledged) > KILLS * 3
    assert (tally.lost, tally.twice) == (0, 0)
    assert set(tally.found) == set(tally.acknowledged)
    assert max(tally.outages["database"]) < 20  # it comes back without a restart of the server
