"""Work that is done before it is asked for, on other processors where it lets go of this one."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from typing import TypeVar

A = TypeVar("A")
B = TypeVar("B")


def ahead(do: Callable[[A], B], items: Iterable[A], most: int = 1) -> Iterator[B]:
    """What `do` makes of each item, in their order; up to `most` of them are being made while one is worked at."""
    waiting: deque[Future[B]] = deque()
    pool = ThreadPoolExecutor(most)
    try:
        for item in items:
            waiting.append(pool.submit(do, item))
            if len(waiting) > most:
                yield waiting.popleft().result()
        while waiting:
            yield waiting.popleft().result()
    finally:
        pool.shutdown(cancel_futures=True)
