"""The queue and what is kept beside it: huey, on a file of SQLite or on Redis, the same either way."""

from __future__ import annotations

import json
import logging
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import redis
from huey import Huey, RedisHuey, SqliteHuey
from huey.constants import EmptyData
from huey.registry import Message
from huey.serializer import Serializer

from keen_ripple.core.errors import Fault
from keen_ripple.store import DatabaseError, fault_of
from keen_ripple.store.faults import Busy, DiskFull

SETTING = "KEEN_RIPPLE_QUEUE"
REDIS = ("redis://", "rediss://", "unix://")
NAME = "keen-ripple"
BUSY_S = 10
# What goes wrong is told where it is asked for; the loop that reads the queue says it ten times a second.
logging.getLogger("huey").setLevel(logging.CRITICAL)


class QueueFault(Fault):
    """The queue cannot be used."""


class QueueAway(QueueFault):
    """It does not answer now, and may do so later."""


class QueueFull(QueueFault):
    """It has no room."""


class InJson(Serializer):  # type: ignore[misc]
    """Messages as JSON: nothing that comes out of a queue is run."""

    def _serialize(self, data: Any) -> bytes:
        return json.dumps(data).encode()

    def _deserialize(self, data: bytes) -> Message:
        return Message(*json.loads(data))


Work = Callable[[str, int], None]
"""Of the id of a job and the number of its attempt."""


def _nobody_works(job_id: str, attempt: int) -> None:
    raise AssertionError(job_id, attempt)


class Queue:
    """Messages for workers, and bytes by keys that all see. `place` is a file, or the address of a Redis.

    What is made in no time has a line of its own, so that it never waits for what is drawn.
    """

    def __init__(self, place: str, work: Work = _nobody_works) -> None:
        self.place = place
        self.is_shared = place.startswith(REDIS)
        with self._told():
            make = _on_redis if self.is_shared else _on_file
            self.long, self.quick = make(place, NAME), make(place, f"{NAME}-quick")

        # Messages name a function by its module: whoever sends and whoever works has this one.
        def begin(job_id: str, attempt: int) -> None:
            work(job_id, attempt)

        self._begin_long, self._begin_quick = self.long.task()(begin), self.quick.task()(begin)

    def put(self, key: str, data: bytes) -> None:
        with self._told():
            self.long.storage.put_data(key, data)

    def peek(self, key: str) -> bytes | None:
        with self._told():
            found = self.long.storage.peek_data(key)
        return None if found is EmptyData else bytes(found)

    def claim(self, key: str, data: bytes) -> bool:
        """Puts it, and says so, for the first who does."""
        with self._told():
            return bool(self.long.storage.put_if_empty(key, data))

    def delete(self, key: str) -> None:
        with self._told():
            self.long.storage.delete_data(key)

    def send(self, job_id: str, attempt: int, is_quick: bool) -> None:
        line, begin = (self.quick, self._begin_quick) if is_quick else (self.long, self._begin_long)
        with self._told():
            line.enqueue(begin.s(job_id, attempt))

    @property
    def is_empty(self) -> bool:
        """Whether no message waits."""
        with self._told():
            return not self.long.storage.queue_size() and not self.quick.storage.queue_size()

    @contextmanager
    def _told(self) -> Iterator[None]:
        """What the storage raises, in words. Raises QueueFault."""
        try:
            yield
        except redis.ResponseError as error:
            if "OOM" in str(error) or "MISCONF" in str(error):
                remedy = "Make room for its data, or take the oldest out of it."
                raise QueueFull("The Redis of the jobs has no room.", remedy=remedy) from error
            raise QueueFault(f"The Redis of the jobs refuses this: {error}", remedy="Look at its settings.") from error
        except (redis.RedisError, OSError) as error:
            remedy = "Start it, or look at the network between; nothing is lost until then."
            raise QueueAway("The Redis of the jobs does not answer.", remedy=remedy) from error
        except DatabaseError as error:
            raise self._of_file(error) from error

    def _of_file(self, error: DatabaseError) -> QueueFault:
        why = fault_of(error)
        if isinstance(why, DiskFull):
            return QueueFull("There is no room for what was made.", remedy=f"Make room on the disk of {self.place}.")
        if isinstance(why, Busy):
            return QueueAway("The file of the jobs is in use.", remedy="Try again in a moment.")
        remedy = f"Stop the server and remove {self.place}: all in it can be made again."
        return QueueFault(f"The file of the jobs cannot be used: {error}.", remedy=remedy)


def _on_redis(address: str, name: str) -> Huey:
    try:
        return RedisHuey(name, url=address, serializer=InJson(), results=False)
    except ValueError as error:
        remedy = "Give one such as redis://127.0.0.1:6379/0."
        raise Fault(f"{address!r} is no address of a Redis: {error}", place=SETTING, remedy=remedy) from None


def _on_file(place: str, name: str) -> Huey:
    if not Path(place).absolute().parent.is_dir():
        remedy = "Make it, or name another file."
        raise Fault(f"There is no folder {Path(place).parent}.", place=SETTING, remedy=remedy)
    return SqliteHuey(name, filename=place, timeout=BUSY_S, serializer=InJson(), results=False)


def place_of(setting: str, database: str | Path) -> str:
    """Where the queue is: as it is set, or in a file beside the database."""
    return setting or str(Path(database).with_suffix(".jobs.sqlite"))
