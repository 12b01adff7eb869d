"""a test's point says itself what is read, at which place and clock position, and in which mounting"""

import json

import sqlalchemy as sa
from alembic import op

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None

NO_PLACE = ("configuration", "copy")


def upgrade() -> None:
    op.add_column("test_plan", sa.Column("clocks", sa.ARRAY(sa.Float()), server_default="{}", nullable=False))
    connection = op.get_bind()
    for plan in connection.execute(sa.text("select id, kind, places, points from test_plan")).all():
        around, nowhere = plan.kind == "pitot", plan.kind in NO_PLACE
        change = {
            "id": plan.id,
            "points": json.dumps(_stops(plan.kind, plan.places, plan.points)),
            "places": [] if around or nowhere else plan.places,
            "clocks": plan.places if around else [],
        }
        connection.execute(
            sa.text(
                "update test_plan set points = cast(:points as jsonb), places = cast(:places as float[]), "
                "clocks = cast(:clocks as float[]) where id = :id"
            ),
            change,
        )


def _stops(kind: str, places: list[float], points: list[list[int]]) -> list[dict[str, object]]:
    measured = kind if kind in ("pitot", "swirl") else "flow"
    mounted: dict[int, int] = {}
    stops = []
    for series, place in points:
        at = None if kind in NO_PLACE else places[place]
        mount = mounted.get(series, 0) if kind == "copy" else 0
        mounted[series] = mounted.get(series, 0) + 1
        stops.append({
            "series": series, "measured": measured, "place": None if kind == "pitot" else at,
            "clock": at if kind == "pitot" else None, "zero": False, "mount": mount,
        })  # fmt: skip
    return stops


def downgrade() -> None:
    connection = op.get_bind()
    for plan in connection.execute(sa.text("select id, kind, places, clocks, points from test_plan")).all():
        places = (plan.clocks if plan.kind == "pitot" else plan.places) or [0.0]
        kept = [point for point in plan.points if not point["zero"]]
        points = [[point["series"], places.index(_place(point, places))] for point in kept]
        connection.execute(
            sa.text(
                "update test_plan set points = cast(:points as jsonb), places = cast(:places as float[]) where id = :id"
            ),
            {"id": plan.id, "points": json.dumps(points), "places": places},
        )
    op.drop_column("test_plan", "clocks")


def _place(point: dict[str, float | None], places: list[float]) -> float:
    found = point["clock"] if point["clock"] is not None else point["place"]
    return found if found in places else places[0]
