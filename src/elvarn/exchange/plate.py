"""Power of two designs over engine speed with their difference beneath, as SVG for paper."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil, floor, log10

WIDTH, LEFT, RIGHT = 680.0, 46.0, 144.0
TOP, PLATE, GAP, STRIP, FOOT = 16.0, 104.0, 20.0, 50.0, 20.0
INK, HAIR, GREY = "#16202A", "#C4CACF", "#5A6570"
LINES = (("#B4551D", ""), ("#22419B", ""), ("#775600", "9 3"), ("#3F6B4F", "2 3"))  # of designs; told apart in grey too
LETTERS = 25  # of a name at the end of a curve


@dataclass(frozen=True)
class Design:
    """A design's power at its speeds [rpm], and what it has more than stock at those that both have."""

    name: str
    speeds: Sequence[float]
    power: Sequence[float]
    common: Sequence[float]
    difference: Sequence[float]


@dataclass(frozen=True)
class Curves:
    """Stock's power at its speeds [rpm] and the designs held against it, their unit, and the band that counts."""

    stock: str
    speeds: Sequence[float]
    power: Sequence[float]
    designs: Sequence[Design]
    unit: str
    band: tuple[float, float]


@dataclass(frozen=True)
class _Scale:
    low: float
    high: float
    start: float
    end: float

    def __call__(self, value: float) -> float:
        return self.start + (value - self.low) / (self.high - self.low) * (self.end - self.start)


def plate_svg(curves: Curves) -> str:
    """The plate from zero, and under it the difference at the same speeds, zero in its middle."""
    low = min(curves.speeds[0], *(one.speeds[0] for one in curves.designs))
    high = max(curves.speeds[-1], *(one.speeds[-1] for one in curves.designs))
    most = max(*curves.power, *(max(one.power) for one in curves.designs))
    reach = _above(max(abs(more) for one in curves.designs for more in one.difference))
    strip_top = TOP + PLATE + GAP
    foot = strip_top + STRIP
    plate = _Scale(0.0, _above(most), TOP + PLATE, TOP)
    strip = _Scale(-reach, reach, foot, strip_top)
    across = _Scale(low, high, LEFT, WIDTH - RIGHT)
    inks = [(one, *LINES[number % len(LINES)]) for number, one in enumerate(curves.designs)]
    ends = [(plate(curves.power[-1]), curves.stock, INK), *((plate(d.power[-1]), d.name, ink) for d, ink, _ in inks)]
    return "".join([
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDTH:g} {foot + FOOT:g}" font-family="Barlow" '
        f'font-size="11">',
        _band(curves.band, across, foot),
        *_grid(plate, across, (0.0, plate.high / 2, plate.high)),
        *_grid(strip, across, (-reach, 0.0, reach)),
        *_speeds(across, foot),
        _line(curves.speeds, curves.power, across, plate, INK, "5 3"),
        *(_line(one.speeds, one.power, across, plate, ink, dashes) for one, ink, dashes in inks),
        *(_line(one.common, one.difference, across, strip, ink, dashes) for one, ink, dashes in inks),
        *_names(ends),
        _text(LEFT, TOP - 6, f"Power, {curves.unit}", GREY),
        _text(LEFT, strip_top - 6, f"Difference, {curves.unit}", GREY),
        "</svg>",
    ])  # fmt: skip


def _above(value: float) -> float:
    """A round figure that is not below."""
    if value <= 0:
        return 1.0
    step = 10.0 ** floor(log10(value)) / 2
    return float(ceil(value / step) * step)


def _line(speeds: Sequence[float], values: Sequence[float], x: _Scale, y: _Scale, ink: str, dashes: str) -> str:
    points = " ".join(f"{x(speed):.1f},{y(value):.1f}" for speed, value in zip(speeds, values, strict=True))
    dashed = f' stroke-dasharray="{dashes}"' if dashes else ""
    return f'<polyline points="{points}" fill="none" stroke="{ink}" stroke-width="1.6"{dashed}/>'


def _grid(y: _Scale, x: _Scale, ticks: Sequence[float]) -> list[str]:
    found = []
    for tick in ticks:
        found.append(f'<path d="M{x.start:g} {y(tick):.1f}H{x.end:g}" stroke="{HAIR}" stroke-width="0.7"/>')
        sign = "+" if tick > 0 and y.low < 0 else ""
        found.append(_text(x.start - 6, y(tick) + 4, f"{sign}{tick:g}".replace("-", "−"), GREY, "end"))
    return found


def _speeds(x: _Scale, foot: float) -> list[str]:
    step = 1000 if x.high - x.low > 2000 else 500
    ticks = range(ceil(x.low / step) * step, int(x.high) + 1, step)
    found = [_text(x(tick), foot + 14, f"{tick}", GREY, "middle") for tick in ticks]
    return [*found, _text(x.end + 24, foot + 14, "rpm", GREY)]


def _band(band: tuple[float, float], x: _Scale, foot: float) -> str:
    left, right = (x(min(max(speed, x.low), x.high)) for speed in band)
    return f'<rect x="{left:.1f}" y="{TOP:g}" width="{right - left:.1f}" height="{foot - TOP:.1f}" fill="#EEF1F6"/>'


def _names(ends: Sequence[tuple[float, str, str]]) -> list[str]:
    """Names at the right ends of the curves, apart from one another."""
    found = []
    before = -12.0
    for at, name, ink in sorted(ends):
        before = max(at, before + 12)
        found.append(_text(WIDTH - RIGHT + 8, before + 4, name, ink))
    return found


def _text(x: float, y: float, words: str, ink: str, anchor: str = "start") -> str:
    short = words if len(words) <= LETTERS else f"{words[: LETTERS - 1]}…"
    safe = short.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;")
    return f'<text x="{x:.1f}" y="{y:.1f}" fill="{ink}" text-anchor="{anchor}">{safe}</text>'
