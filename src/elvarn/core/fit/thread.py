"""Threads: their diameters, the area that carries, the drill before the tap."""

from dataclasses import dataclass
from math import pi

from elvarn.core.constants import INCH
from elvarn.core.errors import OutOfRange, require_positive

FULL_THREAD = 0.7698  # of the pitch, on the diameter, for one hundredth of full thread: Machinery's Handbook
PIPE_HEIGHT = 0.8  # of the pitch: basic height of an NPT thread, ASME B1.20.1


@dataclass(frozen=True)
class Thread:
    """A parallel thread: its name, major diameter [m] and pitch [m]; `root` is what its bolt's root lacks, in pitches:
    by ISO 724 for metric, by ASME B1.1 for inch threads."""

    name: str
    diameter: float
    pitch: float
    root: float = 1.226869

    @property
    def pitch_diameter(self) -> float:
        """Pitch diameter [m]."""
        return self.diameter - 0.649519 * self.pitch

    @property
    def root_diameter(self) -> float:
        """Diameter of the bolt's root [m]."""
        return self.diameter - self.root * self.pitch

    @property
    def stress_area(self) -> float:
        """Area of the mean of pitch and root diameter [m²], ISO 898-1."""
        return pi / 4 * ((self.pitch_diameter + self.root_diameter) / 2) ** 2

    @property
    def tap_drill(self) -> float:
        """Drill before the tap [m]: the diameter less the pitch, ISO 2306."""
        return self.diameter - self.pitch


def _metric(name: str, diameter_mm: float, pitch_mm: float) -> Thread:
    return Thread(name, diameter_mm / 1000, pitch_mm / 1000)


def _inch(name: str, diameter_in: float, per_inch: int) -> Thread:
    return Thread(name, diameter_in * INCH, INCH / per_inch, 1.299038)


# Sizes met on intakes. Metric: ISO 261; inch: ASME B1.1.
THREADS = {
    thread.name: thread
    for thread in (
        _metric("M4", 4, 0.7), _metric("M5", 5, 0.8), _metric("M6", 6, 1.0), _metric("M7", 7, 1.0),
        _metric("M8", 8, 1.25), _metric("M8x1", 8, 1.0), _metric("M10", 10, 1.5), _metric("M10x1.25", 10, 1.25),
        _metric("M10x1", 10, 1.0), _metric("M12", 12, 1.75), _metric("M12x1.5", 12, 1.5),
        _metric("M12x1.25", 12, 1.25), _metric("M14x1.5", 14, 1.5), _metric("M18x1.5", 18, 1.5),
        _inch("1/4-20", 1 / 4, 20), _inch("1/4-28", 1 / 4, 28), _inch("5/16-18", 5 / 16, 18),
        _inch("5/16-24", 5 / 16, 24), _inch("3/8-16", 3 / 8, 16), _inch("3/8-24", 3 / 8, 24),
    )
}  # fmt: skip


@dataclass(frozen=True)
class PipeThread:
    """A taper pipe thread: its name, outside diameter [m], pitch [m], hand-tight length [m], and the drills [m] that
    charts give, from the one for a reamed hole to the one without."""

    name: str
    outside: float
    pitch: float
    hand_tight: float
    drills: tuple[float, float]

    @property
    def pitch_diameter_small(self) -> float:
        """Pitch diameter at the small end [m], ASME B1.20.1, whose formula takes inches."""
        return self.outside - (0.05 * self.outside / INCH + 1.1) * self.pitch

    @property
    def pitch_diameter_hand_tight(self) -> float:
        """Pitch diameter in the plane of hand-tight engagement [m]: the taper is 1 in 16 on the diameter."""
        return self.pitch_diameter_small + self.hand_tight / 16

    @property
    def effective_length(self) -> float:
        """Length of effective thread [m], ASME B1.20.1."""
        return (0.80 * self.outside / INCH + 6.8) * self.pitch

    @property
    def minor_small(self) -> float:
        """Minor diameter at the small end [m]."""
        return self.pitch_diameter_small - PIPE_HEIGHT * self.pitch


# ASME B1.20.1; the drills are where charts lie (8.4 to 8.75 mm for 1/8), from memory.
PIPES = {
    thread.name: thread
    for thread in (
        PipeThread("1/8-27 NPT", 0.405 * INCH, INCH / 27, 0.1615 * INCH, (0.0084, 0.00875)),
        PipeThread("1/4-18 NPT", 0.540 * INCH, INCH / 18, 0.2278 * INCH, (0.0109, 0.0114)),
        PipeThread("3/8-18 NPT", 0.675 * INCH, INCH / 18, 0.2400 * INCH, (0.0143, 0.0149)),
    )
}


def thread_of(name: str) -> Thread:
    """A thread by its name, as it is typed.

    Arguments: name: such as "M8", "M8x1.25", "m8 × 1.25" or "1/4-20".
    Returns: thread.
    Raises: OutOfRange for one that is not known, naming those that are.
    Source: ISO 261, ASME B1.1.
    """
    typed = name.strip().upper().replace("×", "X").replace(" ", "").replace(",", ".")
    for known, thread in THREADS.items():
        coarse = f"{known}X{thread.pitch * 1000:g}".upper()
        if typed in (known.upper(), coarse):
            return thread
    raise OutOfRange("thread", f"'{name}' is no thread that is known.", f"Known: {', '.join(THREADS)}.")


def thread_percent(thread: Thread, drill: float) -> float:
    """How full a thread a drill leaves for the tap.

    Arguments: thread; drill [m], scalar.
    Returns: part of full thread [-].
    Raises: OutOfRange for a drill not above zero, or as large as the thread.
    Source: Machinery's Handbook, from memory: 76.98 (d − drill)/P in hundredths.
    """
    require_positive(drill=drill)
    if drill >= thread.diameter:
        text = f"A drill of {drill * 1000:g} mm leaves no thread of {thread.name}."
        raise OutOfRange("drill", text, f"{thread.tap_drill * 1000:g} mm is usual.")
    return FULL_THREAD * (thread.diameter - drill) / thread.pitch
