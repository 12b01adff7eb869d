"""The line to a bench: it is taken up, breaks, comes back; garbage and silence are told; nothing raises."""

import asyncio
import contextlib
import os
import tty

import numpy as np
import pytest

from elvarn.instruments import line as lines
from elvarn.instruments import reach
from elvarn.instruments.line import HeldLine, HeldLines, Line, flow_pattern, read_line
from elvarn.rigs.bench_model import FlowBenchModel
from elvarn.rigs.flow_bench import DEMO_PART, FlowBench
from elvarn.rigs.serving import RigServer
from elvarn.service.bench.live import live_states
from tests.loop import run as in_loop


@pytest.fixture(autouse=True)
def quick(monkeypatch):
    monkeypatch.setattr(lines, "AGAIN_S", 0.05)
    monkeypatch.setattr(lines, "SILENT_S", 0.3)


def warm_bench():
    """A bench whose clock runs a twentieth of a second a sample, a minute after it was switched on."""
    seconds = iter(np.arange(60.0, 1e6, 0.05))
    model = FlowBenchModel(DEMO_PART, lambda: float(next(seconds)), np.random.default_rng(9))
    bench = FlowBench(model)
    bench.instrument.run("OUTP ON;SAMP:RATE 200")
    for _ in range(400):
        model.sample()
    return bench


async def until(states, wanted, most=400):
    """The first state that is wanted."""
    async for state in states:
        if wanted(state):
            return state
        most -= 1
        if not most:
            raise AssertionError(f"last was {state.state}: {state.words}")
    raise AssertionError("the line ended")


async def closed(states):
    await states.aclose()


def test_samples_come_and_the_mean_of_the_last_ten_is_the_figure():
    async def run():
        server = RigServer(warm_bench())
        states = live_states(HeldLine(Line(port=await server.start(0))), "trade")
        found = await until(states, lambda state: state.count == 10 and state.taken.settled)
        await closed(states)
        await server.stop()
        return found

    found = in_loop(run())
    taken = found.taken
    assert len(taken.samples_cfm) == 10
    assert 25 < taken.depression_inh2o < 28
    converted = np.mean(taken.samples_cfm) * (28 / taken.depression_inh2o) ** 0.5
    assert found.mean.value == pytest.approx(converted, rel=1e-3)
    assert found.mean.unit == "CFM"


def test_a_line_that_breaks_is_told_and_taken_up_again():
    async def run():
        bench = warm_bench()
        server = RigServer(bench)
        port = await server.start(0)
        states = live_states(HeldLine(Line(port=port)), "trade")
        first = await until(states, lambda state: state.new)
        await server.stop()
        gone = await until(states, lambda state: state.state == "gone")
        again = RigServer(bench)
        await again.start(port)
        back = await until(states, lambda state: state.state == "speaking" and state.new)
        await closed(states)
        await again.stop()
        return first, gone, back

    first, gone, back = in_loop(run())
    assert "retrying" in gone.words
    assert back.new[0].number > first.new[-1].number


@contextlib.asynccontextmanager
async def speaking(lines, pause=0.01):
    """The port of a bench that says these lines again and again, in its own rhythm."""
    talks = set()

    async def serve(reader, writer):
        talks.add(asyncio.current_task())
        try:
            while True:
                for line in lines:
                    writer.write(line)
                    await writer.drain()
                    await asyncio.sleep(pause)
                if not lines:
                    await asyncio.sleep(pause)
        except (ConnectionError, asyncio.CancelledError):
            pass
        finally:
            writer.close()
            with contextlib.suppress(OSError):
                await writer.wait_closed()

    server = await asyncio.start_server(serve, "127.0.0.1", 0)
    try:
        yield server.sockets[0].getsockname()[1]
    finally:
        server.close()
        for talk in talks:
            talk.cancel()
        await asyncio.gather(*talks)


async def tenth(line):
    """What is told of a line once ten samples are in."""
    states = live_states(HeldLine(line), "trade")
    found = await until(states, lambda state: state.count == 10)
    await closed(states)
    return found


