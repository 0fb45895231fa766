"""What others are made to wait: edits beside pictures that are drawn, edits as heavy as any that are accepted, commits
that reach the disk, and a shelf of a thousand pieces."""

from __future__ import annotations

import json
import resource
import sqlite3
import statistics
import threading
import time
import urllib.request
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from big import SHELVED, heavy_pieces, modest

from keen_ripple.store import connect, migrate, pieces
from keen_ripple.web import create_app
from keen_ripple.web.serve import collect_seldom

EDITS, FILMSTRIPS, COMMITS = 60, 8, 100


def asked(address: str, path: str, method: str = "GET", body: Any = None) -> bytes:
    data = None if body is None else json.dumps(body).encode()
    request = urllib.request.Request(address + path, data, {"Content-Type": "application/json"}, method=method)
    with urllib.request.urlopen(request, timeout=60) as answer:
        return bytes(answer.read())


def p95(values: list[float]) -> float:
    return statistics.quantiles(values, n=20)[18]


def test_edits_beside_filmstrips(address_modest: str, benchmark) -> None:
    """Eight filmstrips are drawn without end; the peer is the same edits alone."""
    piece = json.loads(asked(address_modest, "api/pieces"))["pieces"][0]["id"]

    def edits() -> list[float]:
        took = []
        for n in range(EDITS):
            revision = json.loads(asked(address_modest, f"api/pieces/{piece}/revision"))["revision"]
            patch = [{"op": "add", "path": "/transitions/0/hold_ms", "value": 100 + revision}]
            begun = time.perf_counter()
            asked(
                address_modest,
                f"api/pieces/{piece}",
                "PATCH",
                {"revision": revision, "label": f"Hold {n}", "patch": patch},
            )
            took.append(1000.0 * (time.perf_counter() - begun))
            # As fast as a hand can be.
            time.sleep(0.1)
        return took

    ended = threading.Event()

    def draw(count: int) -> None:
        while not ended.is_set():
            asked(address_modest, f"api/pieces/{piece}/filmstrip.png?frames={24 + count}")

    benchmark.pedantic(lambda: None)
    alone = edits()
    drawing = [threading.Thread(target=draw, args=(n,)) for n in range(FILMSTRIPS)]
    for thread in drawing:
        thread.start()
    beside = edits()
    ended.set()
    for thread in drawing:
        thread.join()
    ratio = p95(beside) / p95(alone)
    benchmark.extra_info.update({"p95_beside_ms": p95(beside), "ratio_to_alone": ratio})
    print(
        f"\nedit beside {FILMSTRIPS} filmstrips: p50 {statistics.median(beside):.1f} ms, p95 {p95(beside):.1f} ms; "
        f"alone p50 {statistics.median(alone):.1f} ms, p95 {p95(alone):.1f} ms; p95 {ratio:.2f}× alone"
    )


@pytest.mark.parametrize("kind", heavy_pieces())
def test_heaviest_edits(kind: str, tmp_path: Path, benchmark) -> None:
    """An edit of one transition, and one of all, of pieces at the limits; the peer is reading the document as JSON."""
    collect_seldom()
    document = heavy_pieces()[kind]()
    client = create_app(tmp_path / "heavy.sqlite").test_client()
    assert client.post("/api/pieces", json={"document": document}).status_code == 201
    client.get("/api/pieces/heavy")
    before_mb = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024.0
    curve = {"kind": "curve", "duration_ms": 410, "easing": "ease-in"}

    def edit(ways: range) -> tuple[float, float]:
        revision = client.get("/api/pieces/heavy/revision").json["revision"]
        patch = [{"op": "add", "path": f"/transitions/{n}/timing", "value": curve} for n in ways]
        begun = time.process_time()
        answer = client.patch("/api/pieces/heavy", json={"revision": revision, "label": "Timing", "patch": patch})
        assert answer.status_code == 200, answer.json
        return time.process_time() - begun, len(answer.data) / 1e6

    benchmark.pedantic(lambda: None)
    one_s, one_mb = edit(range(1))
    all_s, all_mb = edit(range(len(document["transitions"])))
    more_mb = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024.0 - before_mb
    text = json.dumps(document)
    begun = time.process_time()
    json.loads(text)
    peer_s = time.process_time() - begun
    benchmark.extra_info.update({"one_s": one_s, "all_s": all_s, "memory_mb": more_mb, "ratio": all_s / peer_s})
    print(
        f"\nheavy, {kind}: one transition {one_s:.2f} s of CPU, {one_mb:.2f} MB; all {all_s:.2f} s, {all_mb:.2f} MB, "
        f"{more_mb:.0f} MB more memory; {all_s / peer_s:.0f}× reading its JSON"
    )


