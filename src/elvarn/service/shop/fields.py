"""What the shop's nouns are asked alike: a name, and what an instrument repeats within."""

from collections.abc import Sequence

from elvarn.instruments import reach
from elvarn.instruments.reach import Address
from elvarn.service.kernel.errors import Invalid


def named(name: str) -> str:
    if not name.strip():
        raise Invalid("The name is empty. Type one.", path="name")
    return name.strip()


def check_percent(value: float | None, path: str, what: str = "repeatability") -> None:
    if value is not None and not 0 < value <= 20:
        raise Invalid(f"{value:g} % can't be a {what}. Enter above 0 and at most 20, or leave it empty.", path=path)


def check_address(line: Address, farewells: Sequence[str]) -> None:
    """Refuse an instrument's address that would not be opened. Raises Invalid."""
    if not 1 <= line.port <= 65535:
        raise Invalid(f"There is no port {line.port}. Enter 1 to 65535.", path="line.port")
    if not line.host.strip():
        raise Invalid("The instrument's address is empty. Type its name or number.", path="line.host")
    try:
        reach.check(line, farewells)
    except reach.Unreachable as error:
        raise Invalid(str(error), path=error.path) from error
