"""A real server process for tests that need one."""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
import urllib.request
from pathlib import Path


class Server:
    """`evtro demo` or `evtro serve` on a free port over a data folder."""

    def __init__(self, folder: Path, command: str = "demo") -> None:
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            self.port = free.getsockname()[1]
        self.url = f"http://127.0.0.1:{self.port}"
        self.process = subprocess.Popen(
            [sys.executable, "-m", "evtro.cli", command, "--port", str(self.port)],
            env={**os.environ, "EVTRO_DATA": str(folder)}, stdout=subprocess.PIPE, text=True,
        )  # fmt: skip
        self._ready()

    def _ready(self) -> None:
        """Two lines are printed before the port is bound; then ask until it answers."""
        assert self.process.stdout is not None
        for _ in range(2):
            assert self.process.stdout.readline(), "the server did not start"
        for _ in range(20_000):
            try:
                with urllib.request.urlopen(f"{self.url}/api/health", timeout=5):
                    return
            except OSError:
                assert self.process.poll() is None, "the server ended"
        raise AssertionError("the server does not answer")

    def kill(self) -> None:
        """SIGKILL: no goodbye."""
        self.process.send_signal(signal.SIGKILL)
        self.process.wait()

    def stop(self) -> None:
        """The polite way."""
        self.process.terminate()
        self.process.wait()
