"""A real server process for tests that need one."""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
from pathlib import Path


class Server:
    """`evtro demo` or `evtro serve` on a free port over a data folder; ready when it says so.

    `more` are further arguments. One that is open to the network says with its last line how a phone knows it:
    then `url` is HTTPS, and `said` holds what it printed."""

    def __init__(self, folder: Path, command: str = "demo", *more: str) -> None:
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            self.port = free.getsockname()[1]
        self.folder, self.call = folder, (command, *more)
        open_to_others = "--host" in more
        self.url = f"{'https' if open_to_others else 'http'}://127.0.0.1:{self.port}"
        self.last = "fingerprint" if open_to_others else "Open "
        self.start()

    def start(self) -> None:
        """Start the process and wait for its line of readiness, which comes once the port is bound."""
        command, *more = self.call
        self.process = subprocess.Popen(
            [sys.executable, "-m", "evtro.cli", command, "--port", str(self.port), *more],
            env={**os.environ, "EVTRO_DATA": str(self.folder)}, stdout=subprocess.PIPE, text=True,
        )  # fmt: skip
        assert self.process.stdout is not None
        self.said = ""
        for line in self.process.stdout:
            self.said += line
            if self.last in line:
                if self.last == "fingerprint":
                    self.said += self.process.stdout.readline()
                return
        raise AssertionError(f"the server did not start: {self.said}")

    def kill(self) -> None:
        """SIGKILL: no goodbye."""
        self.process.send_signal(signal.SIGKILL)
        self.process.wait()

    def stop(self) -> None:
        """The polite way."""
        self.process.terminate()
        self.process.wait()
