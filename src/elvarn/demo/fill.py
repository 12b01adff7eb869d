"""Fill an empty database with the made-up shop. The same at every first start."""

from sqlalchemy import Engine, select
from sqlalchemy.orm import sessionmaker

from elvarn.demo import boat_six, earlier_five, hill_climb_five, kit_car_triple, orders, shelf
from elvarn.demo.shop import make_shop
from elvarn.service.kernel.files import FileStore
from elvarn.store.models import Job, Person


def fill_empty(engine: Engine, files: FileStore) -> bool:
    """Fill the database unless it holds people or jobs already. Returns whether it was filled."""
    sessions = sessionmaker(engine)
    with sessions.begin() as session:
        if session.scalar(select(Person.id).limit(1)) or session.scalar(select(Job.id).limit(1)):
            return False
    shop = make_shop(sessions)
    shelf.make(sessions, shop)
    earlier_five.make(sessions, shop)
    hill_climb_five.make(sessions, files, shop)
    boat_six.make(sessions, shop)
    kit_car_triple.make(sessions, shop)
    orders.make(sessions, shop)
    return True
