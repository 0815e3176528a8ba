"""A real server process for tests that need one."""

from __future__ import annotations

import multiprocessing
import os
import signal
import socket
import subprocess
import sys
from collections.abc import Callable
from contextlib import suppress
from itertools import count
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any, TextIO

# Python's own fork server, with the program loaded: its child is a process like one that was started from the
# shell, without the seconds that its imports take.
_LOADED = multiprocessing.get_context("forkserver")
_LOADED.set_forkserver_preload(["tests.loaded"])


# Below what the system gives to outgoing connections, which could take a port before its server does; of
# each worker of a run a block of its own.
_FIRST_PORT, _BLOCK = 12_000, 1_600
_next_port = count(os.getpid())


def free_port() -> int:
    """A port of this machine that nobody uses just now, and no other worker will ask for."""
    worker = int(os.environ.get("PYTEST_XDIST_WORKER", "gw0")[2:]) % 12
    for n in _next_port:
        port = _FIRST_PORT + worker * _BLOCK + n % _BLOCK
        with socket.socket() as free, suppress(OSError):
            free.bind(("0.0.0.0", port))
            return port
    raise AssertionError("unreachable")


def forked(run: Callable[..., None], *arguments: Any) -> tuple[Any, TextIO]:
    """A process that runs a function of a module, and what it prints."""
    reads, writes = _LOADED.Pipe(duplex=False)
    process = _LOADED.Process(target=_printing, args=(writes, run, *arguments), daemon=True)
    process.start()
    writes.close()
    return process, os.fdopen(os.dup(reads.fileno()))


def _printing(into: Connection, run: Callable[..., None], *arguments: Any) -> None:
    os.dup2(into.fileno(), sys.stdout.fileno())
    into.close()
    run(*arguments)


def forked_script(text: str, *arguments: str) -> tuple[Any, TextIO]:
    """A process that runs a script, as `python -c` would."""
    return forked(_script, text, arguments)


def _script(text: str, arguments: tuple[str, ...]) -> None:
    sys.argv = ["-c", *arguments]
    exec(compile(text, "-c", "exec"), {"__name__": "__main__"})


def _program(folder: str, arguments: list[str]) -> None:
    from evtro.cli import main

    os.environ["EVTRO_DATA"] = folder
    raise SystemExit(main(arguments))


class Server:
    """`evtro demo` or `evtro serve` on a free port over a data folder; ready when it says so.

    `more` are further arguments. One that is open to the network says with its last line how a phone knows it:
    then `url` is HTTPS, and `said` holds what it printed."""

    def __init__(self, folder: Path, command: str = "demo", *more: str) -> None:
        self.port = free_port()
        self.folder, self.call = folder, (command, *more)
        open_to_others = "--host" in more
        self.url = f"{'https' if open_to_others else 'http'}://127.0.0.1:{self.port}"
        self.last = "fingerprint" if open_to_others else "Open "
        self.start()

    def start(self) -> None:
        """Start the process and wait for its line of readiness, which comes once the port is bound."""
        command, *more = self.call
        self.process, out = self._begin([command, "--port", str(self.port), *more])
        self.said = ""
        for line in out:
            self.said += line
            if self.last in line:
                if self.last == "fingerprint":
                    self.said += out.readline()
                return
        raise AssertionError(f"the server did not start: {self.said}")

    def _begin(self, arguments: list[str]) -> tuple[Any, TextIO]:
        return forked(_program, str(self.folder), arguments)

    def end(self, how: int) -> None:
        """Send it a signal and wait until it is gone."""
        with suppress(ProcessLookupError):
            os.kill(self.process.pid, how)
        wait = getattr(self.process, "wait", None) or self.process.join
        wait()

    def kill(self) -> None:
        """SIGKILL: no goodbye."""
        self.end(signal.SIGKILL)

    def stop(self) -> None:
        """The polite way."""
        self.end(signal.SIGTERM)


class Program(Server):
    """The same as the shell starts it: a new interpreter."""

    def _begin(self, arguments: list[str]) -> tuple[Any, TextIO]:
        process = subprocess.Popen(
            [sys.executable, "-m", "evtro.cli", *arguments],
            env={**os.environ, "EVTRO_DATA": str(self.folder)},
            stdout=subprocess.PIPE,
            text=True,
        )
        assert process.stdout is not None
        return process, process.stdout
