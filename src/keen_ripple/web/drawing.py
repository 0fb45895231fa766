"""Drawing beside the requests: in a process of its own that gives way, so that no edit waits for a picture.

What takes longer than that is a job.
"""

from __future__ import annotations

import atexit
import multiprocessing
import os
import pickle
import threading
import time
from collections import OrderedDict
from collections.abc import Callable
from concurrent.futures import Future, ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from functools import lru_cache
from typing import Any

from flask import current_app, request

from keen_ripple.core.document import read_piece
from keen_ripple.core.errors import Fault
from keen_ripple.core.timeline import Timeline, timeline_of
from keen_ripple.store import Connection, connect, pieces

NICENESS = 12
LOOK_EVERY_S = 0.25
KEPT = 8
# Of what was drawn, in each process: the same revision is often asked for again.
KEPT_BYTES = 48 * 1024 * 1024


class TooManyPictures(Fault):
    """More pictures are asked for than can be drawn now."""


Draw = Callable[..., bytes]
"""A function of a module, from a timeline and arguments to the bytes of a picture."""


class Drawing:
    """One process that draws what is asked for, one after another.

    At most `most_waiting` answers wait for it, fewer than there are threads that answer, each for at most `longest_s`.
    """

    def __init__(self, most_waiting: int, longest_s: float) -> None:
        self._waiting = threading.BoundedSemaphore(most_waiting)
        self._longest_s = longest_s
        self._lock = threading.Lock()
        self._pool: ProcessPoolExecutor | None = None

    def drawn(self, piece_id: str, draw: Draw, *arguments: Any) -> bytes:
        """The picture of a piece. Raises Missing, what `draw` raises, and TooManyPictures."""
        if not self._waiting.acquire(blocking=False):
            raise TooManyPictures("Too many pictures are being drawn.", remedy="Ask again in a moment.")
        try:
            return self._asked(current_app.config["DATABASE"], piece_id, draw, arguments)
        except TimeoutError:
            raise TooManyPictures("This picture takes too long to draw.", remedy="Ask for a smaller one.") from None
        finally:
            self._waiting.release()

    def _asked(self, database: str, piece_id: str, draw: Draw, arguments: tuple[Any, ...]) -> bytes:
        for attempt in (1, 2):
            try:
                return self._result(self._running().submit(_draw, database, piece_id, draw, arguments))
            except BrokenProcessPool:
                # Something ended the process from outside: it is begun again, once.
                self.stop()
                if attempt == 2:
                    raise
        raise AssertionError

    def _result(self, future: Future[bytes]) -> bytes:
        """Waits no longer than somebody waits for the answer."""
        until = time.monotonic() + self._longest_s
        is_gone = request.environ.get("waitress.client_disconnected", lambda: False)
        while True:
            try:
                return future.result(LOOK_EVERY_S)
            except TimeoutError:
                if time.monotonic() > until or (is_gone() and future.cancel()):
                    future.cancel()
                    raise

    def _running(self) -> ProcessPoolExecutor:
        with self._lock:
            if self._pool is None:
                # Begun afresh: a process that is copied while threads run may keep their locks for ever.
                context = multiprocessing.get_context("spawn")
                self._pool = ProcessPoolExecutor(1, mp_context=context, initializer=_begin)
            return self._pool

    def warm(self) -> None:
        """Begins the process before it is needed: it takes a while to load what draws."""
        self._running().submit(_ready)

    def stop(self) -> None:
        """Ends the process, if there is one."""
        with self._lock:
            if self._pool is not None:
                self._pool.shutdown(wait=False, cancel_futures=True)
            self._pool = None


PICTURES = Drawing(most_waiting=40, longest_s=30.0)


def _begin() -> None:
    os.nice(NICENESS)
    threading.Thread(target=_end_with_parent, daemon=True).start()


def _end_with_parent() -> None:
    """A server that is killed cannot end what it began."""
    parent = multiprocessing.parent_process()
    if parent is not None:
        parent.join()
    os._exit(0)


def _ready() -> bytes:
    return b""


atexit.register(PICTURES.stop)


def _draw(database: str, piece_id: str, draw: Draw, arguments: tuple[Any, ...]) -> bytes:
    # What is stored is read here: sent along, a film would keep all that answers waiting.
    conn = _connection(database)
    piece = pieces.load(conn, piece_id)
    placed = pieces.placed_in(conn, piece.document)
    revisions = tuple(sorted((name, other.revision) for name, other in placed.items()))
    key = (database, piece_id, piece.revision, revisions)
    if key not in _timelines:
        library = {name: read_piece(other.document) for name, other in placed.items()}
        _timelines[key] = timeline_of(read_piece(piece.document), library=library)
        while len(_timelines) > KEPT:
            _timelines.popitem(last=False)
    return _RESULTS.of((key, draw.__qualname__, pickle.dumps(arguments)), lambda: draw(_timelines[key], *arguments))


_timelines: OrderedDict[tuple[Any, ...], Timeline] = OrderedDict()


class Results:
    """What was drawn, by what was asked for; the latest that have room in so many bytes."""

    def __init__(self, most_bytes: int) -> None:
        self._most_bytes = most_bytes
        self._bytes = 0
        self._known: OrderedDict[Any, bytes] = OrderedDict()

    def of(self, key: Any, make: Callable[[], bytes]) -> bytes:
        """The same again, or made and kept."""
        if key in self._known:
            self._known.move_to_end(key)
            return self._known[key]
        made = self._known[key] = make()
        self._bytes += len(made)
        while self._bytes > self._most_bytes:
            _, oldest = self._known.popitem(last=False)
            self._bytes -= len(oldest)
        return made


_RESULTS = Results(KEPT_BYTES)


@lru_cache(maxsize=KEPT)
def _connection(database: str) -> Connection:
    return connect(database)
