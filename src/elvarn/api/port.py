"""Port work: states after a cut."""

from uuid import UUID

from fastapi import APIRouter

from elvarn.api.answers import Kept
from elvarn.api.depends import Sessions
from elvarn.api.strict import StrictRoute
from elvarn.service.port import cut

router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["port"])


@router.put("/states/{state_id}")
def cut_part(state_id: UUID, new: cut.NewState, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(cut.cut_part(session, state_id, new).id)
