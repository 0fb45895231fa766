"""A page in headless Chromium, where that is installed: what it writes down, read from outside."""

from __future__ import annotations

import html
import json
import os
import re
import shutil
import subprocess
import tempfile
from functools import cache
from pathlib import Path
from typing import Any

from keen_ripple.measured.result import NotMeasured

NAMES = ("chromium", "chromium-browser", "google-chrome")
QUIET = (
    *("--headless", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking"),
    *("--disable-component-update", "--disable-sync", "--hide-scrollbars", "--window-size=2000,2000"),
)
# Of the page's own clock, in which it may load; and of ours, after which it is given up.
LOADING_MS, LONGEST_S = 60_000, 120
SEEN = re.compile(r'<pre id="seen">(.*?)</pre>', re.S)


@cache
def browser() -> tuple[str, str]:
    """Its program, and how it calls itself. Raises NotMeasured."""
    program = next(filter(None, map(shutil.which, NAMES)), None)
    if program is None:
        raise NotMeasured("Not measured here: no browser is installed.", remedy="Install Chromium.")
    told = subprocess.run([program, "--version"], capture_output=True, text=True, timeout=LONGEST_S)
    version = re.search(r"\d+", told.stdout)
    return program, f"Chromium {version[0]}" if version else "Chromium"


def seen(page: str) -> Any:
    """What a page puts as JSON into an element `seen` that is all of its body. Raises NotMeasured."""
    program, _ = browser()
    with tempfile.TemporaryDirectory(ignore_cleanup_errors=True) as folder:
        file = Path(folder) / "page.html"
        file.write_text(page, "utf-8")
        # Chromium does not shut itself in for the superuser.
        alone = ("--no-sandbox",) if os.geteuid() == 0 else ()
        own = (f"--user-data-dir={folder}/profile", f"--virtual-time-budget={LOADING_MS}", "--dump-dom")
        try:
            done = subprocess.run(
                [program, *QUIET, *alone, *own, file.as_uri()], capture_output=True, timeout=LONGEST_S
            )
        except subprocess.TimeoutExpired:
            raise NotMeasured("Not measured: the browser took too long.", remedy="Measure a shorter piece.") from None
    found = SEEN.search(done.stdout.decode("utf-8", "replace"))
    if found is None:
        raise NotMeasured("Not measured: the browser showed nothing.", remedy="Open the file in it to see why.")
    return json.loads(html.unescape(found[1]))
