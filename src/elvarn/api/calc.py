"""The calculations by name."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Annotated, Any

from fastapi import APIRouter, Body

from elvarn.service.calc import CALCULATIONS, Calculation

router = APIRouter(prefix="/api/calc", tags=["calc"])


@dataclass(frozen=True)
class CalculationView:
    """A calculation as it is listed: what it takes and gives, by the names of the fields, with their units."""

    name: str
    answers: str
    example: dict[str, Any]
    gives: list[str]
    formula: str
    source: str


@router.get("")
def calculations() -> list[CalculationView]:
    return [
        CalculationView(c.name, c.answers, c.example, list(c.result.model_fields), c.formula, c.source)
        for c in CALCULATIONS.values()
    ]


def _endpoint(calculation: Calculation) -> Callable[..., Any]:
    example = {"example": {"value": calculation.example}}

    def calculate(given: Any) -> Any:
        return calculation.function(given)

    calculate.__annotations__ = {
        "given": Annotated[calculation.given, Body(openapi_examples=example)],  # type: ignore[arg-type]
        "return": calculation.result,
    }
    return calculate


for _calculation in CALCULATIONS.values():
    router.add_api_route(
        f"/{_calculation.name}",
        _endpoint(_calculation),
        methods=["POST"],
        response_model=_calculation.result,
        summary=_calculation.answers,
        operation_id=_calculation.name,
    )
