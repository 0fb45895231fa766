"""A process that makes one thing after another, and can be ended in the middle of one."""

from __future__ import annotations

import multiprocessing
import os
import signal
import threading
import traceback
from contextlib import suppress
from multiprocessing.connection import Connection
from multiprocessing.process import BaseProcess
from typing import Any

from keen_ripple.core.errors import Fault
from keen_ripple.handoff.format import Files
from keen_ripple.jobs.job import told

NICENESS = 12
# Begun afresh: a process that is copied while threads run may keep their locks for ever.
AFRESH = multiprocessing.get_context("spawn")

Message = tuple[str, Any]
"""("share", 0 to 1), ("files", bytes by endings) or ("fault", as `told` has it)."""


class Ended(Exception):
    """The process was ended from outside: there was no memory for it, or somebody killed it."""


class Hand:
    """`is_busy` from the beginning of an order until it is answered."""

    def __init__(self) -> None:
        self.is_busy = False
        self._process: BaseProcess | None = None
        self._pipe: Connection | None = None

    def warm(self) -> None:
        """Begins the process before it is needed: it takes a while to load what draws."""
        if self._process is None or not self._process.is_alive():
            self.end()
            self._pipe, theirs = AFRESH.Pipe()
            self._process = AFRESH.Process(target=_makes, args=(theirs,))
            self._process.start()
            # Ours alone: so that its end is seen.
            theirs.close()

    def begin(self, order: bytes, source: Files | None) -> None:
        """Begins to make it, as `making.make` does; the process stays for the next order. Raises Ended."""
        self.warm()
        assert self._pipe is not None
        self.is_busy = True
        try:
            self._pipe.send((order, source))
        except OSError as error:
            raise Ended from error

    def hear(self, longest_s: float) -> Message | None:
        """The next that it says; None when it has said nothing for so long. Raises Ended."""
        # Another thread may end it meanwhile.
        pipe = self._pipe
        if pipe is None:
            raise Ended
        try:
            said: Message | None = pipe.recv() if pipe.poll(longest_s) else None
        except (EOFError, OSError) as error:
            raise Ended from error
        self.is_busy = said is None or said[0] == "share"
        return said

    def end(self) -> None:
        """With all that it has begun, browsers too."""
        if self._process is not None and self._process.pid is not None:
            with suppress(ProcessLookupError):
                os.killpg(self._process.pid, signal.SIGKILL)
            # It has no group of its own as long as it begins.
            self._process.kill()
            self._process.join()
        if self._pipe is not None:
            self._pipe.close()
        self._process = self._pipe = None
        self.is_busy = False


def _makes(pipe: Connection) -> None:
    os.setsid()
    os.nice(NICENESS)
    threading.Thread(target=end_with_parent, daemon=True).start()
    # Imported here: whoever only waits for it does not need what draws.
    from keen_ripple.jobs.making import make

    with suppress(EOFError):
        while True:
            order, source = pipe.recv()
            try:
                said: Message = ("files", dict(make(order, source, lambda share: pipe.send(("share", share)))))
            except Fault as fault:
                said = ("fault", told(fault))
            except Exception:
                traceback.print_exc()
                remedy = "It is a fault of Keen Ripple, and stands in its log."
                said = ("fault", told(Fault("This could not be made.", remedy=remedy)))
            pipe.send(said)


def end_with_parent() -> None:
    """Whoever is killed cannot end what it began."""
    parent = multiprocessing.parent_process()
    if parent is not None:
        parent.join()
    if os.getpgrp() == os.getpid():
        os.killpg(os.getpid(), signal.SIGKILL)
    os._exit(0)
