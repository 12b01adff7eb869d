"""What the made-up shop has on hand and on order."""

from uuid import UUID

from elvarn.demo import hill_climb_five, kit_car_triple
from elvarn.demo import shop as demo
from elvarn.service.shelf import wanting
from elvarn.store.models import Part, WantState

ON_HAND = {("Norrvik", "Tube 76"): 2, ("Halvex", "Open filter 100"): 1}


def make(sessions: demo.Sessions, shop: demo.DemoShop) -> None:
    """Two parts that lie there, one that is ordered, two that are to be."""
    for words, number in ON_HAND.items():
        with sessions.begin() as session:
            part = session.get(Part, demo.named("shelf", *words))
            assert part is not None
            part.on_hand = number
    wanted = (
        (("Halvex", "Meter 82"), hill_climb_five.JOB, 1),
        (("Norrvik", "Tube 76"), kit_car_triple.JOB, 1),
        (("Halvex", "Open filter 100"), kit_car_triple.JOB, 1),
        (("Halvex", "Open filter 100"), None, 2),
        (("Halvex", "Throttle 70"), kit_car_triple.JOB, 1),
    )
    for number, (words, job, count) in enumerate(wanted):
        _want(sessions, shop, demo.named("want", number), demo.named("shelf", *words), job, count)
    with sessions.begin() as session:
        wanting.take_step(session, demo.named("want", 0), wanting.WantStep(1, WantState.ORDERED), demo.in_days(-2))


def _want(
    sessions: demo.Sessions, shop: demo.DemoShop, identifier: UUID, part: UUID, job: UUID | None, count: int
) -> None:
    with sessions.begin() as session:
        wanting.want(session, identifier, wanting.NewWant(shop.tove, part, job, count))
