"""Sixty icons of three packages of different kinds: outlines with strokes, filled shapes, and flags."""

from __future__ import annotations

import base64
import random
from pathlib import Path

import numpy as np
import pytest

from keen_ripple.core.flow.poses import poses_of
from keen_ripple.intake import take_svg
from keen_ripple.render import draw_pose
from support import pixels

MODULES = Path(__file__).parents[2] / "frontend" / "node_modules"
PACKAGES = ("feather-icons/dist/icons", "bootstrap-icons/icons", "flag-icons/flags/4x3")
SIDE_PX = 160
SHOW = """
const [url, width, height, done] = arguments;
const image = document.querySelector('img');
image.onload = () => requestAnimationFrame(() => requestAnimationFrame(done));
image.style.cssText = `display: block; width: ${width}px; height: ${height}px`;
image.src = url;
"""


def off(browser, data: bytes, side_px: int = SIDE_PX) -> float:
    """The share of pixels that differ visibly between our drawing and Chromium's."""
    piece = take_svg(data, "icon").piece()
    scale = side_px / max(piece.width, piece.height)
    ours = draw_pose(piece, poses_of(piece)["first"], scale, "white")[:, :, :3].astype(np.int16)
    height, width = ours.shape[:2]
    url = f"data:image/svg+xml;base64,{base64.b64encode(data).decode()}"
    browser.execute_async_script(SHOW, url, width, height)
    theirs = pixels(browser, width, height)
    return float((np.abs(ours - theirs).max(axis=2) > 16).mean())


@pytest.mark.parametrize("package", PACKAGES)
def test_icons_look_as_in_chromium(browser, package: str) -> None:
    files = sorted((MODULES / package).glob("*.svg"))
    browser.get("data:text/html,<!doctype html><body style='margin: 0; background: white'><img>")
    shares = {file.name: off(browser, file.read_bytes()) for file in random.Random(5).sample(files, 20)}
    near = [name for name, share in shares.items() if share < 0.01]
    assert len(near) >= 19, sorted(shares.items(), key=lambda item: -item[1])[:3]


FONT = Path(__file__).parents[2] / "src" / "keen_ripple" / "fonts" / "hanken-grotesk-latin.woff2"
TEXTS = """
<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 160 120" font-family="Hanken Grotesk" fill="#15293b">
<style>@font-face {{ font-family: "Hanken Grotesk"; font-weight: 100 900;
  src: url(data:font/woff2;base64,{font}) }}</style>
<text x="10" y="20" font-size="14">Pier 9</text>
<text x="80" y="44" font-size="18" font-weight="700" text-anchor="middle" fill="#1f7a70">Inner harbour</text>
<g transform="translate(150 70) scale(0.8)"><text font-size="20" text-anchor="end" letter-spacing="1">Berth</text></g>
<text transform="translate(20 110) rotate(-40)" font-size="15" font-weight="600">Ferry</text>
<text x="10" y="54" font-size="11" dominant-baseline="middle">Low</text>
<text x="34" y="54" font-size="11" dominant-baseline="central">water</text>
<text x="64" y="54" font-size="11" style="dominant-baseline: hanging">mark</text>
<text x="80" y="90" font-size="12"><tspan>Two</tspan> lines<tspan x="80" dy="1.25em">of a text</tspan></text>
</svg>
"""


def test_texts_lie_where_chromium_sets_them(browser) -> None:
    browser.get("data:text/html,<!doctype html><body style='margin: 0; background: white'><img>")
    data = TEXTS.format(font=base64.b64encode(FONT.read_bytes()).decode()).encode()
    taken = take_svg(data, "texts")
    assert not taken.notes
    assert [layer["text"] for layer in taken.document["layers"]] == [
        *("Pier 9", "Inner harbour", "Berth", "Ferry", "Low", "water", "mark", "Two lines", "of a text"),
    ]
    # A quarter of a px lower, it would be 0.016.
    assert off(browser, data, 960) < 0.012


SHAPES = '<rect x="30" y="30" width="60" height="40" fill="#c03a1e"/><circle cx="90" cy="70" r="20" fill="#1f7a70"/>'
BLUR = '<filter id="f" x="-60%" y="-60%" width="220%" height="220%" color-interpolation-filters="sRGB">{}</filter>'
FILTERS = {
    "a blur": ('filter="url(#f)"', '<feGaussianBlur stdDeviation="4"/>'),
    "of a group that is scaled": ('transform="scale(0.7)" filter="url(#f)"', '<feGaussianBlur stdDeviation="3 3"/>'),
    "functions": ('style="filter: blur(2px) brightness(80%) saturate(0.4)"', ""),
    "a turn of hue": ('style="filter: hue-rotate(0.25turn)"', ""),
}


@pytest.mark.parametrize("name", FILTERS)
def test_filters_that_are_numbers_look_as_in_chromium(browser, name: str) -> None:
    browser.get("data:text/html,<!doctype html><body style='margin: 0; background: white'><img>")
    attributes, steps = FILTERS[name]
    head = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 120 100">'
    data = f"{head}<defs>{BLUR.format(steps)}</defs><g {attributes}>{SHAPES}</g></svg>".encode()
    assert not take_svg(data, "filters").notes
    assert off(browser, data, 480) < 0.002
    # It would not look so without.
    assert off(browser, data.replace(attributes.encode(), b""), 480) < 0.002
    plain = take_svg(data.replace(attributes.encode(), b""), "plain").piece()
    filtered = take_svg(data, "filters").piece()
    drawn = [draw_pose(each, poses_of(each)["first"], 2.0, "white").astype(int) for each in (plain, filtered)]
    assert (np.abs(drawn[0] - drawn[1]).max(axis=2) > 16).mean() > 0.01
