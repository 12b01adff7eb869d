"""What a use case can refuse or ask. The API turns these into problem details."""

from dataclasses import asdict, dataclass, field
from typing import Any


class ServiceError(Exception):
    """A refusal with a stable code, the field it concerns and what to do."""

    code = "refused"

    def __init__(self, message: str, *, path: str | None = None) -> None:
        super().__init__(message)
        self.path = path


class NotFound(ServiceError):
    code = "not_found"


class Invalid(ServiceError):
    code = "invalid"


class IdReused(ServiceError):
    """The same id came with other content."""

    code = "id_reused"


class Stale(ServiceError):
    """An edit was made on an old version: both are told."""

    code = "stale"

    def __init__(self, what: str, current: dict[str, Any], yours: dict[str, Any]) -> None:
        super().__init__(f"Someone else changed this {what}. Choose which version to keep.")
        self.current = current
        self.yours = yours


@dataclass(frozen=True)
class Offer:
    """A way on: what the button says, and what to change in the request."""

    label: str
    patch: dict[str, Any] = field(default_factory=dict)


class Question(ServiceError):
    """Something to be asked before it is kept; the request can be sent again with one of the offers."""

    def __init__(self, code: str, message: str, offers: list[Offer], *, path: str | None = None) -> None:
        super().__init__(message, path=path)
        self.code = code
        self.offers = offers

    def offers_as_dicts(self) -> list[dict[str, Any]]:
        return [asdict(offer) for offer in self.offers]
