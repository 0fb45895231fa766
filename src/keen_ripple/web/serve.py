"""Serving on this machine."""

from __future__ import annotations

import gc
import multiprocessing
import signal
import sys
from pathlib import Path

from keen_ripple import demo
from keen_ripple.core.errors import Fault
from keen_ripple.jobs import Jobs, QueueAway
from keen_ripple.jobs.queue import place_of
from keen_ripple.store import atomic, connect, pieces, told
from keen_ripple.web import drawing
from keen_ripple.web.access import HERE, Access
from keen_ripple.web.app import create_app
from keen_ripple.web.server import Server


def serve(database: Path, port: int, *, with_demo: bool, access: Access = HERE, queue: str | None = None) -> None:
    """Serves until interrupted, on 127.0.0.1 only; prints the address on a line of its own. Under another name it is
    there through a proxy. Jobs wait on the `queue`, or else in a file beside the database."""
    if not database.parent.is_dir():
        raise Fault(f"There is no folder {database.parent}.", remedy="Make it, or choose another file with --db.")
    if database.is_dir():
        raise Fault(f"{database} is a folder.", remedy="Name a file in it with --db.")
    jobs = Jobs(queue or place_of("", database))
    app = create_app(database, access, jobs)
    if with_demo:
        fill(database)
    try:
        server = Server(app, port)
    except OSError as error:
        raise Fault(
            f"Port {port} cannot be used: {error.strerror}.", remedy="Choose another with --port (make demo PORT=…)."
        ) from None
    collect_seldom()
    # Asked to end by another program it ends as it does by a key, and takes along what it began.
    signal.signal(signal.SIGTERM, signal.default_int_handler)
    try:
        run(server, jobs, access)
    except KeyboardInterrupt:
        print("Stopped.", file=sys.stderr)
    finally:
        jobs.stop_all()
        # At once: Python would wait for a process that draws, or has only begun to load what draws.
        for process in multiprocessing.active_children():
            process.kill()


def run(server: Server, jobs: Jobs, access: Access) -> None:
    """Answers until interrupted."""
    drawing.PICTURES.warm()
    try:
        jobs.begin()
    except QueueAway as fault:
        # Pieces are edited all the same, and it is asked again.
        print(f"keen-ripple: {fault}", file=sys.stderr)
    print(f"http://127.0.0.1:{server.effective_port}/", flush=True)
    if access.origin is not None:
        print(f"For others: {access.origin}/", flush=True)
    server.run()


def collect_seldom() -> None:
    """Full collections walk every object of every piece kept, in the middle of an edit; there is little to be found."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(100_000, 50, 100)


def fill(database: Path) -> None:
    """Puts the demo's pieces into a database that has none."""
    with told(database):
        conn = connect(database)
        try:
            with atomic(conn):
                if not conn.execute("SELECT 1 FROM piece").fetchone():
                    # The newest come first.
                    for document in reversed(demo.documents()):
                        pieces.add(conn, document)
        finally:
            conn.close()
