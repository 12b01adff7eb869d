"""Setting up: each step once, again when its sources change, and clear words where it can't."""

from pathlib import Path

import pytest

from elvarn.host import bootstrap


@pytest.fixture
def workshop(tmp_path, monkeypatch):
    monkeypatch.setattr(bootstrap, "ROOT", tmp_path)
    monkeypatch.setattr(bootstrap, "TOOLS", tmp_path / ".tools")
    (tmp_path / "lock").write_text("one")
    return tmp_path


def step(workshop, runs):
    def build():
        runs.append((workshop / "lock").read_text())
        (workshop / "result").write_text("made")

    bootstrap.make("a step", [workshop / "lock"], workshop / "result", build)


def test_a_step_runs_once_and_again_when_its_sources_or_result_changed(workshop):
    runs = []
    for _ in range(2):
        step(workshop, runs)
    (workshop / "lock").write_text("two")
    for _ in range(2):
        step(workshop, runs)
    (workshop / "result").unlink()
    step(workshop, runs)
    assert runs == ["one", "two", "two"]


def test_a_step_that_failed_is_tried_again(workshop):
    def fail():
        raise RuntimeError("no network")

    with pytest.raises(RuntimeError):
        bootstrap.make("a step", [workshop / "lock"], workshop / "result", fail)
    runs = []
    step(workshop, runs)
    assert runs == ["one"]


def test_progress_says_what_and_how_long(workshop, capsys):
    step(workshop, [])
    assert "· a step …" in capsys.readouterr().out


def test_calculations_need_neither_database_nor_browser(monkeypatch):
    monkeypatch.setattr(bootstrap, "VENV_PYTHON", Path("/usr/bin/env"))
    assert list(bootstrap.wanted_packages("calc")) == []
    assert [name for name, _ in bootstrap.wanted_packages("start")] == ["postgresql"]
    assert [name for name, _ in bootstrap.wanted_packages("test")] == [
        "postgresql",
        "chromium",
        "libatomic1",
        "fonts-liberation",
    ]


def test_without_sudo_the_missing_packages_are_named(monkeypatch, capsys):
    monkeypatch.setattr(bootstrap, "wanted_packages", lambda _: [("postgresql", False), ("chromium", True)])
    monkeypatch.setattr(bootstrap.os, "geteuid", lambda: 1000)
    monkeypatch.setattr(bootstrap.shutil, "which", lambda _: None)
    with pytest.raises(SystemExit):
        bootstrap.install_debian_packages("start")
    assert "As root: apt-get install postgresql" in capsys.readouterr().err


def test_the_lock_pins_every_package_with_hashes_and_names_no_host():
    lock = (Path(__file__).parents[2] / "requirements.lock").read_text()
    packages = [line for line in lock.splitlines() if line and not line.startswith((" ", "#"))]
    assert all("==" in line and line.endswith("\\") for line in packages)
    assert "http" not in lock.replace("httpx2", "").replace("httpcore2", "").replace("httptools", "")
