"""The order of fitting as a graph: which task holds up which, and why; an order that keeps every rule."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from typing import Literal


class Phase(StrEnum):
    """Parts of the work, in their order; each is a tag of its tasks."""

    UNPACK = "unpack"
    SAFE = "make safe"
    OFF = "off"
    PREPARE = "prepare"
    ON = "loose on"
    TIGHT = "tighten"
    CONNECT = "connect"
    CLOSE = "close"
    BEFORE = "before it runs"
    START = "first start"
    ROAD = "on the road"
    SIGN = "sign off"


@dataclass(frozen=True)
class Asks:
    """What is measured at a task: its quantity, what it is, and between which values [SI] it is right."""

    quantity: Literal["length", "speed"]
    words: str
    low: float | None = None
    high: float | None = None


@dataclass(frozen=True)
class FitTask:
    """A task of fitting. `tags` are what rules speak of; `strand` is the line of the swap that it belongs to; `how` is
    what to watch; a `safety` one keeps the engine from being started, `short` is what it is called then."""

    key: str
    title: str
    phase: Phase
    tags: frozenset[str] = frozenset()
    strand: str = ""
    how: str = ""
    tools: tuple[str, ...] = ()
    people: int = 1
    safety: bool = False
    asks: Asks | None = None
    short: str = ""

    @property
    def all_tags(self) -> frozenset[str]:
        return self.tags | {self.phase.value}


@dataclass(frozen=True)
class FitRule:
    """What comes first, what then, by their tags, and why. With `own` both must belong to one strand."""

    first: str
    then: str
    why: str
    own: bool = False


@dataclass(frozen=True)
class Blocker:
    """A task that another waits for, and why."""

    key: str
    why: str


PARTS = ("manifold", "throttle", "tube", "meter")  # what something can sit on

# common practice, no source
RULES = (
    FitRule("kit", "comes off", "what is short is ordered before the vehicle stands"),
    FitRule("photos", "comes off", "which plug goes where is forgotten"),
    FitRule("battery off", "comes off", "a tool across the starter or a spark at a fuel line"),
    FitRule("battery off", "fuel relieved", "a spark and fuel vapour"),
    FitRule("fuel relieved", "fuel off", "fuel sprays under pressure"),
    FitRule("fuel relieved", "manifold off", "fuel sprays under pressure"),
    FitRule("coolant drained", "coolant off", "coolant runs into the ports"),
    FitRule("coolant drained", "manifold off", "coolant runs into the ports"),
    FitRule("way off", "comes off", "it is in the way"),
    FitRule("tube off", "throttle off", "it is clamped to it"),
    FitRule("meter off", "throttle off", "it stands in front"),
    FitRule("throttle off", "manifold off", "it hangs on it"),
    *(FitRule(f"sits on {part}", f"{part} off", "it hangs on it") for part in PARTS),
    FitRule("manifold off", "cover ports", "it comes off first"),
    FitRule("cover ports", "faces", "what falls into a port is swallowed"),
    FitRule("comes off", "worked on", "it is still on the engine", own=True),
    FitRule("manifold off", "trial fit", "the old one is in the way"),
    FitRule("trial fit", "drilled", "a hole in the wrong place stays"),
    FitRule("worked on", "inside", "swarf is looked for after the last hole"),
    FitRule("trial fit", "inside", "it was handled once more"),
    FitRule("inside", "gasket", "nobody sees inside again"),
    FitRule("renewed", "gasket", "it is reached only now"),
    FitRule("faces", "gasket", "a gasket seals on clean faces"),
    FitRule("trial fit", "gasket", "it is fitted for good afterwards"),
    FitRule("gasket", "manifold on", "the gasket lies under it"),
    FitRule("manifold on", "aligned", "it hangs in its bolts by hand"),
    FitRule("manifold on", "throttle on", "it bolts to it"),
    FitRule("before bolts", "aligned", "flange bolts stay loose until throttle and plate sit flush"),
    FitRule("aligned", "bolts", "pulled tight first, the upper bolts kick the flange"),
    FitRule("bolts", "after bolts", "the flange is pulled tight first"),
    FitRule("bolts", "connect", "bolts are reached before hoses and wiring lie over them"),
    FitRule("worked on", "goes on", "it is made ready first", own=True),
    FitRule("comes off", "goes on", "it comes off first", own=True),
    FitRule("throttle on", "tube on", "it clamps to it"),
    FitRule("throttle on", "on the throttle", "it sits on it"),
    FitRule("tube on", "on the tube", "it sits on it"),
    FitRule("goes on", "closed up", "everything is on first"),
    FitRule("goes on", "leak test", "every opening is closed first"),
    FitRule("worked on", "leak test", "every blank is on first"),
    FitRule("leak test", "way on", "it hides a leak"),
    FitRule("coolant on", "coolant filled", "its hoses are on first"),
    FitRule("goes on", "battery on", "plugs are pushed on dead"),
    FitRule("closed up", "battery on", "a bare end is looked for first"),
    FitRule("battery on", "fuel leak", "the pump needs it"),
    FitRule("fuel on", "fuel leak", "the rail is on first"),
    FitRule("throttle on", "throttle check", "it is fitted first"),
    FitRule("goes on", "throttle check", "cable and plug are on first"),
    FitRule("servo on", "servo check", "its hose is on first"),
    FitRule("battery on", "signal check", "signals are read with the ignition on"),
    FitRule("leak test", "start", "an air leak makes it run lean"),
    FitRule("coolant filled", "start", "it runs hot without"),
    FitRule("fuel leak", "start", "fuel is looked for before there is a spark"),
    FitRule("before it runs", "start", "nothing that can hurt is left open"),
    FitRule("battery on", "start", "it turns the engine"),
    FitRule("closed up", "start", "nothing lies loose"),
    FitRule("start", "running", "it runs first"),
    FitRule("first start", "on the road", "it idles first"),
    FitRule("way on", "on the road", "what was in the way is back on"),
    FitRule("way on", "sign off", "what was in the way is back on"),
    FitRule("running", "sign off", "it ran first"),
    FitRule("own", "sign off", "it is on the list"),
    FitRule("on the road", "sign off", "codes are read again after the road"),
)


@dataclass(frozen=True)
class Graph:
    """Tasks in an order that keeps every rule, and what each waits for."""

    tasks: tuple[FitTask, ...]
    befores: Mapping[str, tuple[Blocker, ...]] = field(default_factory=dict)

    def holds_up(self, key: str, still_open: Collection[str]) -> list[Blocker]:
        """What a task waits for now."""
        return [one for one in self.befores.get(key, ()) if one.key in still_open]


def graph_of(tasks: Sequence[FitTask], rules: Sequence[FitRule] = RULES) -> Graph:
    """An order of tasks that keeps every rule, and what holds up each.

    Arguments: tasks, each key once; rules.
    Returns: the graph; of tasks that are free the one of the earlier phase comes first, then as they were given.
    Raises: ValueError where the rules go round in a circle.
    Source: common practice, no source; sorted by Kahn's method.
    """
    befores: dict[str, dict[str, str]] = {task.key: {} for task in tasks}
    for rule in rules:
        firsts = [task for task in tasks if rule.first in task.all_tags]
        for then in tasks:
            if rule.then not in then.all_tags:
                continue
            for first in firsts:
                if first.key != then.key and (not rule.own or first.strand == then.strand):
                    befores[then.key].setdefault(first.key, rule.why)
    blockers = {key: tuple(Blocker(first, why) for first, why in found.items()) for key, found in befores.items()}
    return Graph(tuple(_sorted(tasks, befores)), blockers)


def _sorted(tasks: Sequence[FitTask], befores: Mapping[str, Mapping[str, str]]) -> list[FitTask]:
    rank = {task.key: (list(Phase).index(task.phase), place) for place, task in enumerate(tasks)}
    left = {task.key: task for task in tasks}
    found: list[FitTask] = []
    while left:
        free = [key for key in left if not any(first in left for first in befores[key])]
        if not free:
            raise ValueError(f"these tasks wait for each other: {', '.join(left)}")
        following = min(free, key=rank.__getitem__)
        found.append(left.pop(following))
    return found
