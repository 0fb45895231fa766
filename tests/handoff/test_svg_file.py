"""One SVG file: well formed, playing what the core computes, also as a picture."""

from __future__ import annotations

from pathlib import Path
from typing import Any
from xml.etree import ElementTree

import numpy as np
import pytest
from selenium.webdriver.support.ui import WebDriverWait
from test_beyond_css import HOLD, IN_CSS, seen_through
from test_html_in_chromium import HOLD as HELD
from test_html_in_chromium import deviations, hard, twenty

from keen_ripple.handoff import AS_IT_IS, FORMATS
from keen_ripple.handoff.beyond_css import WHOLE, beyond_css
from keen_ripple.render import draw_at
from support import PLAYING, piece, pixels, timeline_in


def written(folder: Path, document: dict[str, Any]) -> Path:
    file = folder / f"{document['id']}.svg"
    file.write_bytes(FORMATS["svg"].files(timeline_in(document), AS_IT_IS)["svg"])
    ElementTree.parse(file)
    return file


@pytest.mark.parametrize("document", [*PLAYING.values(), hard()], ids=[*PLAYING, "hard"])
def test_it_plays_what_the_core_computes(browser, tmp_path: Path, document: dict[str, Any]) -> None:
    timeline = timeline_in(document)
    browser.get(written(tmp_path, document).as_uri())
    if WHOLE in beyond_css(timeline):
        assert browser.execute_script(HELD, 100).keys() == {document["id"]}
        return
    px, opacity, colour = deviations(browser, timeline, twenty(timeline))
    assert (px <= 0.5, opacity <= 0.01, colour <= 2.0) == (True, True, True), (px, opacity, colour)


@pytest.mark.parametrize("document", [seen_through("brightness"), IN_CSS["a cross-fade"]], ids=["mask", "cross-fade"])
def test_it_looks_as_it_is_drawn(browser, tmp_path: Path, document: dict[str, Any]) -> None:
    timeline = timeline_in(document)
    browser.get(written(tmp_path, document).as_uri())
    for t in (40.0, 210.0, 330.0):
        browser.execute_script(HOLD, t)
        off = np.abs(pixels(browser, 160, 100) - draw_at(timeline, t, ground="white")[:, :, :3].astype(np.int16))
        assert off.mean() <= 1.5, t


def test_it_moves_as_a_picture_in_a_page(browser, tmp_path: Path) -> None:
    file = written(tmp_path, PLAYING["tide-loader"])
    page = tmp_path / "page.html"
    page.write_text(f'<body style="margin: 0"><img src="{file.name}">', "utf-8")
    browser.get(page.as_uri())
    first = pixels(browser, 160, 96)
    WebDriverWait(browser, 45, 0.05).until(lambda _: (np.abs(pixels(browser, 160, 96) - first) > 60).any())


def test_nothing_gets_out_of_a_name(tmp_path: Path) -> None:
    text = {"kind": "text", "id": "box", "name": "]]> <b>", "text": "<script>alert(1)</script> & ]]>", "width": 90}
    text |= {"x": 0, "y": 0, "height": 20}
    document = piece([text], name="</title><script>", states=[{"id": "a", "name": "A"}], transitions=[])
    tree = ElementTree.parse(written(tmp_path, document))
    assert not [element for element in tree.iter() if element.tag.endswith("script")]
    assert "<script>alert(1)</script> & ]]>" in "".join(tree.getroot().itertext())
