"""What tests of several kinds need: a browser, a served application, pieces."""

from __future__ import annotations

import base64
import shutil
import tempfile
import threading
from pathlib import Path
from typing import Any

import numpy as np
import skia
from selenium import webdriver
from selenium.webdriver.chrome.service import Service
from werkzeug.serving import make_server

from keen_ripple import demo
from keen_ripple.core.document import Piece, read_piece
from keen_ripple.core.flow.placing import placed
from keen_ripple.core.timeline import Timeline, timeline_of
from keen_ripple.jobs import Jobs
from keen_ripple.web import create_app, drawing

# One set of workers for all applications of this process: each takes a while to begin.
_FOLDER = tempfile.TemporaryDirectory()
JOBS = Jobs(f"{_FOLDER.name}/jobs.sqlite")

FLAGS = (
    "--headless --no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking "
    "--disable-component-update --disable-sync --hide-scrollbars --window-size=1280,800"
)


def new_browser(profile: Path) -> webdriver.Chrome:
    options = webdriver.ChromeOptions()
    options.binary_location = shutil.which("chromium") or "chromium"
    for flag in (*FLAGS.split(), f"--user-data-dir={profile}"):
        options.add_argument(flag)
    options.add_experimental_option("prefs", {"download.default_directory": str(profile / "downloads")})
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    driver = webdriver.Chrome(options=options, service=Service(shutil.which("chromedriver") or "chromedriver"))
    size = {"width": 1280, "height": 800, "deviceScaleFactor": 1, "mobile": False}
    driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", size)
    return driver


def pixels(browser: webdriver.Chrome, width: int, height: int) -> np.ndarray[Any, Any]:
    """What the browser shows from its top left corner on; (height, width, 3), ready to be subtracted."""
    clip = {"x": 0, "y": 0, "width": width, "height": height, "scale": 1}
    shot = browser.execute_cdp_cmd("Page.captureScreenshot", {"format": "png", "clip": clip})["data"]
    image = skia.Image.MakeFromEncoded(skia.Data.MakeWithCopy(base64.b64decode(shot)))
    return image.toarray(colorType=skia.kRGBA_8888_ColorType)[:, :, :3].astype(np.int16)


class Served:
    """The application on a free port, restarted at will on the same database."""

    def __init__(self, database: Path) -> None:
        self.database = database
        self.start(0)

    def start(self, port: int) -> None:
        drawing.PICTURES.warm()
        self._server = make_server("127.0.0.1", port, create_app(self.database, jobs=JOBS), threaded=True)
        self.port = self._server.port
        self._thread = threading.Thread(target=self._server.serve_forever, daemon=True)
        self._thread.start()

    def stop(self) -> None:
        self._server.shutdown()
        self._server.server_close()
        self._thread.join(timeout=5)

    def restart(self) -> None:
        self.stop()
        self.start(self.port)

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}"


DEMO = {document["id"]: document for document in demo.documents()}
# Those that play without anybody.
PLAYING = {
    name: document
    for name, document in DEMO.items()
    if any(way["from"] == document["start"] and way["cue"] in ("hold", "appear") for way in document["transitions"])
}


# What stands in others is found here.
LIBRARY = {name: read_piece(document) for name, document in DEMO.items()}
DEMO_FOLDER = Path(demo.__file__).parent


def flat(document: dict[str, Any]) -> Piece:
    """The piece as it is played: with what stands in it, which is one of the demo's."""
    return placed(read_piece(document), LIBRARY)


def timeline_in(document: dict[str, Any]) -> Timeline:
    """The same as a timeline."""
    return timeline_of(read_piece(document), library=LIBRARY)


def piece(layers: list[dict[str, Any]] | None = None, **rest: Any) -> dict[str, Any]:
    """The smallest piece that moves: one rectangle, two states, there in 400 ms and back at once after 100 ms."""
    box = {"kind": "rectangle", "id": "box", "name": "Box", "x": 10, "y": 20, "width": 40, "height": 30}
    document: dict[str, Any] = {
        "format": 1,
        "id": "probe",
        "name": "Probe",
        "width": 200,
        "height": 100,
        "layers": [box] if layers is None else layers,
        "states": [{"id": "a", "name": "A", "changes": {}}, {"id": "b", "name": "B", "changes": {"box": {"x": 110}}}],
        "start": "a",
        "transitions": [
            way("a", "b", {"kind": "curve", "duration_ms": 400, "easing": "ease-out"}),
            way("b", "a", {"kind": "curve", "duration_ms": 0, "easing": "linear"}, hold_ms=100, style="cut"),
        ],
    }
    return {**document, **rest}


def way(start: str, end: str, timing: dict[str, Any], **rest: Any) -> dict[str, Any]:
    return {"id": f"{start}-to-{end}", "from": start, "to": end, "timing": timing, **rest}