def test_commits_that_reach_the_disk(tmp_path: Path, benchmark) -> None:
    """What `synchronous = FULL` costs an edit; the peer is NORMAL, which may lose the last ones in a power cut."""
    conn = connect(tmp_path / "synced.sqlite")
    migrate(conn)
    pieces.add(conn, modest())

    def commits(mode: str) -> list[float]:
        conn.execute(f"PRAGMA synchronous = {mode}")
        return [timed(lambda n=n: written(conn, n)) for n in range(COMMITS)]

    benchmark.pedantic(lambda: None)
    normal, full = commits("NORMAL"), commits("FULL")
    ratio = statistics.median(full) / statistics.median(normal)
    benchmark.extra_info.update({"full_ms": statistics.median(full), "ratio_to_normal": ratio})
    print(
        f"\ncommit: FULL p50 {statistics.median(full):.2f} ms, p95 {p95(full):.2f} ms; "
        f"NORMAL p50 {statistics.median(normal):.2f} ms, p95 {p95(normal):.2f} ms; {ratio:.1f}×"
    )


def written(conn: sqlite3.Connection, number: int) -> None:
    conn.execute("BEGIN IMMEDIATE")
    conn.execute("UPDATE piece SET document = json_set(document, '$.name', ?)", (f"Name {number}",))
    conn.execute("COMMIT")


def timed(act: Callable[[], None]) -> float:
    begun = time.perf_counter()
    act()
    return 1000.0 * (time.perf_counter() - begun)


# From going to the shelf until every cell in view shows its loop, and what has come over the wire until then.
SHELF = """
const done = arguments[0];
const soon = () => new Promise(requestAnimationFrame);
const isSeen = ({top, bottom}) => bottom > 0 && top < innerHeight;
const shown = () => {
  const cells = [...document.querySelectorAll('[data-shelf]')].filter(cell => isSeen(cell.getBoundingClientRect()));
  return cells.length > 0 && cells.every(cell => cell.querySelector('.scene'));
};
(async () => {
  while (!shown()) await soon();
  await soon();
  const answers = performance.getEntriesByType('resource').filter((entry) => entry.name.includes('/api/'));
  const [took, asked] = [performance.now(), performance.now()];
  await (await fetch('/api/pieces/none')).text();
  const size = answers.reduce((sum, entry) => sum + entry.encodedBodySize, 0);
  done([took, performance.now() - asked, size, answers.length]);
})();
"""


def test_a_shelf_of_a_thousand(browser, address_shelf: str, benchmark) -> None:
    """Opened for the second time, as scripts and fonts are kept; the peer is a request that does nothing."""
    benchmark.pedantic(lambda: None)
    browser.get(address_shelf)
    browser.execute_async_script(SHELF)
    browser.get(address_shelf)
    took_ms, wire_ms, size, answers = browser.execute_async_script(SHELF)
    benchmark.extra_info.update({"took_ms": took_ms, "bytes": size, "ratio_to_bare_request": took_ms / wire_ms})
    print(
        f"\nshelf of {SHELVED}: {took_ms:.0f} ms until all in view play, {took_ms / wire_ms:.0f}× a bare request; "
        f"{size / 1000:.0f} kB in {answers} answers"
    )
