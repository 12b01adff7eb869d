"""What requests are answered with: what is read in one snapshot, kept by its revision and told by a tag; what is
written, with the id of what was kept."""

from collections.abc import Callable, Hashable
from dataclasses import dataclass
from pathlib import Path
from typing import Annotated, Any
from uuid import UUID

from fastapi import Depends, Request, Response
from pydantic_core import to_json
from sqlalchemy.orm import Session

import elvarn
from elvarn.api.depends import resources
from elvarn.store.revision import Revision, job_revision, shop_revision, whole_revision

Make = Callable[[Session], Any]

# A newer program may answer otherwise at the same revision.
_BUILT = max(
    file.stat().st_mtime_ns for file in Path(elvarn.__file__).parent.rglob("*") if file.suffix in (".py", ".csv")
)


@dataclass(frozen=True)
class Kept:
    """The id of what was kept."""

    id: UUID


class Reading:
    """A reading request. Its answer is made anew only where the revision of what it shows is another; a page that has
    it already is told so."""

    def __init__(self, request: Request) -> None:
        self._request = request
        self._resources = resources(request)

    def of_job(self, job_id: UUID, make: Make, *also: Hashable) -> Response:
        """What is shown of a job."""
        return self._answer(lambda session: job_revision(session, job_id), make, also)

    def of_shop(self, make: Make) -> Response:
        """What is shown of people, benches, dynos and settings."""
        return self._answer(shop_revision, make)

    def of_all(self, make: Make, *also: Hashable) -> Response:
        """What is shown of many jobs or parts; `also` is what else it hangs on, as the day."""
        return self._answer(whole_revision, make, also)

    def _answer(
        self, revise: Callable[[Session], Revision | None], make: Make, also: tuple[Hashable, ...] = ()
    ) -> Response:
        url = self._request.url
        with self._resources.snapshots.begin() as session:
            revision = revise(session)
            if revision is None:  # nothing is kept of what is not there: `make` says so
                return _json(to_json(make(session)))
            tag = f'"{"-".join(map(str, (_BUILT, *revision, *also)))}"'
            if self._request.headers.get("if-none-match") == tag:
                return Response(status_code=304, headers={"etag": tag, "cache-control": "no-cache"})
            key = (url.path, url.query, revision, also)
            body = self._resources.answers.get(key, lambda: to_json(make(session)))
        return _json(body, {"etag": tag, "cache-control": "no-cache"})


async def reading(request: Request) -> Reading:
    return Reading(request)


Asked = Annotated[Reading, Depends(reading)]


def _json(body: bytes, headers: dict[str, str] | None = None) -> Response:
    return Response(body, media_type="application/json", headers=headers)
