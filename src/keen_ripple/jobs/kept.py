"""What is kept of jobs beside the queue, and under which keys.

Of a job the head says which attempt counts, and only whoever asks for jobs writes it; the state and the files of an
attempt are written only by whoever works at it.
"""

from __future__ import annotations

import json
import re
from dataclasses import replace
from typing import Any

from keen_ripple.handoff.format import Files
from keen_ripple.jobs.job import Job
from keen_ripple.jobs.queue import Queue

IDS = re.compile("[0-9a-f]{32}")
INDEX = "index"
"""The ids of all jobs that are kept, the latest last."""


def head_of(job_id: str) -> str:
    return job_id


def order_of(job_id: str) -> str:
    return f"{job_id}.order"


def state_of(job: Job) -> str:
    return f"{job.id}.{job.attempt}"


def stop_of(job: Job) -> str:
    return f"{job.id}.{job.attempt}.stop"


def file_of(job: Job, ending: str) -> str:
    return f"{job.id}.{job.attempt}.file.{ending}"


def attempt_of(head: bytes | None) -> int | None:
    """The attempt that counts; None of a job that is not kept any more."""
    return None if head is None else read(head)["attempt"]


def read(data: bytes) -> Any:
    return json.loads(data)


def look(queue: Queue, job_id: str) -> Job | None:
    """How it stands; None for what was not asked for, or is not kept any more."""
    # Other keys are no jobs, whoever asks.
    attempt = attempt_of(queue.peek(head_of(job_id))) if IDS.fullmatch(job_id) else None
    if attempt is None:
        return None
    job = Job(job_id, attempt)
    state = queue.peek(state_of(job))
    job = job if state is None else Job.from_json(state)
    if not job.has_ended and queue.peek(stop_of(job)) is not None:
        return replace(job, state="stopped")
    return job


def files_of(queue: Queue, job: Job | None) -> Files | None:
    """What was made; None of what is not done, or not kept any more."""
    if job is None or job.state != "done":
        return None
    found = {ending: queue.peek(file_of(job, ending)) for ending in job.sizes}
    files = {ending: content for ending, content in found.items() if content is not None}
    return files if len(files) == len(found) else None
