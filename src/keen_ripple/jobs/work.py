"""Workers: they take orders from the queue, and say how far they are."""

from __future__ import annotations

import os
import signal
import sys
import threading
import time
import traceback
from collections.abc import Iterable
from dataclasses import replace

from huey import Huey
from huey.consumer import Consumer

from keen_ripple.core.errors import Fault
from keen_ripple.handoff.format import Files
from keen_ripple.jobs.hand import Ended, Hand, end_with_parent
from keen_ripple.jobs.job import Job, told
from keen_ripple.jobs.kept import attempt_of, file_of, files_of, head_of, look, order_of, read, state_of, stop_of
from keen_ripple.jobs.queue import Queue, QueueAway, QueueFault

# How often it says that it is still at it, and looks whether it shall stop.
BEAT_S = 0.5
# After that the queue is looked at again, where nobody is called when something comes.
LOOK_S = 0.2
LONGEST_S = 3600.0
LARGEST = 200_000_000
"""Bytes of all files of a job together."""
# So long what was made is kept for a queue that does not answer.
AWAY_S, AGAIN_S = 600.0, 1.0
# A share so small says little of the time that is left.
TELLING, TELLING_S = 0.03, 1.0


class Unwanted(Exception):
    """It was stopped, or somebody else makes it again."""


class Worker:
    """Works at one order at a time."""

    def __init__(self, queue: Queue) -> None:
        self._queue = queue
        self._hand = Hand()
        self._hand.warm()

    def work(self, job_id: str, attempt: int) -> None:
        """Makes it, unless somebody else has begun with that attempt."""
        job = Job(job_id, attempt, "running")
        order = self._queue.peek(order_of(job_id))
        if order is None or not self._queue.claim(state_of(job), job.to_json()):
            return
        try:
            self._keep(job, self._made(job, order))
        except Unwanted:
            self._end(replace(job, state="stopped"))
        except Ended:
            # Nobody says that it goes on any more, and so it is begun again.
            return
        except Fault as fault:
            self._end(replace(job, state="failed", fault=told(fault)))

    def _made(self, job: Job, order: bytes) -> Files:
        try:
            return self._heard(job, order)
        finally:
            # Whatever ended this before it was answered: the next order is not to hear the answer.
            if self._hand.is_busy:
                self._hand.end()
                self._hand.warm()

    def _heard(self, job: Job, order: bytes) -> Files:
        # It may have been stopped while it waited.
        self._say(job)
        self._hand.begin(order, self._source(order))
        start = said = time.monotonic()
        share = 0.0
        while True:
            heard = self._hand.hear(BEAT_S)
            now = time.monotonic()
            if heard is not None and heard[0] == "files":
                return _checked(heard[1])
            if heard is not None and heard[0] == "fault":
                raise Fault(**heard[1])
            share = share if heard is None else max(share, heard[1])
            if now - start > LONGEST_S:
                raise Fault("This takes more than an hour.", remedy="Choose fewer or smaller pictures.")
            if now - said >= BEAT_S:
                said = now
                job = replace(job, share=share, left_s=_left(share, now - start), beat=job.beat + 1)
                self._say(job)

    def _source(self, order: bytes) -> Files | None:
        """The files that are to be measured, if they are there."""
        job_id = read(order)["source"]
        return files_of(self._queue, look(self._queue, job_id)) if job_id else None

    def _say(self, job: Job) -> None:
        """Raises Unwanted. A queue that is away now is told the next time."""
        try:
            if (
                self._queue.peek(stop_of(job)) is not None
                or attempt_of(self._queue.peek(head_of(job.id))) != job.attempt
            ):
                raise Unwanted
            self._queue.put(state_of(job), job.to_json())
        except QueueAway:
            return

    def _keep(self, job: Job, files: Files) -> None:
        """The files first: they are there before anybody hears of them."""
        for ending, content in files.items():
            self._surely(file_of(job, ending), content)
        sizes = {ending: len(content) for ending, content in files.items()}
        self._end(replace(job, state="done", share=1.0, sizes=sizes))

    def _end(self, job: Job) -> None:
        self._surely(state_of(job), job.to_json())

    def _surely(self, key: str, data: bytes) -> None:
        """Waits for a queue that is away. Raises QueueFault for what does not go away by itself."""
        until = time.monotonic() + AWAY_S
        while True:
            try:
                return self._queue.put(key, data)
            except QueueAway:
                if time.monotonic() > until:
                    raise
                time.sleep(AGAIN_S)

    def end(self) -> None:
        self._hand.end()


def _left(share: float, passed_s: float) -> float | None:
    if share < TELLING or passed_s < TELLING_S:
        return None
    return round(passed_s / share * (1.0 - share), 1)


def _checked(files: Files) -> Files:
    size = sum(map(len, files.values()))
    if size > LARGEST:
        fault = f"It has {size / 1e6:.0f} MB, and at most {LARGEST / 1e6:.0f} MB are kept."
        raise Fault(fault, remedy="Choose fewer or smaller pictures.")
    return files


class Workers:
    """So many at once, and one for what is quick; each in a thread that waits for a process."""

    def __init__(self, place: str, at_once: int) -> None:
        self._own = threading.local()
        self._all: list[Worker] = []
        self.queue = Queue(place, self._work)
        self._consumers = [_consumer(self.queue.long, at_once), _consumer(self.queue.quick, 1)]
        for line in (self.queue.long, self.queue.quick):
            line.on_startup()(self._begin)

    def _begin(self) -> None:
        """In each thread."""
        self._own.worker = Worker(self.queue)
        self._all.append(self._own.worker)

    def _work(self, job_id: str, attempt: int) -> None:
        try:
            self._own.worker.work(job_id, attempt)
        except QueueFault as fault:
            print(f"keen-ripple: {fault}", file=sys.stderr)
        except Exception:
            traceback.print_exc()

    def run(self) -> None:
        """Until interrupted."""
        for consumer in self._consumers:
            consumer.start()
        # At once: what is being made is begun again by others.
        for number in (signal.SIGINT, signal.SIGTERM):
            signal.signal(number, lambda *_: _end(self._all))
        checked = [time.monotonic() for _ in self._consumers]
        try:
            while True:
                checked = [each.loop(at) for each, at in zip(self._consumers, checked, strict=True)]
        finally:
            # A signal that came before stops the consumers, and what makes things has to end all the same.
            _end(self._all)


def _consumer(line: Huey, at_once: int) -> Consumer:
    return Consumer(
        line,
        workers=at_once,
        worker_type="thread",
        periodic=False,
        initial_delay=LOOK_S / 4.0,
        max_delay=LOOK_S,
        scheduler_interval=60,
        health_check_interval=1,
    )


def _end(workers: Iterable[Worker]) -> None:
    for worker in workers:
        worker.end()
    # Threads that wait for something would keep it from ending.
    sys.stdout.flush()
    sys.stderr.flush()
    os._exit(0)


def work_beside(place: str, at_once: int) -> None:
    """The workers of a server, in a process of their own that ends with it."""
    threading.Thread(target=end_with_parent, daemon=True).start()
    Workers(place, at_once).run()
