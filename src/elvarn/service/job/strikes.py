"""Strike-outs: a reading stays, and counts no more."""

from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.given import Moment, given
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.find import find
from elvarn.store.models import Reading, Strike


@given
class NewStrike:
    person_id: UUID
    reason: str
    struck_at: Moment


def strike_out(session: Session, reading_id: UUID, new: NewStrike) -> Strike:
    """Strike a reading out, with a reason. It stays, and counts no more. Struck twice, the first reason stands."""
    reading = find(session, Reading, reading_id, "reading")
    if not new.reason.strip():
        raise Invalid("Give a reason in a few words.", path="reason")
    if reading.strike is not None:
        return reading.strike
    reading.strike = Strike(
        reading_id=reading_id, person_id=new.person_id, reason=new.reason.strip(), struck_at=new.struck_at
    )
    session.flush()
    return reading.strike
