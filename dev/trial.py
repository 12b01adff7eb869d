"""A whole Elvarn on a folder of its own, for tests and measurements."""

import os
import re
import signal
import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from dev.asking import Address

START_SECONDS = 120  # a loaded machine takes a while for the made-up shop


class TrialServer:
    """`./elvarn start` as a process, on this data folder; it can be killed and started again."""

    def __init__(self, root: Path, data: Path, *options: str) -> None:
        self.root = root
        self.data = data
        self.options = options
        self.process: subprocess.Popen[str] | None = None
        self.url = Address("", "")

    def start(self) -> Address:
        """Start it and wait for its address."""
        command = [sys.executable, "-m", "elvarn", "start", "--data", str(self.data), "--port", "0"]
        environment = {**os.environ, "PYTHONPATH": str(self.root / "src"), "ELVARN_ROOT": str(self.root)}
        self.process = subprocess.Popen(
            [*command, *self.options], env=environment, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True
        )
        self.url = self._wait_for_address()
        return self.url

    def stop(self, number: signal.Signals = signal.SIGTERM) -> int:
        """Send a signal and wait for the end. Returns the exit code."""
        assert self.process is not None
        self.process.send_signal(number)
        code = self.process.wait(START_SECONDS)
        assert self.process.stdout is not None
        self.process.stdout.close()
        return code

    def _wait_for_address(self) -> Address:
        assert self.process is not None
        assert self.process.stdout is not None
        said = []
        deadline = time.monotonic() + START_SECONDS
        for line in self.process.stdout:
            said.append(line)
            found = re.search(r"Elvarn is at (http://\S+)/\?key=(\S+)", line)
            if found:
                return Address(found[1], found[2])
            if time.monotonic() > deadline:
                break
        self.process.kill()
        self.process.wait()
        self.process.stdout.close()
        raise RuntimeError("Elvarn did not start:\n" + "".join(said))


@contextmanager
def running(root: Path, data: Path, *options: str) -> Iterator[Address]:
    """The address of an Elvarn that runs on this folder, and is stopped afterwards."""
    server = TrialServer(root, data, *options)
    try:
        yield server.start()
    finally:
        if server.process is not None and server.process.poll() is None:
            server.stop()
