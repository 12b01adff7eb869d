"""What becomes of each interface between the intake that comes off and the one that goes on: strands of the swap."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from types import MappingProxyType

from elvarn.core.fit.interface import Kind, Medium, Verb, kind_of

SEAT = 0.00015  # m: between a sensor and its bore an O-ring takes this; common practice, no source
TAPER = "1/8-27 NPT"
TWO_PEOPLE = 12.0  # kg: from here two people lift it over studs; common practice, no source


@dataclass(frozen=True)
class Need:
    """Something that a swap needs beside what came off, and how many of it."""

    words: str
    count: int = 1


@dataclass(frozen=True)
class Sits:
    """How an interface sits on an intake: bore of its boss [m], its connector, the signal that it gives."""

    bore: float | None = None
    connector: str = ""
    signal: str = ""


@dataclass(frozen=True)
class Interface:
    """Something on the intake that comes off: what it is called, the kind of element that it sits on, how it sits
    there, and how on the one that goes on: None where that has no place for it. `known`: somebody said whether it
    has. `moved`: it sits on the very part that goes on again. `count` of them, each with so many `rings`. `gone`: what
    it sits on is taken out and nothing goes on there."""

    words: str
    on: str
    was: Sits = field(default_factory=Sits)
    becomes: Sits | None = None
    known: bool = True
    moved: bool = False
    count: int = 1
    rings: int = 1
    gone: bool = False

    @property
    def kind(self) -> Kind | None:
        return kind_of(self.words)


@dataclass(frozen=True)
class Part:
    """An element at its place: what comes off and what goes on, empty where there is none; `same`: it is one part, in
    another state or only loosened; its mass [kg]; `seals`: what is renewed with it; `longer` [m]: how much further the
    front reaches than before."""

    on: str
    label: str
    off: str
    goes_on: str
    same: bool = False
    mass: float | None = None
    seals: tuple[Need, ...] = ()
    longer: float | None = None


@dataclass(frozen=True)
class Strand:
    """One line of the swap: what comes off, what goes on, and what is done between. `how` says it in a few words;
    `question` is what must be found out first; `left` what lies over afterwards."""

    key: str
    on: str
    off: str
    goes_on: str
    verb: Verb
    how: str = ""
    question: str = ""
    needs: tuple[Need, ...] = ()
    tools: tuple[str, ...] = ()
    left: tuple[str, ...] = ()
    medium: Medium | None = None
    kind: Kind | None = None
    part: bool = False
    people: int = 1
    seals: tuple[Need, ...] = ()


@dataclass(frozen=True)
class Said:
    """What somebody decided of a strand: what is done, and how."""

    verb: Verb
    how: str = ""


def part_strand(part: Part) -> Strand:
    """The strand of an element.

    Arguments: part: what stands there before and after.
    Returns: its strand.
    Raises: nothing.
    Source: common practice, no source.
    """
    key = f"part {part.label.lower()}"
    needs = list(part.seals)
    how = [f"{seal.count} × {seal.words}" if seal.count > 1 else seal.words for seal in part.seals]
    if part.longer:
        gap = f"coupler {abs(part.longer) * 1000:.0f} mm {'shorter' if part.longer > 0 else 'longer'}"
        needs.append(Need(gap))
        how.append(gap)
    people = 2 if part.mass is not None and part.mass >= TWO_PEOPLE else 1
    common = {"needs": tuple(needs), "how": ", ".join(how), "part": True, "people": people, "medium": Medium.AIR}
    if part.same:
        return Strand(key, part.on, part.off, part.goes_on, Verb.TRANSFER, **common)  # type: ignore[arg-type]
    if not part.goes_on:
        return Strand(key, part.on, part.off, "", Verb.DELETE, left=(part.off,), part=True, medium=Medium.AIR)
    left = (part.off,) if part.off else ()
    return Strand(key, part.on, part.off, part.goes_on, Verb.NEW, left=left, **common)  # type: ignore[arg-type]


def interface_strand(one: Interface) -> Strand:
    """The strand of an interface.

    Arguments: one: how it sits before and after.
    Returns: its strand; where nobody said whether the new part has a place for it, it asks.
    Raises: nothing.
    Source: common practice, no source.
    """
    kind = one.kind
    seals = _seals(one)
    base = Strand(
        f"{one.on} {one.words.lower()}", one.on, one.words, one.words, Verb.TRANSFER,
        medium=kind.medium if kind else None, kind=kind, needs=seals, seals=seals,
    )  # fmt: skip
    if one.moved:
        return replace(base, how=_with_seal(kind))
    if one.gone:
        return as_said(base, Said(Verb.DELETE))
    if not one.known:
        text = f"Nobody noted whether the new one has a place for the {one.words}. Look, then choose what is done."
        return replace(base, verb=Verb.LOOK, how="not noted on the new part", question=text)
    if one.becomes is None:
        return as_said(base, Said(kind.without if kind else Verb.BLANK))
    return _compared(base, one.was, one.becomes)


def _compared(base: Strand, was: Sits, now: Sits) -> Strand:
    """The strand of an interface that sits on both: its signal, its plug, its bore."""
    words = base.off
    if was.signal and now.signal and was.signal.lower() != now.signal.lower():
        text = f"The {words} gives '{now.signal}'; the ECU expects '{was.signal}'. Limp mode is likely."
        how = f"other signal: {now.signal}"
        return replace(base, verb=Verb.ADAPT, how=how, question=text, needs=(Need("signal converter"),))
    if was.connector and now.connector and was.connector.lower() != now.connector.lower():
        harness = Need(f"adapter harness, {was.connector} to {now.connector}")
        return replace(base, verb=Verb.ADAPT, how="same signal, other plug", needs=(harness,))
    if was.bore and now.bore and now.bore < was.bore - SEAT:
        size = f"{was.bore * 1000:.2f} mm"
        how = f"boss {now.bore * 1000:.1f} to {size}, a drill leaks past the O-ring"
        return replace(base, verb=Verb.REAM, how=how, tools=(f"reamer {size}", "bore gauge"))
    if was.bore and now.bore and now.bore > was.bore + SEAT:
        size = f"{now.bore * 1000:.1f} mm"
        return replace(base, verb=Verb.ADAPT, how=f"loose in its {size} boss", needs=(Need(f"sleeve {size}"),))
    return replace(base, how=_with_seal(base.kind))


def as_said(strand: Strand, said: Said) -> Strand:
    """A strand on which somebody decided what is done, with what that needs and leaves over.

    Arguments: strand; said.
    Returns: the strand as it is done.
    Raises: nothing.
    Source: common practice, no source.
    """
    done = DOING.get(said.verb, _transferred)(strand)
    return replace(
        strand, verb=said.verb, how=said.how or done.how, question="", needs=done.needs, tools=done.tools,
        goes_on=done.goes_on, left=done.left,
    )  # fmt: skip


def spare_strand(port: str, on: str) -> Strand:
    """A place on the new part that nothing connects to: it is closed.

    Arguments: port: what the place is for; on: the kind of element that it sits on.
    Returns: its strand.
    Raises: nothing.
    Source: common practice, no source.
    """
    key = f"{on} spare {port.lower()}"
    return Strand(key, on, "", f"{port} place", Verb.BLANK, "nothing connects: open it is an air leak",
                  needs=(Need(f"cap for the {port} place"),), medium=Medium.AIR)  # fmt: skip


def with_said(strands: Sequence[Strand], said: Mapping[str, Said]) -> list[Strand]:
    """Strands with what somebody decided of them.

    Arguments: strands; said: by the strand's key.
    Returns: strands, shape (strands,), in the same order.
    Raises: nothing.
    Source: definition.
    """
    return [as_said(one, said[one.key]) if one.key in said else one for one in strands]


def _seals(one: Interface) -> tuple[Need, ...]:
    """A ring or gasket is renewed whenever it was apart; clamps go on again."""
    kind = one.kind
    if kind is None or kind.seal not in ("O-ring", "gasket"):
        return ()
    bore = f", bore {one.was.bore * 1000:.1f} mm" if one.was.bore else ""
    return (Need(f"{kind.seal} for the {one.words}{bore}", one.count * one.rings),)


def _with_seal(kind: Kind | None) -> str:
    if kind is None:
        return ""
    if kind.name == "brake servo":
        return "with its check valve"
    return f"new {kind.seal}" if kind.seal in ("O-ring", "gasket") else ""


@dataclass(frozen=True)
class Done:
    """What comes of what is done: what goes on, how, what it needs, its tools, what lies over afterwards."""

    goes_on: str
    how: str = ""
    needs: tuple[Need, ...] = ()
    tools: tuple[str, ...] = ()
    left: tuple[str, ...] = ()


def _transferred(strand: Strand) -> Done:
    return Done(strand.off, _with_seal(strand.kind), strand.seals)


def _tapped(strand: Strand) -> Done:
    kind, words = strand.kind, strand.off
    if kind and kind.medium in (Medium.ELECTRIC, Medium.FUEL, Medium.BOLTED):
        needs = (Need(f"boss for the {words}"), *strand.seals)
        return Done(words, "boss let in, leak-tested", needs, ("drill and ream to its size",))
    tools = ("drill 8.5 mm", f"tap {TAPER}", "grease on the tap for swarf", "paste")
    return Done(words, f"{TAPER}, paste", (Need(f"barb {TAPER} for the {words} hose"),), tools)


def _blanked(strand: Strand) -> Done:
    kind, words = strand.kind, strand.off
    cover = "blanking plate" if kind and kind.seal == "gasket" else "cap"
    return Done(f"blanked, {words}", _tell(kind) or "closed for good, leak-tested", (Need(f"{cover} for the {words}"),),
                left=(words,))  # fmt: skip


def _looped(strand: Strand) -> Done:
    words = strand.off
    needs = (Need(f"hose for the {words} loop"), Need("hose clamp", 2))
    return Done("looped", "the two ends joined", needs, left=(f"{words} hose",))


def _deleted(strand: Strand) -> Done:
    return Done("", _tell(strand.kind) or "taken off, connector tied up", left=(strand.off,))


def _extended(strand: Strand) -> Done:
    needs = (Need(f"extension for the {strand.off}"), *strand.seals)
    return Done(strand.off, "extended, heat and edges looked at", needs)


def _adapted(strand: Strand) -> Done:
    return Done(strand.off, "adapted", (Need(f"adapter for the {strand.off}"), *strand.seals))


def _renewed(strand: Strand) -> Done:
    return Done(f"new {strand.off}", "", (Need(f"new {strand.off}"), *strand.seals), left=(strand.off,))


def _tell(kind: Kind | None) -> str:
    return "tell the tuner" if kind and kind.tuner else ""


DOING: Mapping[Verb, Callable[[Strand], Done]] = MappingProxyType({
    Verb.TAP: _tapped, Verb.BLANK: _blanked, Verb.LOOP: _looped, Verb.DELETE: _deleted, Verb.EXTEND: _extended,
    Verb.ADAPT: _adapted, Verb.NEW: _renewed, Verb.REAM: _adapted,
})  # fmt: skip


@dataclass(frozen=True)
class Worth:
    """Something worth renewing while its place is open: where that is, and why."""

    words: str
    on: str
    why: str


# common practice, no source
WORTH = (
    Worth("coolant hoses under the manifold", "manifold", "nobody reaches them again"),
    Worth("breather hose and valve", "manifold", "they are brittle where it is hot"),
    Worth("vacuum hoses", "manifold", "an old end creeps off"),
    Worth("injector filters and rings", "manifold", "they are out already"),
    Worth("tube clamps", "tube", "a worn clamp does not hold a new boot"),
)


def worth_renewing(strands: Sequence[Strand]) -> list[Worth]:
    """What is worth renewing while these strands are open.

    Arguments: strands of the swap.
    Returns: what is, each once.
    Raises: nothing.
    Source: common practice, no source.
    """
    opened = {one.on for one in strands if one.part}
    return [one for one in WORTH if one.on in opened]


def kit_of(strands: Sequence[Strand]) -> dict[str, int]:
    """What a swap needs and how many of each.

    Arguments: strands of the swap.
    Returns: counts [-] by words, in the order of the strands.
    Raises: nothing.
    Source: definition.
    """
    found: dict[str, int] = {}
    for one in strands:
        for need in one.needs:
            found[need.words] = found.get(need.words, 0) + need.count
    return found
