"""When a part can be here: by its lead time, or by its maker's next run and the places in it."""

from dataclasses import dataclass
from datetime import date

from elvarn.core.path.conflict import Conflict, Remedy, Severity
from elvarn.service.record.features import PartFeatures, read
from elvarn.service.record.specs import Had
from elvarn.store.models import Part


@dataclass(frozen=True)
class Lead:
    """Days until a part can be here, None where nobody knows; of one that is made in runs the day of the next one, the
    places in it, and how many of those we have ordered."""

    days: int | None
    run_on: date | None = None
    places: int | None = None
    taken: int = 0
    past: bool = False

    @property
    def full(self) -> bool:
        return self.places is not None and self.taken >= self.places

    def said(self) -> Conflict | None:
        """What the run says to somebody who would order one; nothing where there is none."""
        if self.run_on is None:
            return None
        day = f"{self.run_on:%d %b %Y}"
        ask = Remedy("Ask the maker for the next run")
        if self.past:
            return Conflict("run_past", Severity.SOFT, f"Its run of {day} is past.", ask)
        if self.full:
            text = f"The run of {day} is full: {self.places} places, {self.taken} ordered."
            return Conflict("run_full", Severity.SOFT, text, ask)
        left = (
            "places not stated" if self.places is None else f"{self.places - self.taken} of {self.places} places left"
        )
        return Conflict("run", Severity.INFORMATION, f"Next run on {day}: {left}.", Remedy("Order before it"))


def lead_of(part: Part, ordered: int, today: date) -> Lead:
    """When a part can be here if it is ordered today. Of one that is made in runs the next run's day counts, not its
    lead time; a run that is past, or whose places we have ordered, says nothing."""
    features = read(PartFeatures, part.features)
    if features.had is not Had.RUN or features.next_run_on is None:
        return Lead(part.lead_days)
    lead = Lead(
        (features.next_run_on - today).days, features.next_run_on, features.run_places, ordered,
        features.next_run_on < today,
    )  # fmt: skip
    return Lead(None, lead.run_on, lead.places, ordered, lead.past) if lead.past or lead.full else lead
