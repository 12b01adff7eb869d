"""The drive of a bolt: which tool takes it, what the socket in its head takes, and how a tool changes the torque."""

from enum import StrEnum
from types import MappingProxyType

from elvarn.core.errors import require_positive
from elvarn.core.finding import Finding


class Drive(StrEnum):
    """The head of a bolt and what takes it."""

    HEX = "hex head"
    CAP = "cap head, socket"
    LOW = "low head, socket"
    BUTTON = "button head, socket"


# Size of the tool [m] by thread. Hex: ISO 4014; cap: ISO 4762; low: DIN 7984; button: ISO 7380-1; all from memory.
TOOL_SIZE = MappingProxyType({
    Drive.HEX: {"M5": 0.008, "M6": 0.010, "M7": 0.011, "M8": 0.013, "M10": 0.016, "M12": 0.018},
    Drive.CAP: {"M5": 0.004, "M6": 0.005, "M8": 0.006, "M10": 0.008, "M12": 0.010},
    Drive.LOW: {"M5": 0.003, "M6": 0.004, "M8": 0.005, "M10": 0.007, "M12": 0.008},
    Drive.BUTTON: {"M5": 0.003, "M6": 0.004, "M8": 0.005, "M10": 0.006, "M12": 0.008},
})  # fmt: skip
HEXAGON = 0.1888  # s³: section modulus in torsion of a hexagon, s across flats; Roark, from memory
KEY_SHEAR = 800e6  # Pa at which a key of tool steel gives; from memory, 700 to 900
SHALLOW = 0.7  # of that in a low or button head, whose socket is shallow; common practice, no source
BALL = 0.5  # of that at a ball end, which touches on six points; common practice, no source
IN_HAND = 1.25  # between torque and what the socket takes; choice, no source


def tool_size(thread: str, drive: Drive) -> float | None:
    """Size across flats of the tool for a bolt.

    Arguments: thread: its name; drive.
    Returns: size [m], None where the standards have none.
    Raises: nothing.
    Source: ISO 4014, ISO 4762, DIN 7984, ISO 7380-1, from memory.
    """
    return TOOL_SIZE[drive].get(thread)


def socket_limit(size: float, drive: Drive, *, ball: bool = False) -> float:
    """Torque at which the key in a socket, or the socket itself, gives.

    Arguments: size [m] across flats, drive; ball: the key has a ball end.
    Returns: torque [N·m].
    Raises: OutOfRange for a size not above zero.
    Source: derivation; torsion of a hexagon (Roark, from memory), shear strength of the key from memory, ±20 %.
    """
    require_positive(size=size)
    part = (SHALLOW if drive in (Drive.LOW, Drive.BUTTON) else 1.0) * (BALL if ball else 1.0)
    return HEXAGON * size**3 * KEY_SHEAR * part


def drive_findings(torque: float, thread: str, drive: Drive, tools: list[str]) -> list[Finding]:
    """What speaks against a drive and its tools at a torque.

    Arguments: torque [N·m]; thread: its name; drive; tools: what reaches each bolt, in words.
    Returns: findings.
    Raises: OutOfRange for a torque not above zero.
    Source: as `socket_limit`.
    """
    require_positive(torque=torque)
    size = tool_size(thread, drive)
    found = []
    balls = any("ball" in tool.lower() for tool in tools)
    if size is not None and drive is not Drive.HEX:
        limit = socket_limit(size, drive)
        if torque * IN_HAND > limit:
            text = f"A {1000 * size:g} mm socket in a {drive.split(',')[0]} gives at about {limit:.0f} N·m: "
            found.append(Finding("socket", text + "a hex head of class 8.8, where its height clears.", doubt=True))
        elif balls and torque * IN_HAND > socket_limit(size, drive, ball=True):
            text = f"A ball end of {1000 * size:g} mm takes about {socket_limit(size, drive, ball=True):.0f} N·m: "
            found.append(Finding("ball", text + "run it in with that, tighten with a straight key.", doubt=True))
    if any("crow" in tool.lower() for tool in tools):
        text = "A crow foot in line makes the wrench longer: set it to torque × wrench / (wrench + foot), "
        found.append(Finding("crow", text + "or put the foot on at a right angle.", doubt=False))
    return found


def set_torque(torque: float, wrench: float, foot: float) -> float:
    """What a wrench is set to with a foot in line in front.

    Arguments: torque [N·m] wanted at the bolt; wrench [m], from its grip to its square; foot [m], from the square to
    the bolt; scalars.
    Returns: torque [N·m] to set.
    Raises: OutOfRange for values not above zero.
    Source: derivation, levers.
    """
    require_positive(torque=torque, wrench=wrench, foot=foot)
    return torque * wrench / (wrench + foot)
