"""What the shop's nouns are asked alike: a name, and what an instrument repeats within."""

from elvarn.service.kernel.errors import Invalid


def named(name: str) -> str:
    if not name.strip():
        raise Invalid("The name is empty. Type one.", path="name")
    return name.strip()


def check_percent(value: float | None, path: str, what: str = "repeatability") -> None:
    if value is not None and not 0 < value <= 20:
        raise Invalid(f"{value:g} % can't be a {what}. Enter above 0 and at most 20, or leave it empty.", path=path)
