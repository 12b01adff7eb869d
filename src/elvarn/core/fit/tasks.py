"""The tasks of a swap: from strands, what is in the way, and what is always done."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field

from elvarn.core.fit.interface import Medium, Verb
from elvarn.core.fit.order import Asks, FitTask, Phase
from elvarn.core.fit.schools import OF_CODE
from elvarn.core.fit.swap import Strand

WORKED = (Verb.TAP, Verb.REAM, Verb.BLANK, Verb.LOOP, Verb.EXTEND, Verb.ADAPT)
IDLE_RPM = (500.0, 1100.0)  # rpm, where it settles; common practice, no source
BOSS = 0.00005  # m: over the sensor's size a reamed boss may be; common practice, no source


@dataclass(frozen=True)
class Circumstances:
    """What the plan has to know besides its strands: what is in the way; what is renewed while it is open; what assists
    the brakes ("vacuum", "other", "none", None where nobody said); whether it is for a trial only; the way taken of
    each school; whether a long cam makes the idle lumpy."""

    in_the_way: tuple[str, ...] = ()
    renewed: tuple[str, ...] = ()
    brakes: str | None = None
    mock_up: bool = False
    schools: Mapping[str, str] = field(default_factory=dict)
    long_cam: bool = False

    def way(self, code: str) -> str:
        """The way that is taken of a school."""
        return OF_CODE[code].way(self.schools.get(code, "")).word


def tasks_of(strands: Sequence[Strand], at: Circumstances) -> list[FitTask]:
    """Every task of a swap, each with the tags that rules speak of; none where there is nothing to swap.

    Arguments: strands of the swap; at: the circumstances.
    Returns: tasks, each key once, not yet in order.
    Raises: nothing.
    Source: common practice, no source.
    """
    if not strands:
        return []
    manifold = next((one.key for one in strands if one.part and one.on == "manifold" and one.goes_on), "")
    found = [*_unpack(strands), *_safe(strands), *_in_the_way(at)]
    for one in strands:
        found += _off(one)
    if manifold:
        found += _at_the_bench()
    for one in strands:
        found += _worked(one)
    found += _renewed(at)
    if manifold:
        found += _flange(at, manifold)
    for one in strands:
        found += _on(one, at, bool(manifold))
    found += _close(strands, at)
    if at.mock_up:
        return found
    return [*found, *_before(strands, at), *_start(at), *_road(at), *_sign()]


def _unpack(strands: Sequence[Strand]) -> Iterator[FitTask]:
    yield FitTask("kit", "Count the kit against its list", Phase.UNPACK, frozenset({"kit"}),
                  how="What is short is ordered before anything comes off.")  # fmt: skip
    yield FitTask("photos", "Photograph and label every plug, hose and bolt place", Phase.UNPACK,
                  frozenset({"photos"}), how="“Unknown” is a label too.")  # fmt: skip
    for one in strands:
        if one.question:
            yield FitTask(f"find {one.key}", f"Find out: {one.off}", Phase.UNPACK, frozenset({"found out"}), one.key,
                          one.question)  # fmt: skip


def _safe(strands: Sequence[Strand]) -> Iterator[FitTask]:
    yield FitTask("battery off", "Battery off", Phase.SAFE, frozenset({"battery off"}))
    if _fuel(strands):
        yield FitTask("fuel relieved", "Relieve the fuel pressure", Phase.SAFE, frozenset({"fuel relieved"}),
                      how="Rags ready, no flame, extinguisher at hand.", safety=True)  # fmt: skip
    if _has(strands, Medium.COOLANT):
        yield FitTask("coolant drained", "Drain coolant to below the throttle", Phase.SAFE,
                      frozenset({"coolant drained"}), how="Cold engine.")  # fmt: skip


def _fuel(strands: Sequence[Strand]) -> bool:
    """Whether fuel has to be reckoned with: where it is noted, and under any manifold, whatever nobody noted."""
    return _has(strands, Medium.FUEL) or any(one.part and one.on == "manifold" for one in strands)


def _has(strands: Sequence[Strand], medium: Medium) -> bool:
    return any(one.medium is medium and one.off for one in strands)


def _in_the_way(at: Circumstances) -> Iterator[FitTask]:
    for words in at.in_the_way:
        yield FitTask(f"way off {words.lower()}", f"{_up(words)} off", Phase.OFF, frozenset({"way off"}),
                      how="Photograph it; its bolts in a bag of their own.")  # fmt: skip
        yield FitTask(f"way on {words.lower()}", f"{_up(words)} back on", Phase.CLOSE, frozenset({"way on"}))


def _off(one: Strand) -> Iterator[FitTask]:
    if not one.off:
        return
    tags = {"comes off"}
    tags.add(f"{one.on} off" if one.part else f"sits on {one.on}")
    if one.medium in (Medium.FUEL, Medium.COOLANT):
        tags.add(f"{one.medium} off")
    bottom = "" if one.part else _how_off(one)
    yield FitTask(f"off {one.key}", f"{_up(one.off)} off", Phase.OFF, frozenset(tags), one.key, bottom,
                  people=one.people)  # fmt: skip


def _how_off(one: Strand) -> str:
    if one.kind and one.kind.seal.startswith("hose"):
        return "Turn the hose loose, never pull at the nipple; cut off a rotted end."
    if one.medium is Medium.ELECTRIC:
        return "Lift its lock, pull by the plug."
    return ""


def _at_the_bench() -> Iterator[FitTask]:
    yield FitTask("cover ports", "Cover the ports", Phase.PREPARE, frozenset({"cover ports"}))
    yield FitTask("faces", "Clean the faces, look at dowels and threads", Phase.PREPARE, frozenset({"faces"}),
                  how="No scraper across a seal land; no grit into a port.")  # fmt: skip
    yield FitTask("trial fit", "Test-fit without its gasket", Phase.PREPARE, frozenset({"trial fit"}),
                  how="Clay on bolt heads and what lies beneath; reach of hoses, cable and plugs.")  # fmt: skip
    yield FitTask("inside", "Look down every runner", Phase.PREPARE, frozenset({"inside"}),
                  how="No hardware, rag, swarf, O-ring shred or lint.", safety=True)  # fmt: skip


def _worked(one: Strand) -> Iterator[FitTask]:
    if one.verb not in WORKED:
        return
    tags = {"worked on"}
    asks = None
    if one.verb in (Verb.TAP, Verb.REAM):
        tags.add("drilled")
    if one.verb is Verb.REAM:
        size = _size(one)
        asks = Asks("length", "its bore", size, size + BOSS) if size else None
    how = one.how + (". Out of the vehicle, swarf out." if one.verb in (Verb.TAP, Verb.REAM) else "")
    words = one.off or one.goes_on
    yield FitTask(f"do {one.key}", f"{_up(one.verb)}: {words}", Phase.PREPARE, frozenset(tags), one.key, how,
                  one.tools, asks=asks)  # fmt: skip


def _size(one: Strand) -> float | None:
    """The size [m] that a boss is reamed to."""
    for tool in one.tools:
        words = tool.split()
        if words[0] == "reamer":
            return float(words[1]) / 1000
    return None


def _renewed(at: Circumstances) -> Iterator[FitTask]:
    for words in at.renewed:
        yield FitTask(f"renew {words.lower()}", f"Renew: {words}", Phase.PREPARE, frozenset({"renewed"}))


def _flange(at: Circumstances, strand: str) -> Iterator[FitTask]:
    yield FitTask("gasket", f"Gaskets on, {at.way('gaskets')}", Phase.ON, frozenset({"gasket"}), strand,
                  "New ones; dowels used.")  # fmt: skip
    yield FitTask("aligned", "Flange and throttle plate sit flush, bolts by hand", Phase.TIGHT,
                  frozenset({"aligned"}), strand)  # fmt: skip
    yield FitTask("bolts", "Flange bolts crosswise", Phase.TIGHT, frozenset({"bolts"}), strand,
                  f"By hand, then in steps. Threads that go through: {at.way('threads')}.")  # fmt: skip


def _on(one: Strand, at: Circumstances, manifold: bool) -> Iterator[FitTask]:
    if not one.goes_on or one.verb in (Verb.DELETE, Verb.BLANK, Verb.LOOP, Verb.LOOK):
        return
    tags = {"goes on"}
    phase = Phase.CONNECT
    how = one.how
    if one.part:
        tags.add(f"{one.on} on")
        phase = Phase.ON if one.on in ("manifold", "throttle") else Phase.CONNECT
        if one.on == "throttle" and manifold:
            last = at.way("throttle") == "last"
            tags.add("after bolts" if last else "before bolts")
            phase = Phase.TIGHT if last else Phase.ON
        if one.on in ("tube", "filter", "meter"):
            how = ", ".join(word for word in (how, "boots seated all round, clamps counted") if word)
    else:
        tags.add("connect")
        tags |= {f"on the {one.on}"} if one.on in ("throttle", "tube") else set()
        how = ", ".join(word for word in (how, _how_on(one)) if word)
    if one.medium in (Medium.FUEL, Medium.COOLANT):
        tags.add(f"{one.medium} on")
    if one.kind and one.kind.name == "brake servo":
        tags.add("servo on")
    yield FitTask(f"on {one.key}", f"{_up(one.goes_on)} on", phase, frozenset(tags), one.key, how, one.tools,
                  one.people, bool(one.kind and one.kind.safety))  # fmt: skip


def _how_on(one: Strand) -> str:
    if one.medium is Medium.ELECTRIC:
        return "pushed, locked, pulled at"
    if one.medium is Medium.FUEL:
        return "rings oiled, never forced, shreds looked for; rail the right way round, its unused end plugged"
    if one.kind and one.kind.seal.startswith("hose"):
        return "hose depth marked, pulled at"
    return ""


def _close(strands: Sequence[Strand], at: Circumstances) -> Iterator[FitTask]:
    for one in strands:
        if one.kind and one.kind.name == "earth strap" and one.goes_on:
            yield FitTask(f"earth {one.key}", f"{_up(one.goes_on)}: bare metal, tight", Phase.CLOSE,
                          frozenset({"closed up", "on earth"}), one.key)  # fmt: skip
    yield FitTask("looms", "Looms: boots, heat, edges; spare plugs stowed", Phase.CLOSE, frozenset({"closed up"}),
                  how=f"Sensors no longer used: {at.way('deleted')}.")  # fmt: skip
    yield FitTask("counted", "Tools, rags, bolts and rings counted", Phase.CLOSE, frozenset({"closed up"}),
                  how="What is missing is inside until it is found.", safety=True)  # fmt: skip
    if _has(strands, Medium.COOLANT):
        yield FitTask("coolant filled", "Fill coolant and bleed it", Phase.CLOSE, frozenset({"coolant filled"}))
    yield FitTask("leak test", "Leak test: smoke, or low pressure with the intake closed", Phase.CLOSE,
                  frozenset({"leak test"}))  # fmt: skip
    yield FitTask("battery on", "Battery on", Phase.CLOSE, frozenset({"battery on"}))
    if _fuel(strands):
        yield FitTask("fuel leak", "Fuel pump on, engine off: look for fuel", Phase.CLOSE, frozenset({"fuel leak"}),
                      safety=True)  # fmt: skip


def _before(strands: Sequence[Strand], at: Circumstances) -> Iterator[FitTask]:
    check = frozenset({"throttle check"})
    yield FitTask("shaft", "Throttle: shaft play, blade screws, spring", Phase.BEFORE, check, safety=True,
                  short="throttle shaft and screws",
                  how=f"Threadlocker: {at.way('locking')}.")  # fmt: skip
    yield FitTask("sweep", "Throttle sweeps fully, snaps shut from every angle", Phase.BEFORE, check, safety=True,
                  short="throttle sweep",
                  how="Engine off. It touches no opening, gasket or adapter.")  # fmt: skip
    if any(one.kind and one.kind.name == "throttle cable" for one in strands):
        yield FitTask("cable", "Cable has slack shut, and opens fully at the pedal", Phase.BEFORE, check, safety=True,
                      short="throttle cable")  # fmt: skip
    else:
        yield FitTask("signals", "Throttle opens as it should: cable slack, or both signals agree", Phase.BEFORE,
                      check | {"signal check"}, safety=True, short="throttle signals")  # fmt: skip
    if at.brakes == "vacuum":
        yield FitTask("servo", "Brake servo: hose on, clamp tight, check valve holds", Phase.BEFORE,
                      frozenset({"servo check"}), safety=True, short="brake assistance")  # fmt: skip
    elif at.brakes is None:
        yield FitTask("servo", "Find out what assists the brakes, then check it", Phase.BEFORE,
                      frozenset({"servo check"}), safety=True, short="brake assistance",
                      how="Vacuum: hose, clamp and check valve. Nobody noted it at check-in.")  # fmt: skip
    elif at.brakes == "other":
        yield FitTask("servo", "Brake assistance that needs no manifold vacuum: checked", Phase.BEFORE,
                      frozenset({"servo check"}), safety=True, short="brake assistance")  # fmt: skip


def _start(at: Circumstances) -> Iterator[FitTask]:
    running = frozenset({"running"})
    yield FitTask("start", "First start", Phase.START, frozenset({"start"}),
                  how="Doors open, extraction on. Off at once for fuel, a racing idle or a flashing lamp.")  # fmt: skip
    yield FitTask("leaks", "Fuel, coolant and vacuum leaks: looked and listened", Phase.START, running, safety=True)
    if at.brakes != "none":
        yield FitTask("brakes", "Brake assistance felt", Phase.START, running, safety=True,
                      how="Pump it empty, foot on, start: the pedal sinks.")  # fmt: skip
    how = "A long cam's lumpy idle is no fault." if at.long_cam else "Up to 2000 rpm at first; it settles."
    asks = Asks("speed", "idle") if at.long_cam else Asks("speed", "idle", *IDLE_RPM)
    yield FitTask("idle", "Idle over minutes", Phase.START, running, how=how, asks=asks)
    yield FitTask("codes", "Fault codes read and cleared", Phase.START, running)


def _road(at: Circumstances) -> Iterator[FitTask]:
    if at.way("retune") == "at once":
        yield FitTask("tune", "Tune", Phase.ROAD, frozenset({"tune"}), how="With the tuner's page.")
    yield FitTask("learning", "Driven while the ECU learns: 5 to 50 miles (8 to 80 km)", Phase.ROAD,
                  how="Light load. A flashing lamp is a misfire: stop.")  # fmt: skip
    yield FitTask("codes again", "Fault codes read again", Phase.ROAD, how="Genuine ones come back.")
    how = "Paper gaskets checked again only if their maker says so; clamps after the first heat."
    yield FitTask("after-care", "After-care note with its day", Phase.ROAD, how=how)


def _sign() -> Iterator[FitTask]:
    yield FitTask("local code", "Local code on emission equipment looked up", Phase.BEFORE, frozenset({"local code"}),
                  how="Changed intake parts can break emission rules for road use.", safety=True,
                  short="local code")  # fmt: skip
    yield FitTask("sign off", "Sign off", Phase.SIGN, frozenset({"sign off"}))


def _up(words: str) -> str:
    return words[0].upper() + words[1:]
