"""Checks of set-ups and plates of benches, asked of the database once for all that are loaded."""

from sqlalchemy.orm import Session
from sqlalchemy.orm.attributes import set_committed_value

from elvarn.service.kernel.once import is_kept, keep
from elvarn.store import queries
from elvarn.store.models import CheckReading, Setup

PLATES = "plates"


def load_checks(session: Session) -> None:
    """Give every set-up of this session its checks, and every bench of theirs its plates."""
    loaded = [row for row in session.identity_map.values() if isinstance(row, Setup)]
    setups = [setup for setup in loaded if "checks" not in vars(setup)]
    benches = {setup.bench.id: setup.bench for setup in loaded if not is_kept(setup.bench, PLATES)}
    if not setups and not benches:
        return
    rows = queries.checks_of(session, [setup.id for setup in setups], list(benches))
    of_setup: dict[object, list[CheckReading]] = {setup.id: [] for setup in setups}
    plates: dict[object, list[CheckReading]] = {identifier: [] for identifier in benches}
    for row in rows:
        of_setup.get(row.setup_id, []).append(row)
        if row.check_kind == "plate":
            plates.get(row.bench_id, []).append(row)
    for setup in setups:
        set_committed_value(setup, "checks", of_setup[setup.id])
    for bench in benches.values():
        keep(bench, PLATES, plates[bench.id])
