"""Jobs as the server sees them: asked for, looked at, stopped; and begun again where nobody works at them any more."""

from __future__ import annotations

import atexit
import json
import os
import threading
import time
from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass, replace
from multiprocessing.process import BaseProcess

from keen_ripple.core.errors import Fault
from keen_ripple.handoff.format import Files
from keen_ripple.jobs.hand import AFRESH
from keen_ripple.jobs.job import Job, told
from keen_ripple.jobs.kept import INDEX, file_of, files_of, head_of, look, order_of, read, state_of, stop_of
from keen_ripple.jobs.orders import Order
from keen_ripple.jobs.queue import Queue, QueueFault
from keen_ripple.jobs.work import work_beside

# An edit keeps a processor to itself: however it gives way, what is drawn uses memory that it shares with others.
AT_ONCE = max((os.cpu_count() or 2) - 1, 1)
WATCH_S = 0.5
# Whoever has said nothing for so long is not at it any more.
LOST_S = 6.0
# What nobody has begun after that is left alone.
ALONE_S = 4.0
STOPPING_S = 5.0
MOST_ATTEMPTS = 3
MOST_KEPT, MOST_BYTES = 200, 512_000_000
SOON_S, LATER_S = 0.02, 0.25


class Unmade(Fault):
    """What was asked for was not made, or is not there yet."""


@dataclass
class Watched:
    """A job that has not ended: what was seen of it last, and since when."""

    seen: tuple[int, str, int]
    since_s: float


