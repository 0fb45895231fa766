"""Texts in fonts that a piece brings look the same in the page, in drawings and in what is handed over."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import pytest

from fonts_of_others import FROM_RIGHT, LIGATURES, VARIABLE, brought
from keen_ripple.core.document import read_piece
from keen_ripple.core.timeline import timeline_of
from keen_ripple.handoff import FORMATS
from keen_ripple.render import draw_pose
from support import piece, pixels

pytestmark = pytest.mark.xdist_group("ui")

ROW, WIDTH = 44, 420
LOADED = "return Promise.all([...document.fonts].map((face) => face.load())).then(() => null)"


def axes(**places: float) -> dict[str, Any]:
    return {"font_axes": [{"axis": axis, "value": value} for axis, value in places.items()]}


TEXTS: list[dict[str, Any]] = [
    {"font_family": VARIABLE, "text": "Tide at four, AVATAR", "font_weight": 300},
    {"font_family": VARIABLE, "text": "Tide at four", "font_weight": 850, **axes(CASL=1, slnt=-12, MONO=0.4)},
    {"font_family": VARIABLE, "text": "Tide 0123", "font_weight": 640, **axes(MONO=1, CASL=0.5), "text_align": "left"},
    {"font_family": LIGATURES, "text": "a -> b != c <= d"},
    {"font_family": LIGATURES, "text": "a -> b != c", "letter_spacing": 3},
    # What no weight has is shown in the one next to it, and is not made up.
    {"font_family": LIGATURES, "text": "bold >= six hundred", "font_weight": 600},
    {"font_family": LIGATURES, "text": "letters: αβγ ωψχ", "font_weight": 450},
    {"font_family": FROM_RIGHT, "text": "سلام دنیا، خوش آمدید!"},
    {"font_family": FROM_RIGHT, "text": "کشتی ۱۲ ساعت ۴", "text_align": "left", "font_size": 30},
    {"font_family": FROM_RIGHT, "text": "اسکله شمال\nاسکله جنوب.", "font_size": 14, "text_align": "right"},
    {
        "font_family": FROM_RIGHT,
        "text": "کشتی ساعت چهار از اسکله شمال می‌رود، و شب برمی‌گردد.",
        "font_size": 13,
        "white_space": "pre-wrap",
        "width": 180,
    },
]


def sheet() -> dict[str, Any]:
    rows = [
        {"kind": "text", "id": f"t{i}", "name": f"T{i}", "x": 10, "y": i * ROW, "width": WIDTH - 20, "height": ROW,
         "font_size": 24, **text}
        for i, text in enumerate(TEXTS)
    ]  # fmt: skip
    states = [{"id": "a", "name": "A"}]
    size = {"width": WIDTH, "height": ROW * len(TEXTS)}
    return piece(rows, id="letters", **size, states=states, transitions=[], start="a", fonts=brought())


def drawn(document: dict[str, Any]) -> np.ndarray[Any, Any]:
    timeline = timeline_of(read_piece(document))
    return draw_pose(timeline.piece, timeline.poses["a"], ground="white")[:, :, :3].astype(np.int16)


def compare(theirs: np.ndarray[Any, Any], ours: np.ndarray[Any, Any]) -> None:
    off = np.abs(ours - theirs).max(axis=2) > 32
    for i, text in enumerate(TEXTS):
        row = slice(i * ROW, (i + 1) * ROW)
        assert (ours[row] < 128).any(), text
        assert off[row].mean() <= 0.015, text


def test_on_the_page(bench) -> None:
    document = sheet()
    bench.put(document)
    bench.one("[data-stage=pose] .scene")
    bench.browser.execute_script(
        """
        const scene = document.querySelector('[data-stage=pose] .scene').cloneNode(true);
        scene.style.transform = 'none';
        const alone = document.body.appendChild(document.createElement('div'));
        alone.style.cssText = 'position: fixed; inset: 0; z-index: 9999; overflow: hidden; background: #fff';
        alone.append(scene);
        """
    )
    bench.browser.execute_script(LOADED)
    compare(pixels(bench.browser, document["width"], document["height"]), drawn(document))


@pytest.mark.parametrize("name", ["html", "live"])
def test_in_what_is_handed_over(browser, tmp_path: Path, name: str) -> None:
    document = sheet()
    page = tmp_path / f"{name}.html"
    page.write_bytes(FORMATS[name].write(timeline_of(read_piece(document))))
    browser.get(page.as_uri())
    browser.execute_script(LOADED)
    compare(pixels(browser, document["width"], document["height"]), drawn(document))
