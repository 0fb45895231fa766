"""The commands that go on until they are interrupted: the server, and the workers of its jobs."""

from __future__ import annotations

import argparse
import os

# What they need is imported when they run, so that the other commands start quickly.


def serve(options: argparse.Namespace) -> None:
    from keen_ripple.web.access import access_of
    from keen_ripple.web.serve import serve

    access = access_of(options.origin, options.secret_file, options.user_header)
    serve(options.db, options.port, with_demo=options.with_demo, access=access, queue=_queue(options))


def work(options: argparse.Namespace) -> None:
    from keen_ripple.jobs.work import Workers

    queue = _queue(options)
    workers = Workers(queue, options.at_once)
    print(f"Works on {queue}, {options.at_once} at once.", flush=True)
    workers.run()


def _queue(options: argparse.Namespace) -> str:
    """Where jobs wait: as it is set, or in a file beside the database."""
    from keen_ripple.jobs.queue import SETTING, place_of

    return place_of(os.environ.get(SETTING, ""), options.db)
