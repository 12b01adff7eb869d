"""One Elvarn a data folder: two servers on one would fight over the database."""

import fcntl
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path


class TakenError(RuntimeError):
    """Elvarn runs on this folder already; the message says where."""


@contextmanager
def alone(data: Path) -> Iterator[Callable[[str], None]]:
    """Hold the data folder for as long as this lasts; what comes back says in it where. Raises TakenError."""
    with (data / "lock").open("a+") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            lock.seek(0)
            at = lock.read().strip()
            raise TakenError(
                f"Elvarn already runs on {data}, at {at}. Stop it first, or choose another --data."
            ) from None

        def say(where: str) -> None:
            lock.truncate(0)
            lock.write(where)
            lock.flush()

        yield say