class Jobs:
    """Of one server. On a file it has workers of its own, `at_once` and one for what is quick; on a Redis others do."""

    def __init__(self, place: str, at_once: int = AT_ONCE) -> None:
        self._at_once = at_once
        self._place = place
        self._lock = threading.RLock()
        self._queue: Queue | None = None
        self._open: dict[str, Watched] = {}
        # As they were last seen, so that they are not looked at again whenever something new is asked for.
        self._ended: dict[str, Job | None] = {}
        self._workers: BaseProcess | None = None
        self._watching = threading.Event()

    def begin(self) -> None:
        """Watches from now on, with workers where it has its own. Raises QueueFault."""
        self._begun()

    def _begun(self) -> Queue:
        with self._lock:
            if self._queue is None:
                queue = Queue(self._place)
                for job_id in read(queue.peek(INDEX) or b"[]"):
                    self._open[job_id] = Watched((0, "", 0), time.monotonic())
                self._queue = queue
                self._keep_working()
                threading.Thread(target=self._watch, daemon=True).start()
                atexit.register(self.stop_all)
            return self._queue

    def ask(self, order: Order, again: bool = False) -> Job:
        """Begins to make it, unless it is made or being made; `again` where it was stopped or could not be made."""
        job = self.look(order.id)
        if job is not None and not (again and job.state in ("stopped", "failed")):
            return job
        return self._anew(order, 0 if job is None else job.attempt)

    def _anew(self, order: Order, attempts: int) -> Job:
        with self._lock:
            self._begun().put(order_of(order.id), order.to_json())
            self._enter(order.id)
            return self._attempt(order.id, attempts + 1, 0, order.is_quick)

    def _attempt(self, job_id: str, attempt: int, lost: int, is_quick: bool) -> Job:
        queue, job = self._begun(), Job(job_id, attempt)
        head = {"attempt": attempt, "lost": lost, "is_quick": is_quick}
        queue.put(head_of(job_id), json.dumps(head).encode())
        queue.send(job_id, attempt, is_quick)
        with self._lock:
            self._open[job_id] = Watched(_seen(job), time.monotonic())
            self._ended.pop(job_id, None)
        return job

    def look(self, job_id: str) -> Job | None:
        """How it stands; None for what was not asked for, or is not kept any more."""
        return look(self._begun(), job_id)

    def ahead_of(self, job: Job) -> int:
        """How many are waited for before it."""
        order = list(self._open)
        return order.index(job.id) if job.state == "waiting" and job.id in order else 0

    def is_left_alone(self, job: Job) -> bool:
        """Whether it waits though nothing is before it: perhaps there is no worker."""
        watched = self._open.get(job.id)
        waits = job.state == "waiting" and watched is not None and not self.ahead_of(job)
        return waits and watched is not None and time.monotonic() - watched.since_s > ALONE_S

    def stop(self, job_id: str) -> Job | None:
        """What has not ended ends so."""
        job = self.look(job_id)
        if job is not None and not job.has_ended:
            self._begun().put(stop_of(job), b"stop")
        return self.look(job_id)

    def made(self, order: Order, longest_s: float, is_unwanted: Callable[[], bool]) -> Files:
        """Its files, once they are there. Raises Unmade, and what kept it from being made."""
        job, until, pause = self.ask(order, again=True), time.monotonic() + longest_s, SOON_S
        while not job.has_ended:
            if time.monotonic() > until or is_unwanted():
                raise Unmade("This takes long to make.", remedy="Ask for it again later: it goes on.")
            time.sleep(pause)
            pause = min(pause * 1.2, LATER_S)
            job = self.look(job.id) or self.ask(order)
        files = files_of(self._begun(), job)
        if files is not None:
            return files
        if job.fault is not None:
            raise Fault(**job.fault)
        if job.state == "done":
            # Whoever keeps it has let go of it.
            self._anew(order, job.attempt)
            raise Unmade("What was made is not kept any more: it is made again.", remedy="Ask for it again.")
        raise Unmade("It was stopped.", remedy="Ask for it again.")

    def _enter(self, job_id: str) -> None:
        """The latest are kept, those before them make room."""
        with self._lock:
            queue = self._begun()
            known = [other for other in read(queue.peek(INDEX) or b"[]") if other != job_id]
            dropped = self._too_old(known)
            kept = [other for other in known if other not in dropped]
            queue.put(INDEX, json.dumps([*kept, job_id]).encode())
            for other, job in dropped.items():
                self._drop(other, job)

    def _too_old(self, known: list[str]) -> dict[str, Job | None]:
        """Of those that have ended the oldest, beyond what is kept."""
        found: dict[str, Job | None] = {}
        size = 0
        for number, job_id in enumerate(reversed(known)):
            if job_id in self._open:
                continue
            job = self._ended[job_id] if job_id in self._ended else self.look(job_id)
            size += sum(job.sizes.values()) if job is not None else 0
            if number >= MOST_KEPT or size > MOST_BYTES:
                found[job_id] = job
        return found

    def _drop(self, job_id: str, job: Job | None) -> None:
        queue = self._begun()
        self._ended.pop(job_id, None)
        queue.delete(head_of(job_id))
        queue.delete(order_of(job_id))
        for attempt in range(1, job.attempt + 1 if job is not None else 1):
            before = Job(job_id, attempt)
            state = queue.peek(state_of(before))
            for ending in Job.from_json(state).sizes if state is not None else ():
                queue.delete(file_of(before, ending))
            queue.delete(stop_of(before))
            queue.delete(state_of(before))

    def _watch(self) -> None:
        while not self._watching.wait(WATCH_S):
            # A queue that is away is looked at again.
            with suppress(QueueFault):
                for job_id in list(self._open):
                    self._see(job_id)
            with self._lock:
                self._keep_working()

    def _see(self, job_id: str) -> None:
        job, watched, now = self.look(job_id), self._open.get(job_id), time.monotonic()
        if watched is None:
            return
        if job is None or job.has_ended:
            self._close(job_id, watched, job)
        elif _seen(job) != watched.seen:
            watched.seen, watched.since_s = _seen(job), now
        elif now - watched.since_s > LOST_S:
            self._rescue(job)

    def _close(self, job_id: str, watched: Watched, job: Job | None) -> None:
        """It has ended, unless it has been begun again meanwhile: then its order is needed."""
        with self._lock:
            if self._open.get(job_id) is watched:
                self._begun().delete(order_of(job_id))
                self._ended[job_id] = job
                del self._open[job_id]

    def _rescue(self, job: Job) -> None:
        """Nobody works at it: it is begun again. What waits may have to wait, but not where no message is left."""
        queue = self._begun()
        head = read(queue.peek(head_of(job.id)) or b"{}")
        if not head:
            return
        if job.state == "waiting":
            if queue.is_empty:
                queue.send(job.id, job.attempt, head["is_quick"])
                self._open[job.id].since_s = time.monotonic()
        elif head["lost"] + 1 < MOST_ATTEMPTS:
            self._attempt(job.id, job.attempt + 1, head["lost"] + 1, head["is_quick"])
        else:
            fault = f"Whoever made it was ended {MOST_ATTEMPTS} times."
            remedy = "Perhaps there was too little memory: choose fewer or smaller pictures."
            failed = replace(job, state="failed", fault=told(Fault(fault, remedy=remedy)))
            queue.put(state_of(job), failed.to_json())

    def _keep_working(self) -> None:
        queue = self._queue
        if queue is None or queue.is_shared or self._watching.is_set():
            return
        if self._workers is None or not self._workers.is_alive():
            self._workers = AFRESH.Process(target=work_beside, args=(self._place, self._at_once))
            self._workers.start()

    def stop_all(self) -> None:
        """Ends its workers; what they were at is begun again when there are some."""
        self._watching.set()
        with self._lock:
            if self._workers is not None:
                self._workers.terminate()
                self._workers.join(STOPPING_S)
                # What it began ends with it, however it ends.
                self._workers.kill()
                self._workers.join()
            self._workers = None


def _seen(job: Job) -> tuple[int, str, int]:
    return (job.attempt, job.state, job.beat)
