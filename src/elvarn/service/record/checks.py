"""Checks of set-ups and plates of benches, asked of the database once for all that are loaded."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from sqlalchemy.orm import Session
from sqlalchemy.orm.attributes import set_committed_value

from elvarn.core.bench.stated import BenchState, MeterKind, plate_flow
from elvarn.core.errors import OutOfRange
from elvarn.core.gas.air import Weather
from elvarn.service.kernel.once import is_kept, keep
from elvarn.service.record.air import HasAir, weather_of
from elvarn.store import queries
from elvarn.store.models import Bench, CheckReading, Setup

PLATES = "plates"


@dataclass(frozen=True)
class PlateReading:
    """A reading of a bench's reference plate, with the bench's meter, and the zero [m³/s] and the air of the set-up in
    which it was read, as far as they were noted."""

    check: CheckReading
    meter: MeterKind
    zero: float
    weather: Weather | None

    @property
    def name(self) -> str:
        return self.check.plate

    @property
    def taken_at(self) -> datetime:
        return self.check.taken_at

    @property
    def known(self) -> float | None:
        """The plate's own flow [m³/s] at the reference depression, where somebody knows it."""
        return self.check.plate_flow_m3_s

    def flow(self, air: Weather | None = None) -> float:
        """What it showed, in m³/s of standard air at the reference depression. `air`: of the session, taken where none
        was noted with the plate. Where the zero leaves nothing of it, it stands as it was read."""
        state = BenchState(self.meter, self.weather or air, zero=self.zero)
        shown, depression = self.check.flow_m3_s, self.check.depression_pa
        try:
            return plate_flow(shown, depression, state)
        except OutOfRange:
            return plate_flow(shown, depression, BenchState())


def load_checks(session: Session) -> None:
    """Give every set-up of this session its checks, and every bench of theirs its plates."""
    loaded = [row for row in session.identity_map.values() if isinstance(row, Setup)]
    setups = [setup for setup in loaded if "checks" not in vars(setup)]
    benches = {setup.bench.id: setup.bench for setup in loaded if not is_kept(setup.bench, PLATES)}
    if not setups and not benches:
        return
    rows = queries.checks_of(session, [setup.id for setup in setups], list(benches))
    of_setup: dict[object, list[CheckReading]] = {setup.id: [] for setup in setups}
    for row, _ in rows:
        of_setup.get(row.setup_id, []).append(row)
    for setup in setups:
        set_committed_value(setup, "checks", of_setup[setup.id])
    for bench in benches.values():
        keep(bench, PLATES, _plates(bench, rows))


def plates_of(session: Session, bench: Bench) -> list[PlateReading]:
    """Every reading of a bench's plates as it was taken, struck ones too."""
    return _plates(bench, queries.checks_of(session, [], [bench.id]))


def _plates(bench: Bench, rows: Sequence[tuple[CheckReading, HasAir]]) -> list[PlateReading]:
    zeros: dict[UUID | None, float] = {}
    for row, _ in rows:
        if row.check_kind == "zero" and row.valid:
            zeros[row.setup_id] = row.flow_m3_s
    return [
        PlateReading(row, MeterKind(bench.meter), zeros.get(row.setup_id, 0.0), weather_of(air))
        for row, air in rows
        if row.check_kind == "plate" and row.bench_id == bench.id
    ]
