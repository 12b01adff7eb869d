"""Questions of fitting on which careful people differ: each with its ways, and the reason for each."""

from dataclasses import dataclass
from types import MappingProxyType


@dataclass(frozen=True)
class Way:
    """One way, and why people take it."""

    word: str
    why: str


@dataclass(frozen=True)
class School:
    """A question with its ways; the first one stands where nobody chose."""

    code: str
    question: str
    ways: tuple[Way, ...]

    def way(self, word: str) -> Way:
        """The way of this word, else the first."""
        return next((way for way in self.ways if way.word == word), self.ways[0])


# common practice, no source
SCHOOLS = (
    School("throttle", "When does the throttle go on?", (
        Way("before the flange is tight", "it shows whether flange and plate sit flush"),
        Way("last", "its screws and the upper bolts are reached better"))),
    School("injectors", "Injectors and rail", (
        Way("left in the rail", "seals that are tight stay as they are"),
        Way("parted, new seals", "an old ring that is moved leaks"))),
    School("gaskets", "Gaskets", (
        Way("dry", "a moulded bead needs nothing"),
        Way("with sealant at the corners", "a joint of several castings steps there"))),
    School("threads", "Threads of bolts that go through", (
        Way("thread sealant", "air is drawn along an open thread"),
        Way("paste", "it stays soft and comes apart again"),
        Way("tape", "quick; never near fuel or inside: its shreds block injectors and valves"))),
    School("locking", "Threadlocker", (
        Way("none", "the torque holds, and it comes apart again"),
        Way("medium strength", "throttle screws shake loose and are swallowed"))),
    School("deleted", "Sensors that are no longer used", (
        Way("plugged in and stowed", "no code for an open line"),
        Way("out, told to the tuner", "nothing hangs loose in the heat"))),
    School("retune", "The tune", (
        Way("at once", "mixture is right before it is driven hard"),
        Way("drive first", "the ECU learns; light load only"))),
)  # fmt: skip
OF_CODE = MappingProxyType({school.code: school for school in SCHOOLS})


SEALS = ("FKM", "NBR", "EPDM", "silicone")  # what rings are usually made of; common practice, no source


def oil_for(seal: str, fuel: str) -> tuple[str, str]:
    """What an O-ring is put in with.

    Arguments: seal: material of the ring; fuel: what it meets, empty for air alone.
    Returns: lubricant, and why.
    Raises: nothing.
    Source: common practice, no source.
    """
    if "silicone" in seal.lower():
        return "engine oil", "silicone grease swells a silicone ring"
    if "epdm" in seal.lower():
        return "silicone grease", "mineral oil swells EPDM"
    if fuel.lower() in ("e85", "methanol"):
        return "silicone grease", "a trace, and never on the tip: alcohol washes oil off"
    if fuel:
        return "engine oil", "a drop; grease clogs the filter of an injector"
    return "engine oil", "a film; a dry ring is cut"
