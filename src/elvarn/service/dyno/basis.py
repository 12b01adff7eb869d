"""Pulls brought to one basis: their correction undone and made anew, their sessions and mounts told apart."""

from collections.abc import Hashable, Sequence
from dataclasses import dataclass
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.core.dyno.correction import Standard, correct, humidity_range
from elvarn.core.dyno.pairing import Pull
from elvarn.core.finding import Finding
from elvarn.service.dyno.declared import STRAP, label
from elvarn.service.record.air import weather_of
from elvarn.service.record.curves import CurveShelf
from elvarn.service.record.plates import ONE_SESSION
from elvarn.store.queries import PulledPull


@dataclass(frozen=True)
class Based:
    """A pull on its basis: the factor from the file's figures, whether the weather is taken out of them, the half-range
    [%] that unknown humidity leaves, and what is to be said of the correction."""

    row: PulledPull
    standard: Standard
    factor: float
    weather_out: bool
    humidity: float
    findings: tuple[Finding, ...] = ()


@dataclass(frozen=True)
class Place:
    """Where a pull stands: its session, and the mount within it."""

    session: Hashable
    mount: int


def based(row: PulledPull, wanted: Standard, boosted: bool) -> Based:
    """A pull on the wanted basis, as far as its air is known; else on that of its file."""
    written = Standard.of(row.standard_in_file)
    air = weather_of(row)
    if air is None:
        return Based(row, written, 1.0, written is not Standard.OBSERVED, 0.0)
    made = correct(wanted, air, boosted)
    unsure = humidity_range(wanted, air) if row.air_humidity_percent is None and written is not wanted else 0.0
    factor = made.factor / correct(written, air).factor
    return Based(row, wanted, factor, wanted is not Standard.OBSERVED, unsure, made.findings)


def on_one_basis(rows: Sequence[PulledPull], wanted: Standard, boosted: bool) -> list[Based]:
    """All pulls on the wanted basis; where that can't be, all as observed; where that can't be either, as they are."""
    found = [based(row, wanted, boosted) for row in rows]
    if len({one.standard for one in found}) > 1:
        observed = [based(row, Standard.OBSERVED, boosted) for row in rows]
        if len({one.standard for one in observed}) == 1:
            return observed
    return found


def places(rows: Sequence[PulledPull]) -> dict[UUID, Place]:
    """Session and mount of each pull. A session is on one dyno, with one strap-down, within half a day of its first
    pull; in it a mount ends where another build is pulled, even where that pull was struck out. `rows` in the order in
    which they were made, struck ones too."""
    found: dict[UUID, Place] = {}
    begun: dict[Hashable, tuple[PulledPull, int]] = {}
    last: dict[Hashable, tuple[UUID, int]] = {}
    for row in rows:
        where = (row.dyno_id, row.declared.get(STRAP, ""))
        first, number = begun.get(where, (row, 0))
        if row.pulled_at - first.pulled_at > ONE_SESSION:
            first, number = row, number + 1
        begun[where] = (first, number)
        session = (*where, number)
        build, mount = last.get(session, (row.build_id, 0))
        mount += build != row.build_id
        last[session] = (row.build_id, mount)
        found[row.id] = Place(session, mount)
    return found


def core_pulls(session: Session, shelf: CurveShelf, found: Sequence[Based], at: dict[UUID, Place]) -> list[Pull]:
    """Pulls for the core, with all in which two have to agree."""
    curves = shelf.times(session, [(one.row.id, one.factor) for one in found])
    return [
        Pull(
            curve,
            at[one.row.id].session,
            at[one.row.id].mount,
            signature_words(one),
            one.weather_out,
            one.humidity,
        )
        for one, curve in zip(found, curves, strict=True)
    ]


def _engine(row: PulledPull) -> dict[str, str]:
    """The version of the engine that ran, where it is known: cams may have come since."""
    return {"engine version": str(row.engine_id)} if row.engine_id else {}


def signature_words(one: Based) -> dict[str, str]:
    """All in which two pulls have to agree, in the words in which a difference is told."""
    row = one.row
    declared = {label(word): text for word, text in row.declared.items() if word != STRAP}
    power = "engine power" if row.measures == "engine" else "wheel power"
    return {
        "power": power,
        "dyno": row.dyno,
        "correction": one.standard.label,
        "load": row.dyno_load,
        **_engine(row),
        **declared,
    }
