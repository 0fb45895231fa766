"""How far a hand-off has come, for whoever asks to be told; nobody else pays for it."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass
from typing import TypeVar

T = TypeVar("T")
Tell = Callable[[float], None]


@dataclass(frozen=True)
class Window:
    """The part of the whole that is being done, both ends as shares from 0 to 1."""

    tell: Tell
    begin: float
    end: float

    def part(self, begin: float, end: float) -> Window:
        length = self.end - self.begin
        return Window(self.tell, self.begin + length * begin, self.begin + length * end)


_WINDOW: ContextVar[Window | None] = ContextVar("progress", default=None)


@contextmanager
def told_to(tell: Tell) -> Iterator[None]:
    """What is done within is told as a share from 0 to 1 that never shrinks."""
    with _within(Window(tell, 0.0, 1.0)):
        yield


@contextmanager
def stage(begin: float, end: float) -> Iterator[None]:
    """What is done within is this part of what is being done around it."""
    window = _WINDOW.get()
    if window is None:
        yield
        return
    with _within(window.part(begin, end)):
        yield
    window.tell(window.part(end, end).begin)


def along(items: Sequence[T]) -> Iterator[T]:
    """The items, each an equal part: what is done with one is told when the next is asked for."""
    for index, item in enumerate(items):
        with stage(index / len(items), (index + 1) / len(items)):
            yield item


@contextmanager
def _within(window: Window) -> Iterator[None]:
    # Not set back by a token: a generator that is left early is closed in another context.
    before = _WINDOW.get()
    _WINDOW.set(window)
    try:
        yield
    finally:
        _WINDOW.set(before)
