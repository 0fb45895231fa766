"""Killed, restarted, without room, without a Redis: a job ends done, or failed with its reason, never half a file."""

from __future__ import annotations

import os
import random
import signal
import subprocess
import time
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import pytest

from keen_ripple.handoff import FORMATS, Options
from keen_ripple.jobs import FILES, Jobs, Order, QueueAway, QueueFault, QueueFull, Unmade
from keen_ripple.jobs import jobs as jobs_module
from keen_ripple.jobs import work as work_module
from keen_ripple.jobs.kept import file_of
from keen_ripple.jobs.queue import Queue
from keen_ripple.jobs.work import Worker
from queues import Elsewhere, Redis, until
from support import DEMO, timeline_in

FOG = Order(DEMO["fog-notice"], FILES, "apng", Options(scale=2.0))


@pytest.fixture(autouse=True)
def impatient(monkeypatch: pytest.MonkeyPatch) -> None:
    """Still longer than workers need to say that they are at it."""
    monkeypatch.setattr(jobs_module, "LOST_S", 3.0)


@pytest.fixture(scope="module")
def expected() -> bytes:
    return FORMATS["apng"].files(timeline_in(DEMO["fog-notice"]), FOG.options)["png"]


@pytest.fixture
def on_a_file(tmp_path: Path) -> Iterator[Jobs]:
    jobs = Jobs(str(tmp_path / "jobs.sqlite"), at_once=1)
    yield jobs
    jobs.stop_all()


def offspring(of: int) -> list[int]:
    found = subprocess.run(["ps", "-o", "pid=", "--ppid", str(of)], capture_output=True, text=True).stdout.split()
    return [int(each) for each in found if Path(f"/proc/{each}").exists()]


def makers(jobs: Jobs) -> list[int]:
    """The process of the workers, and those in which things are made."""
    assert jobs._workers is not None and jobs._workers.pid is not None
    inner = [pid for pid in offspring(jobs._workers.pid) if b"spawn_main" in Path(f"/proc/{pid}/cmdline").read_bytes()]
    return [jobs._workers.pid, *inner]


def kill(processes: list[int]) -> None:
    for pid in processes:
        os.kill(pid, signal.SIGKILL)


def state(jobs: Jobs, order: Order) -> str:
    job = jobs.look(order.id)
    return "" if job is None else job.state


@pytest.mark.parametrize("number", range(int(os.environ.get("KILLS", "4"))))
def test_whoever_is_killed_at_any_moment_leaves_nothing_half(on_a_file: Jobs, expected: bytes, number: int) -> None:
    chance = random.Random(number)
    on_a_file.ask(FOG)
    until(lambda: len(makers(on_a_file)) > 2, "somebody who makes it")
    time.sleep(chance.uniform(0.0, 1.5))
    workers, *hands = makers(on_a_file)
    kill([workers] if number % 2 else hands)
    # At every moment until it is there, it is there whole or not at all.
    files = on_a_file.made(FOG, 60.0, lambda: False)
    assert files["png"] == expected
    job = on_a_file.look(FOG.id)
    assert job is not None and job.attempt <= 3


