"""Drawing beside the requests: in a process of its own that gives way, so that no edit waits for a picture."""

from __future__ import annotations

import atexit
import multiprocessing
import os
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

PROCESSES = 1
NICENESS = 12
LONGEST_S = 30.0
# So many pictures may be waited for; fewer than there are threads that answer.
MOST_WAITING = 40
LOOK_EVERY_S = 0.25
KEPT = 8


class TooManyPictures(Fault):
    """More pictures are asked for than can be drawn now."""


Draw = Callable[..., bytes]
"""A function of a module, from a timeline and arguments to the bytes of a picture."""

_waiting = threading.BoundedSemaphore(MOST_WAITING)
_lock = threading.Lock()
_pool: ProcessPoolExecutor | None = None


def drawn(piece_id: str, draw: Draw, *arguments: Any) -> bytes:
    """The picture of a piece. Raises Missing, what `draw` raises, and TooManyPictures."""
    if not _waiting.acquire(blocking=False):
        raise TooManyPictures("Too many pictures are being drawn.", remedy="Ask again in a moment.")
    try:
        return _asked(current_app.config["DATABASE"], piece_id, draw, arguments)
    except TimeoutError:
        raise TooManyPictures("This picture takes too long to draw.", remedy="Ask for a smaller one.") from None
    finally:
        _waiting.release()


def _asked(database: str, piece_id: str, draw: Draw, arguments: tuple[Any, ...]) -> bytes:
    for attempt in (1, 2):
        try:
            return _result(_running().submit(_draw, database, piece_id, draw, arguments))
        except BrokenProcessPool:
            # Something ended the process from outside: it is begun again, once.
            stop()
            if attempt == 2:
                raise
    raise AssertionError


def _result(future: Future[bytes]) -> bytes:
    """Waits no longer than somebody waits for the answer."""
    until = time.monotonic() + LONGEST_S
    is_gone = request.environ.get("waitress.client_disconnected", lambda: False)
    while True:
        try:
            return future.result(LOOK_EVERY_S)
        except TimeoutError:
            if time.monotonic() > until or (is_gone() and future.cancel()):
                future.cancel()
                raise


def _running() -> ProcessPoolExecutor:
    global _pool
    with _lock:
        if _pool is None:
            # Begun afresh: a process that is copied while threads run may keep their locks for ever.
            context = multiprocessing.get_context("spawn")
            _pool = ProcessPoolExecutor(PROCESSES, mp_context=context, initializer=_begin)
        return _pool


def _begin() -> None:
    os.nice(NICENESS)
    threading.Thread(target=_end_with_parent, daemon=True).start()


def _end_with_parent() -> None:
    """A server that is killed cannot end what it began."""
    parent = multiprocessing.parent_process()
    if parent is not None:
        parent.join()
    os._exit(0)


def warm() -> None:
    """Begins the process before it is needed: it takes a while to load what draws."""
    _running().submit(_ready)


def _ready() -> bytes:
    return b""


def stop() -> None:
    """Ends the process, if there is one."""
    global _pool
    with _lock:
        if _pool is not None:
            _pool.shutdown(wait=False, cancel_futures=True)
        _pool = None


atexit.register(stop)


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
    return draw(_timelines[key], *arguments)


_timelines: OrderedDict[tuple[Any, ...], Timeline] = OrderedDict()


@lru_cache(maxsize=KEPT)
def _connection(database: str) -> Connection:
    return connect(database)
