"""Web formats of all demo pieces in three browser engines, held against the core at 24 moments.

    python scripts/cross_check.py [ENGINE…]

No driver is needed: a browser opens a page of a server of ours, and each page goes on to the next. Prints a line for
each engine and format; ends with 1 where one is farther off than 0.5 px, 0.01 of opacity or 2/255 of colour.
"""

from __future__ import annotations

import json
import os
import queue
import shutil
import signal
import subprocess
import sys
import tempfile
import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from typing import Any

from keen_ripple import demo
from keen_ripple.core.document import read_piece
from keen_ripple.core.timeline import timeline_of
from keen_ripple.handoff import AS_IT_IS, FORMATS
from keen_ripple.measured import NotMeasured
from keen_ripple.measured.elements import measured_elements
from keen_ripple.measured.measure import moments_of
from keen_ripple.measured.result import Worst

LONGEST_S = 60
MOST = {"px": 0.5, "opacity": 0.01, "colour": 2.0}
NAMES = ("html", "css", "svg", "animate", "element")
GO_ON = """<script>
const wait = setInterval(() => {
  const pre = document.getElementById('seen');
  if (!pre) return;
  clearInterval(wait);
  fetch('/seen', { method: 'POST', body: pre.textContent }).then(() => location.reload());
}, 20);
</script></body>"""


def chromium(folder: str, address: str) -> list[str]:
    alone = ["--no-sandbox"] if os.geteuid() == 0 else []
    quiet = ["--headless", "--disable-gpu", "--no-first-run", "--disable-background-networking", "--disable-sync"]
    return ["chromium", *alone, *quiet, "--window-size=2000,2000", f"--user-data-dir={folder}", address]


def firefox(folder: str, address: str) -> list[str]:
    return ["firefox-esr", "--headless", "--no-remote", "--width=2000", "--height=2000", "--profile", folder, address]


def webkit(_: str, address: str) -> list[str]:
    [program, *_others] = sorted(Path("/usr/lib").glob("*/webkit2gtk-4.*/MiniBrowser"))
    screen = ["xvfb-run", "--auto-servernum", "--server-args=-screen 0 2000x2000x24"]
    return [*screen, str(program), "--geometry=2000x2000", address]


ENGINES: dict[str, Callable[[str, str], list[str]]] = {"Chromium": chromium, "Firefox": firefox, "WebKit": webkit}
Shown = Callable[[str], Any]


@contextmanager
def engine(command: Callable[[str, str], list[str]]) -> Iterator[Shown]:
    """What shows a page in a browser, and gives back what that page wrote into its element `seen`."""
    pages: queue.Queue[str] = queue.Queue()
    answers: queue.Queue[str] = queue.Queue()

    class Handler(BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            page = pages.get().replace("</body>", GO_ON) if self.path == "/page" else ""
            self._say("text/html; charset=utf-8", page.encode())

        def do_POST(self) -> None:
            answers.put(self.rfile.read(int(self.headers["Content-Length"])).decode())
            self._say("text/plain", b"")

        def _say(self, kind: str, content: bytes) -> None:
            self.send_response(200)
            self.send_header("Content-Type", kind)
            self.send_header("Cache-Control", "no-store")
            self.end_headers()
            self.wfile.write(content)

        def log_message(self, *_: Any) -> None:
            """Nothing."""

    def shown(page: str) -> Any:
        pages.put(page)
        try:
            return json.loads(answers.get(timeout=LONGEST_S))
        except queue.Empty:
            raise NotMeasured("The browser showed nothing.", remedy="Open the file in it.") from None

    with ThreadingHTTPServer(("127.0.0.1", 0), Handler) as server, tempfile.TemporaryDirectory() as folder:
        threading.Thread(target=server.serve_forever, daemon=True).start()
        called = command(folder, f"http://127.0.0.1:{server.server_port}/page")
        browser = subprocess.Popen(called, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, start_new_session=True)
        try:
            yield shown
        finally:
            os.killpg(browser.pid, signal.SIGTERM)
            browser.wait()
            server.shutdown()


def check(name: str, shown: Shown) -> tuple[dict[str, Worst], int, list[str]]:
    """The largest deviations of a format over all pieces, at how many moments of layers, and what was not measured."""
    worst, count, without = dict.fromkeys(MOST, Worst(0.0)), 0, []
    documents = {document["id"]: document for document in demo.documents()}
    library = {id_: read_piece(document) for id_, document in documents.items()}
    for id_, piece in library.items():
        timeline = timeline_of(piece, library=library)
        moments = moments_of(timeline)
        try:
            found = measured_elements(timeline, name, FORMATS[name].files(timeline, AS_IT_IS), moments, shown)
        except NotMeasured as fault:
            without.append(f"{id_}: {fault.message}")
            continue
        count += len(moments)
        for kind, each in found.worst.items():
            worst[kind] = worst[kind].or_more(each.value, each.at_ms, f"{id_}, {each.layer}")
    return worst, count, without


def main(names: list[str]) -> int:
    is_off = False
    for name in names or list(ENGINES):
        if not shutil.which("xvfb-run") and name == "WebKit":
            print("WebKit: not here; make cross-check installs it.")
            continue
        with engine(ENGINES[name]) as shown:
            for form in NAMES:
                worst, count, without = check(form, shown)
                said = ", ".join(
                    f"{each.value:.4f} {kind} ({each.layer}, {each.at_ms:.0f} ms)" for kind, each in worst.items()
                )
                print(f"{name} {form}: {count} moments, at most {said}", flush=True)
                for line in without:
                    print(f"  without {line}")
                is_off |= any(worst[kind].value > most for kind, most in MOST.items())
    return int(is_off)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
