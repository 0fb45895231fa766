"""Hostile strings in every free field of a piece, opened in Chromium: nothing is fetched, nothing runs."""

from __future__ import annotations

import copy
import json
import threading
from collections.abc import Iterator
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from typing import Any

import pytest

from keen_ripple.core.document import read_piece
from keen_ripple.core.document.json_text import pointer
from keen_ripple.core.errors import Fault
from keen_ripple.core.timeline import timeline_of
from keen_ripple.handoff import FORMATS
from support import piece, way

PIXEL = "data:image/gif;base64,R0lGODlhAQABAAAAACw="
PNG = (
    "data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5E"
    "rkJggg=="
)


def everything() -> dict[str, Any]:
    """A piece with a value in every free field that the hand-off knows."""
    place = {"x": 1, "y": 1, "width": 20, "height": 20}
    view = {"view_width": 20, "view_height": 20}
    layers = [
        {"kind": "rectangle", "id": "box", "name": "Box", **place, "fill": "#1f7a70", "stroke": "red"},
        {"kind": "path", "id": "line", "name": "Line", **place, **view, "path": "M0 0L20 20", "stroke": "#000"},
        {"kind": "text", "id": "word", "name": "Word", **place, "text": "Quay"},
        {"kind": "picture", "id": "photo", "name": "Photo", **place, "source": PNG},
        {"kind": "group", "id": "all", "name": "All", **place, "layers": []},
    ]
    curve = {"kind": "curve", "duration_ms": 200, "easing": "ease-out"}
    states = [
        {"id": "a", "name": "A", "changes": {"line": {"path": "M0 0L9 9"}}},
        {"id": "b", "name": "B", "changes": {"box": {"fill": "#d9503a", "x": 9}, "line": {"path": "M1 1L9 9"}}},
    ]
    document = piece(layers, states=states, transitions=[way("a", "b", curve), way("b", "a", curve, hold_ms=10)])
    return {**document, "ground": "#ffffff"}


def strings(value: Any, place: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    if isinstance(value, str):
        yield place
    for key, item in value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ():
        yield from strings(item, (*place, key))


def replaced(document: dict[str, Any], place: tuple[Any, ...], text: str) -> dict[str, Any]:
    changed = copy.deepcopy(document)
    holder: Any = changed
    for key in place[:-1]:
        holder = holder[key]
    holder[place[-1]] = text
    return changed


class Listener(ThreadingHTTPServer):
    heard: list[str]


@pytest.fixture(scope="module")
def listener() -> Iterator[Listener]:
    class Handler(BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            listening.heard.append(self.path)
            self.send_response(204)
            self.end_headers()

        def log_message(self, *_: Any) -> None:
            pass

    listening = Listener(("127.0.0.1", 0), Handler)
    listening.heard = []
    threading.Thread(target=listening.serve_forever, daemon=True).start()
    yield listening
    listening.shutdown()
    listening.server_close()


def payloads(port: int) -> list[str]:
    far = f"http://127.0.0.1:{port}/x"
    return [
        f'M0 0L9 9") ; background: url({far}) ; d: path("M0 0',
        f'"><img src="{far}"><script src="{far}"></script>',
        f"</style><link rel=stylesheet href={far}><style>@import '{far}';",
        f"url({far}) #fff; background-image: url('{far}')",
        f"x\\22\\29 ; }} * {{ background: url({far}) }}\n--><!-- '`",
        f'{PIXEL}") , url("{far}',
    ]


OPENED = "return new Promise(done => setTimeout(() => done(window.ran ?? document.readyState), 30))"


def test_no_field_of_a_piece_reaches_out(browser, tmp_path: Path, listener: Listener) -> None:
    document = everything()
    open_to_any_text = {(*place,) for place in strings(document) if place[-1] in ("name", "text")}
    accepted = set()
    for place in strings(document):
        for number, payload in enumerate(payloads(listener.server_port)):
            try:
                page = FORMATS["html"].write(timeline_of(read_piece(replaced(document, place, payload))))
            except Fault as fault:
                assert fault.remedy, (pointer(place), payload)
                continue
            accepted.add(place)
            path = tmp_path / f"{number}.html"
            path.write_bytes(page)
            browser.get(path.as_uri())
            assert browser.execute_script(OPENED) == "complete"
            assert browser.execute_script("return document.querySelectorAll('script, link, img').length") == 0
    assert listener.heard == []
    # Everything else than names and texts refuses them, and says so.
    assert accepted == open_to_any_text


def test_the_listener_hears(browser, tmp_path: Path, listener: Listener) -> None:
    """A page that does reach out, so that hearing nothing means something."""
    page = tmp_path / "loud.html"
    page.write_text(
        f"<style>body {{ background: url(http://127.0.0.1:{listener.server_port}/loud) }}</style><body>loud"
    )
    browser.get(page.as_uri())
    browser.execute_script(OPENED)
    assert listener.heard == ["/loud"]
    listener.heard.clear()


def test_the_page_itself_reaches_nowhere(bench, listener: Listener) -> None:
    document = everything()
    for place in strings(document):
        if place[-1] in ("name", "text"):
            document = replaced(document, place, payloads(listener.server_port)[1][:110])
    bench.put(json.loads(json.dumps(document)))
    bench.one("[data-stage=loop] .scene")
    assert bench.browser.execute_script("return window.ran ?? null") is None
    assert listener.heard == []
