"""Setting up: each step once, again when its sources change, and clear words where it can't."""

import shutil
import subprocess
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


def test_what_other_programs_say_goes_to_a_log_that_is_named_where_one_fails(workshop, monkeypatch, capfd):
    monkeypatch.setattr(bootstrap, "LOG", workshop / "setup.log")
    monkeypatch.setattr(bootstrap, "VENV_PYTHON", Path("/nowhere"))
    noisy = "echo a notice; echo the reason >&2; exit 3"
    monkeypatch.setattr(bootstrap, "prepare", lambda _: bootstrap.run(["sh", "-c", noisy]))
    with pytest.raises(SystemExit):
        bootstrap.main(["start"])
    told = capfd.readouterr()
    assert told.out == ""
    assert "  the reason" in told.err
    assert f"ended with 3. All that was said is in {workshop / 'setup.log'}" in told.err
    assert "a notice\nthe reason" in (workshop / "setup.log").read_text()


def test_before_anything_is_installed_the_doctor_can_be_asked(tmp_path):
    """With the machine's own Python, from a folder where nothing was made."""
    root = tmp_path / "elvarn"
    shutil.copytree(Path(__file__).parents[2] / "src", root / "src", ignore=shutil.ignore_patterns("__pycache__"))
    shutil.copy(Path(__file__).parents[2] / "elvarn", root / "elvarn")
    for name in (
        "requirements.lock",
        "web/package-lock.json",
        "web/index.html",
        "web/vite.config.ts",
        "web/tsconfig.json",
    ):
        (root / name).parent.mkdir(exist_ok=True)
        (root / name).write_text("")
    command = ["/usr/bin/python3", str(root / "elvarn"), "doctor", "--data", str(tmp_path / "data")]
    done = subprocess.run(command, capture_output=True, text=True, check=False, env={"PATH": "/usr/bin:/bin"})
    assert (done.returncode, done.stderr) == (0, "")
    assert "not made yet, or older than their sources: Python environment" in done.stdout
    assert "the first start makes it" in done.stdout
    assert not (root / ".venv").exists()


def test_who_may_not_write_here_is_told_whose_it_is(workshop, monkeypatch, capsys):
    def refused(command):
        raise PermissionError(13, "Permission denied", str(workshop / ".tools" / "setup.log"))

    monkeypatch.setattr(bootstrap, "prepare", refused)
    with pytest.raises(SystemExit):
        bootstrap._prepare_or_fail("start")
    said = capsys.readouterr().err
    assert f"may not write {workshop}/.tools/setup.log. {workshop} is {workshop.owner()}'s: set it up once as" in said
