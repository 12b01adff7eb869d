"""Where an instrument's line may lead: to a serial port, or to one on this machine or in the shop's own network; and
what may be said there. Whoever sets one up gets no way to anything else on the machine or beyond it."""

import ipaddress
import os
import re
import socket
from collections.abc import Sequence
from typing import Protocol

GREETINGS = ("OUTP ON\nINIT\n", "")  # to an instrument that speaks SCPI, and to one that speaks by itself
JOINED = "INIT\n"  # to one that runs already: it streams, and nothing begins anew
FAREWELLS = ("ABOR\n", "")
LOAD_OFF = ("ABOR\nOUTP OFF\n", "")  # to a dyno: the load goes off with it
SERIAL = r"/dev/(tty(USB|ACM|AMA|S|O|XRUSB)\d+|rfcomm\d+)"  # what a serial line is called, once every link is followed


class Address(Protocol):
    """Where an instrument answers, and what starts and ends it there."""

    @property
    def host(self) -> str: ...
    @property
    def port(self) -> int: ...
    @property
    def device(self) -> str: ...
    @property
    def baud(self) -> int: ...
    @property
    def greeting(self) -> str: ...
    @property
    def farewell(self) -> str: ...


class Unreachable(ValueError):
    """A line that Elvarn does not open; the message says which part of it, and why."""

    def __init__(self, path: str, message: str) -> None:
        super().__init__(message)
        self.path = path


def serial_port(device: str) -> str:
    """The port that a device's name leads to. Raises Unreachable for whatever is no serial port."""
    found = os.path.realpath(device)
    if not device.startswith("/dev/") or not re.fullmatch(SERIAL, found):
        raise Unreachable("line.device", f"'{device}' is no serial port. Name one as /dev/ttyUSB0.")
    return found


def address_of(host: str, port: int) -> str:
    """The number of the machine at which an instrument answers. Raises Unreachable for one that is not here nor in the
    shop's own network, and OSError for a name that nobody knows just now."""
    found = {str(one[4][0]) for one in socket.getaddrinfo(host, port, type=socket.SOCK_STREAM)}
    outside = [address for address in found if not _is_ours(address)]
    if outside:
        text = f"{host} is at {outside[0]}, outside of the shop's own network. An instrument answers here or in it."
        raise Unreachable("line.host", text)
    return min(found)


def check(line: Address, farewells: Sequence[str] = FAREWELLS) -> None:
    """Refuse a line that would not be opened. Raises Unreachable."""
    if line.greeting not in GREETINGS or line.farewell not in farewells:
        known = ", ".join(repr(one) for one in GREETINGS)
        text = f"An instrument is greeted with one of {known}, and left with its like; this is none of them."
        raise Unreachable("line.greeting", text)
    if line.device:
        serial_port(line.device)
        return
    try:
        address_of(line.host, line.port)
    except (OSError, UnicodeError) as error:
        raise Unreachable("line.host", f"Nobody knows '{line.host}' here. Type its number.") from error


def _is_ours(address: str) -> bool:
    found = ipaddress.ip_address(address.split("%", maxsplit=1)[0])
    return found.is_loopback or (found.is_private and not found.is_unspecified)
