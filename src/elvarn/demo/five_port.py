"""Sections and walls of the hill-climb manifold, as received and after stage 2: runner 3 still has its core shift."""

from collections.abc import Mapping, Sequence
from typing import Any
from uuid import UUID

from elvarn.core.port.target import AreaLaw
from elvarn.demo import shop as demo
from elvarn.service.job import dimensions
from elvarn.service.port import plans, sections

PLACES = ("0", "45", "90", "135", "180", "225", "310")
AS_RECEIVED = ("44.0", "42.0", "40.8", "40.0", "39.6", "39.6", "40.0")
STAGE_2 = ("46.0", "44.6", "43.6", "42.8", "42.1", "41.5", "40.8")
SHIFTED = {3: (("44.0", "41.6", "39.6", "38.8", "38.9", "39.2", "40.0"),
               ("45.6", "43.4", "40.6", "39.4", "39.6", "40.4", "40.8"))}  # fmt: skip
OFF = {1: 0.0, 2: -0.1, 4: -0.1, 5: 0.0}  # mm by which the others differ
# A bore that grew by 1 mm took 1 mm off two opposite walls together.
BEFORE_WALLS = {"90": {12: "4.2", 3: "5.2", 6: "7.0", 9: "5.2"}, "135": {12: "4.1", 3: "5.1", 6: "6.8", 9: "5.1"}}
AFTER_WALLS = {
    "45": {12: "3.7", 3: "4.6", 6: "6.2", 9: "4.6"},
    "90": {12: "3.9", 3: "4.7", 6: "6.3", 9: "4.7"},
    "135": {12: "4.0", 3: "4.8", 6: "6.3", 9: "4.8"},
    "180": {12: "3.9", 3: "4.8", 6: "6.2", 9: "4.8"},
    "225": {12: "3.9", 3: "4.7", 6: "6.0", 9: "4.7"},
}
EVEN_WALLS = {12: "4.1", 6: "4.4"}
THROTTLE_BORES = {"0": ("65.40", "65.42"), "20": ("65.02", "65.04"), "38": ("65.00", "65.12"),
                  "58": ("64.88", "64.90"), "80": ("64.70", "64.72")}  # fmt: skip
THROTTLE_SIZES = {
    "shaft": "9.0 mm", "plate": "2.2 mm", "plate_at": "38 mm", "wide_open_angle": "86", "closed_angle": "8",
    "entry_radius": "1.5 mm", "land_out": "3.4 mm", "groove_width": "3.2 mm", "groove_depth": "2.4 mm",
}  # fmt: skip


def measured_before(sessions: demo.Sessions, shop: demo.DemoShop, job: UUID, state: UUID) -> None:
    """Every station as received, the walls where runner 3 is tight."""
    _sections(sessions, shop, job, state, AS_RECEIVED, 0, "2026-10-13")
    for place, walls in BEFORE_WALLS.items():
        _walls(sessions, shop, job, state, 3, place, walls, "2026-10-13")


def measured_after(sessions: demo.Sessions, shop: demo.DemoShop, job: UUID, state: UUID) -> None:
    """Every station after stage 2, and what wall is left."""
    _sections(sessions, shop, job, state, STAGE_2, 1, "2026-11-03")
    for place, walls in AFTER_WALLS.items():
        _walls(sessions, shop, job, state, 3, place, walls, "2026-11-03")
        for runner in OFF:
            _walls(sessions, shop, job, state, runner, place, EVEN_WALLS, "2026-11-03")


def throttle_gauged(sessions: demo.Sessions, shop: demo.DemoShop, job: UUID, state: UUID) -> None:
    """The bore of the throttle along its depth, up and down and side to side, its blade and its seal's groove."""

    def keep(quantity: str, typed: str, name: str, **at: Any) -> None:
        taken = demo.at("2026-10-13", "15:00")
        new = dimensions.NewDimension(shop.imre, job, state, "throttle", quantity, typed, taken, **at)
        with sessions.begin() as session:
            dimensions.add_dimension(session, demo.named(job, "throttle", name), new)

    for place, figures in THROTTLE_BORES.items():
        for hour, figure in zip((12, 3), figures, strict=True):
            keep("across", f"{figure} mm", f"{place} {hour}", place=f"{place} mm", hour=hour, barrel=1)
    for quantity, typed in THROTTLE_SIZES.items():
        keep(quantity, typed, quantity)


def planned(sessions: demo.Sessions, shop: demo.DemoShop, job: UUID, part: UUID) -> None:
    """All runners like the best, the seal's land left alone."""
    body = plans.PlanBody(
        material="aluminium",
        stations=list(PLACES),
        law=AreaLaw.BEST,
        reach_mm=180.0,
        zones=[plans.Zone("land", 300.0, 310.0)],
        jet_runners=[3],
    )
    with sessions.begin() as session:
        plans.add_plan(session, demo.named(job, "port plan"), plans.NewPortPlan(shop.imre, job, part, body))


def _sections(
    sessions: demo.Sessions, shop: demo.DemoShop, job: UUID, state: UUID, usual: Sequence[str], side: int, day: str
) -> None:
    for runner in range(1, 6):
        sizes = SHIFTED[runner][side] if runner in SHIFTED else [f"{float(one) + OFF[runner]:.1f}" for one in usual]
        for place, typed in zip(PLACES, sizes, strict=True):
            new = sections.NewSection(shop.imre, job, state, runner, place, typed, demo.at(day, "10:00"))
            with sessions.begin() as session:
                sections.add_section(session, demo.named(job, state, "section", runner, place), new)


def _walls(
    sessions: demo.Sessions, shop: demo.DemoShop, job: UUID, state: UUID, runner: int, place: str,
    walls: Mapping[int, str], day: str,
) -> None:  # fmt: skip
    for hour, typed in walls.items():
        new = sections.NewWall(shop.imre, job, state, runner, place, hour, typed, demo.at(day, "11:00"))
        with sessions.begin() as session:
            sections.add_wall(session, demo.named(job, state, "wall", runner, place, hour), new)
