"""A Redis and workers that tests stop and begin again."""

from __future__ import annotations

import os
import shutil
import signal
import socket
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path


def until(holds: Callable[[], object], what: str, longest_s: float = 45.0) -> None:
    end = time.monotonic() + longest_s
    while not holds():
        assert time.monotonic() < end, f"It never came to this: {what}."
        time.sleep(0.02)


class Redis:
    """A Redis of one's own, that can be stopped and begun again with what it had."""

    def __init__(self, folder: Path) -> None:
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            self.port = free.getsockname()[1]
        self._folder = folder
        self.address = f"redis://127.0.0.1:{self.port}/0"
        self.start()

    def start(self) -> None:
        program = shutil.which("redis-server") or "redis-server"
        where = ["--port", str(self.port), "--bind", "127.0.0.1", "--dir", str(self._folder), "--save", ""]
        self._process = subprocess.Popen(
            [program, *where, "--appendonly", "yes", "--appendfsync", "always"], stdout=subprocess.DEVNULL
        )
        until(self._answers, "a Redis that answers")

    def _answers(self) -> bool:
        try:
            with socket.create_connection(("127.0.0.1", self.port)) as asked:
                asked.sendall(b"PING\r\n")
                # While it reads what it had, it says so instead.
                return asked.recv(64).startswith(b"+PONG")
        except OSError:
            return False

    def stop(self) -> None:
        self._process.send_signal(signal.SIGTERM)
        self._process.wait()


class Elsewhere:
    """Workers as a team starts them."""

    def __init__(self, address: str) -> None:
        command = [sys.executable, "-m", "keen_ripple.cli", "work", "--at-once", "1"]
        environment = {**os.environ, "KEEN_RIPPLE_QUEUE": address}
        self._process = subprocess.Popen(command, env=environment, stdout=subprocess.PIPE, text=True)
        assert self._process.stdout is not None
        assert self._process.stdout.readline().startswith(f"Works on {address}")

    def stop(self, how: signal.Signals = signal.SIGTERM) -> None:
        self._process.send_signal(how)
        self._process.wait()
