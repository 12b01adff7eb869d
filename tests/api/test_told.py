"""One stream for all who listen to the same."""

import asyncio
from contextlib import aclosing

from elvarn.api.told import MOST_WAITING, Told
from tests.loop import run as in_loop

LATEST = b"%d" % (3 * MOST_WAITING - 1)


class Stream:
    """Numbers as they are sent; how often it was begun and ended."""

    def __init__(self):
        self.begun = self.ended = 0
        self.source = asyncio.Queue()

    async def pieces(self):
        self.begun += 1
        try:
            while (piece := await self.source.get()) is not None:
                yield piece
        finally:
            self.ended += 1


async def first(told, stream, count):
    async with aclosing(told.of("bench", stream.pieces)) as pieces:
        return [await anext(pieces) for _ in range(count)]


def test_a_stream_is_worked_out_once_for_all_and_ends_with_the_last():
    async def run():
        told, stream = Told(), Stream()
        listeners = [asyncio.create_task(first(told, stream, 3)) for _ in range(50)]
        await asyncio.sleep(0)
        for piece in (b"1", b"2", b"3"):
            stream.source.put_nowait(piece)
        assert await asyncio.gather(*listeners) == [[b"1", b"2", b"3"]] * 50
        return stream, told

    stream, _ = in_loop(run())
    assert (stream.begun, stream.ended) == (1, 1)


def test_it_begins_anew_for_whoever_comes_after():
    async def run():
        told, stream = Told(), Stream()
        for _ in range(2):
            listener = asyncio.create_task(first(told, stream, 1))
            await asyncio.sleep(0)
            stream.source.put_nowait(b"1")
            assert await listener == [b"1"]
        return stream

    stream = in_loop(run())
    assert (stream.begun, stream.ended) == (2, 2)


def test_where_it_ends_it_ends_for_all():
    async def run():
        told, stream = Told(), Stream()

        async def every():
            return [piece async for piece in told.of("bench", stream.pieces)]

        listeners = [asyncio.create_task(every()) for _ in range(3)]
        await asyncio.sleep(0)
        stream.source.put_nowait(b"1")
        stream.source.put_nowait(None)
        return await asyncio.gather(*listeners)

    assert in_loop(run()) == [[b"1"]] * 3


def test_who_does_not_listen_gets_the_latest_and_holds_nobody_up():
    async def run():
        told, stream = Told(), Stream()
        async with aclosing(told.of("bench", stream.pieces)) as lazy:
            begun = asyncio.create_task(anext(lazy))
            await asyncio.sleep(0)
            for number in range(3 * MOST_WAITING):
                stream.source.put_nowait(b"%d" % number)
            got = [await begun]
            while not stream.source.empty():
                await asyncio.sleep(0)
            await asyncio.sleep(0)
            while got[-1] != LATEST:
                got.append(await anext(lazy))
            return got

    got = in_loop(run())
    assert len(got) <= MOST_WAITING + 1
    assert [int(piece) for piece in got] == sorted(int(piece) for piece in got)