def test_what_is_killed_again_and_again_fails_with_its_reason(on_a_file: Jobs, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(jobs_module, "MOST_ATTEMPTS", 2)
    huge = replace(FOG, options=Options(scale=8.0))
    on_a_file.ask(huge)

    def is_at(attempt: int) -> bool:
        job = on_a_file.look(huge.id)
        return job is not None and job.attempt == attempt and job.share > 0.0

    for attempt in (1, 2):
        until(lambda a=attempt: is_at(a), "somebody who makes it")  # type: ignore[misc]
        kill(makers(on_a_file)[1:])
    until(lambda: state(on_a_file, huge) == "failed", "its failure")
    job = on_a_file.look(huge.id)
    assert job is not None and "ended 2 times" in job.fault["message"] and "memory" in job.fault["remedy"]


def test_a_server_that_is_restarted_goes_on(on_a_file: Jobs, expected: bytes) -> None:
    on_a_file.ask(FOG)
    until(lambda: state(on_a_file, FOG) == "running", "somebody who makes it")
    processes = makers(on_a_file)
    on_a_file.stop_all()
    until(lambda: not any(Path(f"/proc/{pid}").exists() for pid in processes), "that all it began has ended")
    after = Jobs(on_a_file._place, at_once=1)
    # Nobody asks: it is begun again all the same.
    after.begin()
    until(lambda: state(after, FOG) == "done", "the files")
    assert after.made(FOG, 1.0, lambda: False)["png"] == expected
    after.stop_all()


def test_a_disk_that_is_full_is_told(tmp_path: Path) -> None:
    place = str(tmp_path / "jobs.sqlite")
    queue = Queue(place)
    jobs = Jobs(place)
    # Without workers of its own: one that finds no room is at hand.
    jobs._queue = queue
    job = jobs.ask(FOG)
    with queue.long.storage.db() as conn:
        pages = conn.execute("PRAGMA page_count").fetchone()[0]
        conn.execute(f"PRAGMA max_page_count = {pages + 8}")
    worker = Worker(queue)
    worker.work(job.id, job.attempt)
    worker.end()
    failed = jobs.look(job.id)
    assert failed is not None and failed.state == "failed" and not failed.sizes
    assert failed.fault == {
        "message": "There is no room for what was made.",
        "place": "",
        "remedy": f"Make room on the disk of {place}.",
    }
    with pytest.raises(QueueFault, match="no room"):
        queue.put("more", b"x" * 100_000)


def test_what_fails_in_the_middle_leaves_nothing_to_the_next(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    queue = Queue(str(tmp_path / "jobs.sqlite"))
    jobs = Jobs(queue.place)
    jobs._queue = queue
    put, worker = queue.put, Worker(queue)

    def full(key: str, data: bytes) -> None:
        if key.startswith(FOG.id) and b'"beat": 2' in data:
            raise QueueFull("No room.")
        put(key, data)

    monkeypatch.setattr(queue, "put", full)
    orders = [FOG, Order(DEMO["tide-loader"], FILES, "tokens", Options())]
    for order in orders:
        worker.work(jobs.ask(order).id, 1)
    worker.end()
    assert [state(jobs, order) for order in orders] == ["failed", "done"]
    assert jobs.made(orders[1], 1.0, lambda: False).keys() == {"tokens.json"}
    # What a storage lets go of is made again.
    job = jobs.look(orders[1].id)
    assert job is not None
    queue.delete(file_of(job, "tokens.json"))
    with pytest.raises(Unmade, match="made again"):
        jobs.made(orders[1], 1.0, lambda: False)
    assert state(jobs, orders[1]) == "waiting"


def test_a_redis_that_goes_and_comes_back_loses_nothing(redis: Redis, expected: bytes) -> None:
    workers, jobs = Elsewhere(redis.address), Jobs(redis.address)
    jobs.ask(FOG)
    until(lambda: state(jobs, FOG) == "running", "somebody who makes it")
    redis.stop()
    with pytest.raises(QueueAway, match="does not answer"):
        jobs.ask(FOG)
    # It is made meanwhile, and kept until there is somebody to take it.
    time.sleep(1.0)
    redis.start()
    until(lambda: state(jobs, FOG) == "done", "the files")
    assert jobs.made(FOG, 1.0, lambda: False)["png"] == expected
    # Workers that go are replaced by others.
    other = replace(FOG, options=Options(scale=1.5))
    jobs.ask(other)
    until(lambda: state(jobs, other) == "running", "somebody who makes it")
    workers.stop(signal.SIGKILL)
    others = Elsewhere(redis.address)
    until(lambda: state(jobs, other) == "done", "the files")
    others.stop()
    jobs.stop_all()


def test_without_workers_it_is_told(redis: Redis, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(jobs_module, "ALONE_S", 0.3)
    jobs = Jobs(redis.address)
    job = jobs.ask(FOG)
    assert not jobs.is_left_alone(job)
    until(lambda: jobs.is_left_alone(job), "that it is left alone")
    assert jobs.stop(job.id).state == "stopped"  # type: ignore[union-attr]
    jobs.stop_all()


def test_what_is_too_large_is_not_kept(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(work_module, "LARGEST", 1000)
    queue = Queue(str(tmp_path / "jobs.sqlite"))
    jobs = Jobs(queue.place)
    jobs._queue = queue
    job = jobs.ask(FOG)
    worker = Worker(queue)
    worker.work(job.id, job.attempt)
    worker.end()
    told = jobs.look(job.id)
    assert told is not None and told.state == "failed" and "at most 0 MB are kept" in told.fault["message"]
