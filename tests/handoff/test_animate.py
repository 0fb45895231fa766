"""A function of the Web Animations API on markup of one's own: what it plays is what the core computes."""

from __future__ import annotations

import subprocess
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from test_beyond_css import IN_CSS
from test_element import MODULES, NODE
from test_html_in_chromium import HOLD, deviations, hard, twenty

from keen_ripple.core.errors import Fault
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff import AS_IT_IS, FORMATS, Options
from keen_ripple.handoff.animate import function_of
from keen_ripple.handoff.beyond_css import WHOLE, beyond_css
from keen_ripple.render import draw_at
from support import PLAYING, piece, pixels, timeline_in

STYLE = "body { margin: 0 }"


def opened(browser, folder: Path, timeline: Timeline, options: str = "{}", markup: str | None = None) -> None:
    """Its own elements, and nothing of its stylesheet; pages that are opened as files may load no modules."""
    markup = markup or FORMATS["css"].files(timeline, AS_IT_IS)["markup.html"].decode()
    module = FORMATS["animate"].files(timeline, AS_IT_IS)["animate.js"].decode()
    size = f"position: relative; width: {timeline.piece.width}px; height: {timeline.piece.height}px"
    call = f"window.played = {function_of(timeline)}(document.querySelector('main'), {options});"
    page = folder / "page.html"
    script = f'<script type="module">{module}\n{call}</script>'
    head = f'<!doctype html><meta charset="utf-8"><style>{STYLE}</style>'
    page.write_text(f'{head}<main style="{size}">{markup}</main>{script}', "utf-8")
    browser.get(page.as_uri())


ON_TIME = {name: document for name, document in [*PLAYING.items(), ("hard", hard())] if name != "pier-story"}


@pytest.mark.parametrize("document", ON_TIME.values(), ids=ON_TIME)
def test_it_plays_what_the_core_computes(browser, tmp_path: Path, document: dict[str, Any]) -> None:
    timeline = timeline_in(document)
    if WHOLE in beyond_css(timeline):
        return
    opened(browser, tmp_path, timeline)
    px, opacity, colour = deviations(browser, timeline, twenty(timeline))
    assert (px <= 0.5, opacity <= 0.01, colour <= 2.0) == (True, True, True), (px, opacity, colour)


def test_it_is_held_and_taken_away(browser, tmp_path: Path) -> None:
    timeline = timeline_in(PLAYING["tide-loader"])
    opened(browser, tmp_path, timeline)
    held = "played.pause(); played.seek(430); return document.getAnimations().map((each) => each.currentTime)"
    assert set(browser.execute_script(held)) == {430}
    seen = browser.execute_script(HOLD, 430)
    browser.execute_script("played.cancel()")
    assert browser.execute_script("return document.getAnimations().length") == 0
    assert browser.execute_script("return document.querySelectorAll('[data-layer][style]').length") == 0
    browser.execute_script("played.play()")
    assert browser.execute_script(HOLD, 430).keys() == seen.keys()
    # Where motion is unwanted, nothing goes from its place.
    opened(browser, tmp_path, timeline, "{ calm: true }")
    boxes = [{name: look["box"] for name, look in browser.execute_script(HOLD, t).items()} for t in (0, 430, 900)]
    assert boxes[0] == boxes[1] == boxes[2]


def test_it_is_typed_strictly_and_says_what_it_has_not(tmp_path: Path) -> None:
    document = piece(name="Buoy */ </script>", id="buoy")
    document["layers"].insert(0, {**document["layers"][0], "id": "porthole", "name": "Porthole", "mask": True})
    timeline = timeline_in(document)
    report = FORMATS["animate"].report(timeline, AS_IT_IS)
    assert report.said == ("Porthole cuts the element around what is above it, called 'porthole:mask'.",)
    for ending, content in FORMATS["animate"].files(timeline, AS_IT_IS).items():
        (tmp_path / f"buoy.{ending}").write_bytes(content)
    name = function_of(timeline)
    (tmp_path / "use.ts").write_text(
        f"import {{ {name} }} from './buoy.animate.js';\n"
        f"const played = {name}({{ box: document.querySelector<HTMLElement>('#box') }}, {{ calm: false }});\n"
        f"played.seek(100);\nconst all: readonly Animation[] = played.animations;\nall.at(0)?.finish();\n"
        f"// @ts-expect-error There is no such layer.\n{name}({{ funnel: null }});\n",
        "utf-8",
    )
    tsc = [NODE, str(MODULES / "typescript" / "bin" / "tsc"), "--strict", "--noEmit", "--target", "es2022"]
    told = [*tsc, "--lib", "es2022,dom", "--moduleResolution", "bundler", "--module", "es2022", "use.ts"]
    done = subprocess.run(told, cwd=tmp_path, capture_output=True, text=True)
    assert done.returncode == 0, done.stdout
    with pytest.raises(Fault, match="has no fps"):
        FORMATS["animate"].files(timeline, Options(fps=30.0))


def test_what_is_drawn_whole_plays_too(browser, tmp_path: Path) -> None:
    timeline = timeline_in(IN_CSS["a cross-fade"])
    opened(browser, tmp_path, timeline, markup=f'<div data-layer="{timeline.piece.id}"></div>')
    for t in (120.0, 260.0):
        browser.execute_script("played.pause(); played.seek(arguments[0])", t)
        off = np.abs(pixels(browser, 160, 100) - draw_at(timeline, t, ground="white")[:, :, :3].astype(np.int16))
        assert off.mean() <= 1.5, t