@pytest.mark.parametrize(
    ("lines", "state", "says"),
    [([], "silent", "sending nothing"), ([b"\xff\xfe###\n"], "garbage", "doesn't match the line format")],
)
def test_silence_and_garbage_are_told(lines, state, says):
    async def run():
        async with speaking(lines) as port:
            states = live_states(HeldLine(Line(port=port, greeting="", farewell="")), "trade")
            found = await until(states, lambda one: one.state == state)
            await closed(states)
        return found

    assert says in in_loop(run()).words


def test_garbage_between_good_lines_loses_only_itself():
    async def run():
        async with speaking([b"F=201.5;28.0\n", b"F=2#1.5;28\n", b"F=202.5;28.0\n"]) as port:
            return await tenth(Line(port=port, pattern="F={flow};{depression}", greeting="", farewell=""))

    assert in_loop(run()).mean.value == pytest.approx(202.0)


def test_without_a_bench_the_way_on_is_said():
    async def run():
        states = live_states(HeldLine(Line(port=1)), "trade")
        found = await until(states, lambda state: state.state == "gone")
        await closed(states)
        return found

    assert "No bench at 127.0.0.1:1" in in_loop(run()).words


@pytest.mark.parametrize(
    ("pattern", "line", "flow", "depression"),
    [
        ("DATA {flow},{depression},{temperature},{range}", "DATA 201.3,27.9,21.0,40", 201.3, 27.9),
        ("{depression}\t{flow}", " 25.0 \t 190 ", 190.0, 25.0),
        ("Flow: {flow} CFM", "Flow: 188.4 CFM", 188.4, 28.0),
    ],
)
def test_a_pattern_reads_its_line(pattern, line, flow, depression):
    sample = read_line(flow_pattern(pattern), line, 1)
    assert (sample.flow_cfm, sample.depression_inh2o) == (flow, depression)
    assert read_line(flow_pattern(pattern), "nonsense", 1) is None


@pytest.mark.parametrize("pattern", ["{depression}", "{flow} {colour}", "{flow} {flow}", ""])
def test_a_pattern_without_a_flow_is_refused(pattern):
    with pytest.raises(ValueError, match=r"flow|colour"):
        flow_pattern(pattern)


def test_a_changed_line_is_taken_up_anew():
    benches, bench_id = HeldLines(), "one"
    first = benches.held(bench_id, Line(port=1))
    assert benches.held(bench_id, Line(port=1)) is first
    assert benches.held(bench_id, Line(port=2)) is not first


def test_a_serial_line_is_read_like_any_other(monkeypatch):
    """A pseudo-terminal stands for the wire: what is written at one end is read at the other."""
    ours, theirs = os.openpty()
    tty.setraw(ours)
    monkeypatch.setattr(reach, "SERIAL", r"/dev/pts/\d+")

    async def run():
        async def speak():
            while True:
                os.write(ours, b"F 201.5 P 27.9\n")
                await asyncio.sleep(0.01)

        speaker = asyncio.create_task(speak())
        line = Line(device=os.ttyname(theirs), pattern="F {flow} P {depression}", greeting="go\n", farewell="")
        found = await tenth(line)
        speaker.cancel()
        return found

    found = in_loop(run())
    assert found.taken.depression_inh2o == pytest.approx(27.9)
    assert os.read(ours, 3) == b"go\n"
    os.close(ours)
    os.close(theirs)


def test_a_serial_line_that_is_not_there_is_told():
    async def run():
        states = live_states(HeldLine(Line(device="/dev/ttyUSB97")), "trade")
        found = await until(states, lambda state: state.state == "gone")
        await closed(states)
        return found

    assert "/dev/ttyUSB97" in in_loop(run()).words


def test_at_rest_there_is_no_figure_and_yet_a_zero_to_take():
    async def run():
        async with speaking([b"0.02;0.0\n", b"0.00;0.0\n", b"-0.01;0.0\n"]) as port:
            return await tenth(Line(port=port, pattern="{flow};{depression}", greeting="", farewell=""))

    found = in_loop(run())
    assert found.mean is None
    assert np.mean(found.taken.samples_cfm) == pytest.approx(0.0, abs=0.02)
