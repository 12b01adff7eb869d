"""Where a bench's line may lead, and where it may not."""

import asyncio
import os
import socket

import pytest

from elvarn.instruments import reach
from elvarn.instruments.line import HeldLine, Line
from elvarn.instruments.reach import GREETINGS, Unreachable, address_of, check, serial_port
from elvarn.service.bench.live import live_states
from tests.service.bench.test_live import in_loop, until


@pytest.mark.parametrize("device", [
    "/dev/../etc/passwd", "/etc/passwd", "/dev/tty", "/dev/tty1", "/dev/pts/0", "/dev/sda", "/dev/null", "/dev/mem",
    "ttyUSB0", "/dev/ttyUSB", "/dev/ttyUSB0/../../etc/shadow", "/proc/self/fd/0",
])  # fmt: skip
def test_what_is_no_serial_port_is_not_opened(device):
    with pytest.raises(Unreachable, match="is no serial port"):
        serial_port(device)


@pytest.mark.parametrize("device", ["/dev/ttyUSB0", "/dev/ttyACM3", "/dev/ttyS1", "/dev/rfcomm0"])
def test_a_serial_port_may_be_opened(device):
    assert serial_port(device) == device


def test_a_link_is_followed_to_where_it_leads(tmp_path, monkeypatch):
    (tmp_path / "bench").symlink_to("/etc/passwd")
    monkeypatch.setattr(os.path, "realpath", lambda _: os.readlink(tmp_path / "bench"))
    with pytest.raises(Unreachable):
        serial_port("/dev/serial/by-id/bench")


@pytest.mark.parametrize(
    "host", ["127.0.0.1", "192.168.1.20", "10.0.0.7", "172.16.4.4", "169.254.3.2", "::1", "fd00::7"]
)
def test_an_instrument_here_or_in_the_shops_own_network_may_be_asked(host):
    assert address_of(host, 5025) == host


@pytest.mark.parametrize("host", ["8.8.8.8", "0.0.0.0", "::", "2001:4860:4860::8888", "134744072", "0x08080808"])
def test_whoever_is_outside_may_not(host):
    with pytest.raises(Unreachable, match="outside of the shop's own network"):
        address_of(host, 5025)


def test_a_name_is_judged_by_every_number_it_has(monkeypatch):
    found = [(2, 1, 6, "", (address, 5025)) for address in ("192.168.1.20", "8.8.8.8")]
    monkeypatch.setattr(socket, "getaddrinfo", lambda *_, **__: found)
    with pytest.raises(Unreachable, match=r"at 8\.8\.8\.8"):
        address_of("bench.local", 5025)


@pytest.mark.parametrize("greeting", ["EHLO x\n", "*RST\n", "FLUSHALL\r\n", "OUTP ON\nINIT\nSYST:REM\n"])
def test_a_bench_is_greeted_with_what_is_on_the_list(greeting):
    with pytest.raises(Unreachable, match="is none of them"):
        check(Line(greeting=greeting, farewell=""))
    for known in GREETINGS:
        check(Line(greeting=known, farewell=""))


@pytest.mark.parametrize(
    ("line", "path"),
    [
        ({"host": "8.8.8.8"}, "line.host"),
        ({"host": "nobody.invalid"}, "line.host"),
        ({"host": "a" * 300}, "line.host"),
        ({"device": "/dev/../etc/passwd"}, "line.device"),
        ({"greeting": "EHLO x\n"}, "line.greeting"),
    ],
)
def test_a_bench_is_not_kept_with_such_a_line(shop, line, path):
    answer = shop.put("/benches/5f5a0a52-5a0a-4b33-9c7a-3df5d44c9d11", {"name": "Elsewhere", "line": line})
    assert (answer.status_code, answer.json()["path"]) == (422, path)


def test_a_line_that_was_kept_before_is_not_opened_either(monkeypatch):
    asked = []
    monkeypatch.setattr(asyncio, "open_connection", lambda *given, **_: asked.append(given))

    async def run():
        states = live_states(HeldLine(Line(host="8.8.8.8")), "trade")
        return await until(states, lambda state: state.state == "refused")

    assert "the shop's own network" in in_loop(run()).words
    assert asked == []


def test_the_numbers_of_a_scope_are_passed_over(monkeypatch):
    monkeypatch.setattr(reach.socket, "getaddrinfo", lambda *_, **__: [(10, 1, 6, "", ("fe80::1%eth0", 5025, 0, 2))])
    assert address_of("bench", 5025) == "fe80::1%eth0"
