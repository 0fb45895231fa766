"""A piece of 20 layers as pictures; the peer is the same page in a browser, held at each moment and photographed."""

from __future__ import annotations

import time
from pathlib import Path

import pytest
from big import big_piece

from keen_ripple.core.document import read_piece
from keen_ripple.core.timeline import Timeline, timeline_of
from keen_ripple.handoff import FORMATS, Options
from keen_ripple.render import draw_each

FPS, SHOTS = 25, 30
HOLD = "for (const each of document.getAnimations()) { each.pause(); each.currentTime = arguments[0]; }"


def piece_of_20() -> Timeline:
    return timeline_of(read_piece({**big_piece(20, 4), "width": 800, "height": 600, "ground": "#f5f2ea"}))


@pytest.fixture(scope="module")
def shot_s(browser, tmp_path_factory: pytest.TempPathFactory) -> float:
    """Seconds for one photograph."""
    timeline = piece_of_20()
    page: Path = tmp_path_factory.mktemp("page") / "page.html"
    page.write_bytes(FORMATS["html"].files(timeline, Options())["html"])
    browser.get(page.as_uri())
    browser.set_window_size(800, 740)
    began = time.perf_counter()
    for n in range(SHOTS):
        browser.execute_script(HOLD, n * 1000 / FPS)
        browser.get_screenshot_as_png()
    return (time.perf_counter() - began) / SHOTS


def told(name: str, each_s: float, shot_s: float, benchmark) -> None:
    ratio = shot_s / each_s
    benchmark.extra_info["ratio_to_screenshots"] = ratio
    print(f"\n{name}: {each_s * 1000:.1f} ms a picture, {ratio:.1f}× as fast as screenshots ({shot_s * 1000:.0f} ms)")


def test_drawing(shot_s: float, benchmark) -> None:
    timeline = piece_of_20()
    began = time.perf_counter()
    for _ in draw_each(timeline, [n * 1000 / FPS for n in range(SHOTS)]):
        pass
    benchmark.pedantic(lambda: None)
    told("drawing", (time.perf_counter() - began) / SHOTS, shot_s, benchmark)


@pytest.mark.parametrize("name", ["gif", "webp", "webm"])
def test_files(name: str, shot_s: float, benchmark) -> None:
    timeline, options = piece_of_20(), Options(fps=FPS)
    count = len(FORMATS[name].drawn(timeline, options).frames)
    began = time.perf_counter()
    FORMATS[name].files(timeline, options)
    benchmark.pedantic(lambda: None)
    told(name, (time.perf_counter() - began) / count, shot_s, benchmark)
