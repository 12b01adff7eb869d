"""Revisions: what a job, a part or the whole shop shows has changed where its revision has.

Triggers raise them in the very transaction that writes, so that a revision and the rows read in one snapshot belong
together, in whatever process. What was made of a revision holds as long as it stands.
"""

from collections.abc import Callable
from uuid import UUID

from sqlalchemy import text
from sqlalchemy.orm import Session

Revision = tuple[int, ...]
SNAPSHOT = "snapshot"
SHOP, BENCHES, SHELF, WHOLE = "shop revision", "benches' revision", "shelf's revision", "whole revision"

_MOUNTED = """(select coalesce(sum(p.revision), 0)::bigint from part p where p.id in (
              select s.part_id from build b join build_node n on n.build_id = b.id
              join part_state s on s.id = n.part_state_id where b.job_id = j.id))"""
_OF_JOB = text(f"""
    select j.revision,
           (select revision from shop_state),
           {_MOUNTED},
           (select coalesce(sum(b.revision), 0)::bigint from bench b)
    from job j where j.id = cast(:id as uuid) or j.id = (select job_id from build where id = cast(:build as uuid))
""")
_OF_OPEN = text(f"""
    select count(*) over (), j.id, j.revision, {_MOUNTED}
    from job j where j.closed_at is null and j.archived_at is null
    order by j.due_on, j.created_at, j.id limit :most offset :after
""")
_OF_SHOP = text("select revision from shop_state")
_OF_BENCHES = text("select coalesce(sum(revision), 0)::bigint from bench")
_OF_SHELF = text("""
    select (select revision from shop_state),
           (select coalesce(sum(revision), 0)::bigint from part where job_id is null)
""")
_OF_ALL = text("""
    select (select coalesce(sum(revision), 0)::bigint from job), parts.every,
           (select coalesce(sum(revision), 0)::bigint from bench), (select revision from shop_state), parts.on_shelf
    from (select coalesce(sum(revision), 0)::bigint as every,
                 coalesce(sum(revision) filter (where job_id is null), 0)::bigint as on_shelf from part) parts
""")


def in_snapshot(session: Session) -> bool:
    """Whether a session reads one snapshot, in which no revision can change."""
    return bool(session.info.get(SNAPSHOT))


def job_revision(session: Session, job_id: UUID) -> Revision | None:
    """The revision of all that a job's screens show: the job, the parts that its builds mount, every bench (whose
    refits teach it what it repeats within), and the shop. None where there is no such job."""
    return _asked(session, {"id": job_id, "build": None})


def build_revision(session: Session, build_id: UUID) -> Revision | None:
    """The revision of the job that a build is of. None where there is no such build."""
    return _asked(session, {"id": None, "build": build_id})


def open_jobs(session: Session, most: int, after: int) -> tuple[dict[UUID, Revision], int]:
    """At most so many jobs that are neither closed nor archived, the longest waiting first, after so many of them:
    each with the revision of itself and of the parts that its builds mount. What benches repeat within is not in it.
    And how many there are in all; 0 where none is left after so many."""
    rows = session.connection().execute(_OF_OPEN, {"most": most, "after": after}).all()
    return {row[1]: tuple(row[2:]) for row in rows}, rows[0][0] if rows else 0


def shop_revision(session: Session) -> Revision:
    """The revision of people, benches with their plates, dynos and settings."""
    return _kept(session, SHOP, lambda: tuple(session.connection().execute(_OF_SHOP).one()))


def benches_revision(session: Session) -> Revision:
    """The revision of every bench: of its refits and its plates."""
    return _kept(session, BENCHES, lambda: tuple(session.connection().execute(_OF_BENCHES).one()))


def shelf_revision(session: Session) -> Revision:
    """The revision of the parts that are of no job, and of what corrects their figures."""
    return _kept(session, SHELF, lambda: tuple(session.connection().execute(_OF_SHELF).one()))


def whole_revision(session: Session) -> Revision:
    """The revision of everything: for the board and the shelf. Rows are hardly ever deleted, so the sums only rise."""
    found = _kept(session, WHOLE, lambda: tuple(session.connection().execute(_OF_ALL).one()))
    if in_snapshot(session):
        session.info |= {BENCHES: found[2:3], SHOP: found[3:4], SHELF: found[3:5]}
    return found


def _asked(session: Session, given: dict[str, UUID | None]) -> Revision | None:
    found = session.connection().execute(_OF_JOB, given).one_or_none()
    if found is None:
        return None
    if in_snapshot(session):
        session.info |= {SHOP: found[1:2], BENCHES: found[3:4]}
    return tuple(found)


def _kept(session: Session, name: str, ask: Callable[[], Revision]) -> Revision:
    if not in_snapshot(session):
        return ask()
    if name not in session.info:
        session.info[name] = ask()
    found: Revision = session.info[name]
    return found
