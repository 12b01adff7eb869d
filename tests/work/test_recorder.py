"""A pull survives the process that records it: another goes on, and no second pull begins by itself."""

import asyncio
import threading
import time
from contextlib import contextmanager
from uuid import UUID

import pytest
from fastapi.testclient import TestClient
from sqlalchemy import text
from sqlalchemy.orm import sessionmaker

from dev.asking import bearer
from elvarn.api.app import create_app
from elvarn.service.kernel.files import FileStore
from elvarn.store.engine import database_url
from elvarn.work import recorder as work
from elvarn.work.recorder import Recorder
from tests.api.dyno.test_recording import begin, connected, ended, goes_off, quick_dyno, waiting
from tests.conftest import ROOT
from tests.loop import serving
from tests.shop import KEY, Shop


@pytest.fixture(scope="module")
def shop(engine, data_folder):
    """A shop whose application records nothing by itself."""
    app = create_app(engine, data_folder / "files", ROOT / "build" / "fonts", KEY)
    return Shop(TestClient(app, base_url="http://127.0.0.1", headers=bearer(KEY)))


@pytest.fixture
def job(shop):
    identifier = shop.job(kind="whole_job", use="hill climb", band_low_rpm=4500, band_high_rpm=6800)
    shop.cut(identifier)
    stock, ported = shop.builds(identifier)
    return identifier, stock["id"], ported["id"]


@contextmanager
def recording(engine, folder):
    """A recorder at work in a loop of its own; it ends as a process does that is killed: nothing more is said."""
    loop = asyncio.new_event_loop()
    thread = threading.Thread(target=loop.run_forever)
    thread.start()
    recorder = Recorder(database_url(engine), sessionmaker(engine), FileStore(folder / "files"))
    at_work = recorder.at_work()
    asyncio.run_coroutine_threadsafe(at_work.__aenter__(), loop).result(5)
    try:
        yield recorder
    finally:
        asyncio.run_coroutine_threadsafe(at_work.__aexit__(None, None, None), loop).result(5)
        loop.call_soon_threadsafe(loop.stop)
        thread.join()
        loop.close()


def samples_of(engine, identifier):
    question = text("select samples from recording_piece where recording_id = :id order by number")
    with engine.connect() as connection:
        return [row for piece in connection.execute(question, {"id": identifier}) for row in piece.samples]


def test_another_process_goes_on(shop, engine, data_folder, job):
    dyno = quick_dyno(times=1.0)
    with serving(dyno) as port:
        identifier, answer = begin(shop, job, connected(shop, port))
        shop.kept(answer)
        with recording(engine, data_folder):
            time.sleep(1.5)
        before = len(samples_of(engine, identifier))
        assert before > 100
        assert waiting(shop, job)[-1]["open"]
        assert dyno.model.pulling, "a server that stops leaves the load on"
        with recording(engine, data_folder):
            assert ended(shop, job)["ended_how"] == "swept"
    samples = samples_of(engine, identifier)
    assert len(dyno.model._pulls) == 1
    assert len(samples) > before
    times = [sample[0] for sample in samples]
    assert times == sorted(set(times)), "no sample twice, and in order"


def test_two_processes_record_it_once(shop, engine, data_folder, job):
    with serving(quick_dyno()) as port, recording(engine, data_folder), recording(engine, data_folder):
        identifier, answer = begin(shop, job, connected(shop, port))
        shop.kept(answer)
        ended(shop, job)
    times = [sample[0] for sample in samples_of(engine, identifier)]
    assert times == sorted(set(times))


def test_no_sample_is_lost_at_two_hundred_a_second(shop, engine, data_folder, job):
    """The model tells its own time: between two samples that were kept none is missing."""
    with serving(quick_dyno(times=1.0)) as port, recording(engine, data_folder):
        identifier, answer = begin(shop, job, connected(shop, port))
        shop.kept(answer)
        ended(shop, job)
    times = [sample[0] for sample in samples_of(engine, identifier)]
    spent = times[-1] - times[0]
    # Where the machine stalls, the model's clock stands, and more samples fall into a second of it: none is lost.
    assert len(times) > 0.95 * 200 * spent


def test_a_pull_left_for_long_is_over_and_the_dyno_is_not_started(shop, engine, data_folder, job, monkeypatch):
    """Elvarn comes back after a power cut: no engine is run up by itself."""
    monkeypatch.setattr(work, "MOST_AWAY_S", 0.2)
    dyno = quick_dyno()
    with serving(dyno) as port:
        identifier, answer = begin(shop, job, connected(shop, port))
        shop.kept(answer)
        time.sleep(0.5)
        with recording(engine, data_folder):
            over = ended(shop, job)
    assert over["id"] == identifier
    assert over["ended_how"] == "away"
    assert "Elvarn was away" in over["ended_words"]
    assert dyno.model._pulls == []


def test_the_stop_waits_for_no_database(shop, engine, data_folder, job, monkeypatch):
    """The database hangs; the load goes off all the same."""
    dyno = quick_dyno(times=0.2)
    hangs = threading.Event()

    def slow(session, identifier, number, samples):
        hangs.wait(5)
        return known(session, identifier, number, samples)

    known = work.recording.add_piece
    with serving(dyno) as port, recording(engine, data_folder) as recorder:
        identifier, answer = begin(shop, job, connected(shop, port))
        shop.kept(answer)
        until = time.monotonic() + 5
        while not samples_of(engine, identifier) and time.monotonic() < until:
            time.sleep(0.05)
        monkeypatch.setattr(work.recording, "add_piece", slow)
        time.sleep(0.3)
        recorder.stop(UUID(identifier))
        assert goes_off(dyno, 2.0)
        hangs.set()
        assert ended(shop, job)["ended_how"] == "stopped"


def test_where_nothing_answers_it_ends_and_says_so(shop, engine, data_folder, job, monkeypatch):
    monkeypatch.setattr(work, "SILENT_S", 0.8)
    with serving(quick_dyno()) as port:
        dyno = connected(shop, port)
    _, answer = begin(shop, job, dyno)
    shop.kept(answer)
    with recording(engine, data_folder):
        over = ended(shop, job)
    assert over["ended_how"] == "silent"
    assert f"nothing came from 127.0.0.1:{port}" in over["ended_words"]
    assert over["file_digest"] is None


def test_what_came_is_seen_from_the_start_by_whoever_looks_late(shop, engine, data_folder, job):
    with serving(quick_dyno()) as port, recording(engine, data_folder):
        identifier, answer = begin(shop, job, connected(shop, port))
        shop.kept(answer)
        ended(shop, job)
    events = shop.client.get(f"/api/recordings/{identifier}/live").text
    assert events.count("data: ") == 1
    assert '"ended":true' in events
    assert '"basis":"SAE J1349, factor' in events
