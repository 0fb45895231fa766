"""Sixty icons of three packages of different kinds: outlines with strokes, filled shapes, and flags."""

from __future__ import annotations

import base64
import random
import re
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


STOPS = '<stop stop-color="#c03a1e"/><stop offset="0.4" stop-color="#e4cf9f"/><stop offset="1" stop-color="#1f7a70"/>'
CLEAR = '<stop stop-color="#c03a1e"/><stop offset="1" stop-color="#1f7a70" stop-opacity="0"/>'
BOX = '<rect x="10" y="20" width="100" height="60" fill="url(#g)"/>'
RING = '<path d="M20 50a40 30 0 1 1 80 0l-40 30" fill="none" stroke="url(#g)" stroke-width="12"/>'
LINEAR = f'<linearGradient id="g" x2="1" y2="1">{STOPS}</linearGradient>'


SHADED = (
    '<filter id="s" x="-1" y="-1" width="3" height="3" color-interpolation-filters="sRGB">'
    '<feDropShadow dx="6" dy="9" stdDeviation="3" flood-color="#15293b" flood-opacity=".6"/></filter>'
)


def radial(attributes: str) -> str:
    return f'<radialGradient id="g" {attributes}>{STOPS}</radialGradient>'


def on_page(attributes: str) -> str:
    return radial(f'gradientUnits="userSpaceOnUse" {attributes}')


DRAWN = {
    "an ellipse that leans": radial('gradientTransform="rotate(35) scale(1 .5)"') + BOX,
    "a focus beside the centre": radial('fx="0.3" fy="0.75"') + BOX,
    "a focus that leans": on_page(
        'cx="60" cy="40" r="40" fx="45" fy="50" gradientTransform="rotate(20 60 40) skewX(30)"'
    )
    + BOX,
    "a circle over a box": on_page('cx="30" cy="40" r="50"') + BOX,
    "colours that become clear": f'<linearGradient id="g">{CLEAR}</linearGradient>{BOX}',
    "a stroke along a gradient": LINEAR + RING,
    "a stroke from the middle": on_page('cx="60" cy="40" r="50"') + RING,
    "of a turned rectangle": LINEAR + '<g transform="rotate(25 60 45)">'
    '<rect x="30" y="30" width="60" height="30" fill="none" stroke="url(#g)" stroke-width="8"/></g>',
    "a stroke that is stretched": '<g transform="translate(10 10) scale(1 3)"><path d="M5 5h80l-40 20z" fill="#e4cf9f" '
    'stroke="#1f7a70" stroke-width="6" stroke-linejoin="round"/></g>',
    "dashes that lean": '<circle cx="40" cy="40" r="25" fill="none" stroke="#c03a1e" stroke-width="7" '
    'stroke-dasharray="9 6" transform="skewX(20)"/>',
    "dashes of a circle": '<circle cx="40" cy="40" r="25" fill="none" stroke="#c03a1e" stroke-width="7" '
    'stroke-dasharray="20 16"/>',
    "the shadow of a path that is turned": SHADED
    + '<g transform="rotate(30 60 50) scale(.8)"><path d="M30 20h70l-30 60z" fill="#e4cf9f" filter="url(#s)"/></g>',
    "the shadow of a box": SHADED + '<rect x="20" y="20" width="70" height="50" fill="#1f7a70" filter="url(#s)"/>',
    "a mask with a hole": '<mask id="m"><path fill="#fff" d="M0 0h120v100H0z"/><circle cx="60" cy="50" r="25"/></mask>'
    '<rect x="10" y="10" width="100" height="80" fill="#1f7a70" mask="url(#m)"/>',
    "a mask of a gradient": '<linearGradient id="g"><stop stop-color="#fff"/><stop offset="1"/></linearGradient>'
    '<mask id="m"><path d="M0 0h120v100H0" fill="url(#g)"/><circle cx="60" cy="50" r="20" fill="#999"/></mask>'
    '<g mask="url(#m)"><rect x="10" y="10" width="50" height="80" fill="#1f7a70"/><circle cx="80" cy="50" r="30"/></g>',
    "a mask by alpha in a mask": '<mask id="in" style="mask-type: alpha"><circle cx="60" cy="50" r="45"'
    ' fill-opacity=".7"/></mask><mask id="m" maskUnits="userSpaceOnUse" x="20" y="5" width="70" height="90">'
    '<g mask="url(#in)"><rect width="120" height="100" fill="#fff"/><path d="M0 0h60v50z" fill="#d9503a"/></g></mask>'
    '<rect x="5" y="10" width="110" height="80" fill="#c03a1e" mask="url(#m)"/>',
    "a mask of strokes, used, by alpha": '<defs><path id="p" d="M20 20L100 80" stroke="#000" stroke-width="14"/></defs>'
    '<mask id="m" style="mask-type: alpha"><use href="#p" x="4"/></mask>'
    '<rect x="10" y="10" width="100" height="80" fill="#c03a1e" mask="url(#m)"/>',
    "a clip of shapes that lie over each other": '<clipPath id="c"><circle cx="45" cy="50" r="30"/>'
    '<path d="M60 20v60h50V20z"/></clipPath><rect width="120" height="100" fill="#1f7a70" clip-path="url(#c)"/>',
    "a symbol used twice": '<symbol id="s" viewBox="0 0 10 10"><circle cx="5" cy="5" r="4" fill="#c03a1e"/>'
    '<path d="M2 5h6" stroke="#fff"/></symbol><use href="#s" width="40" height="40"/>'
    '<use href="#s" x="60" y="40" width="50" height="50"/>',
}


@pytest.mark.parametrize("name", DRAWN)
def test_what_others_draw_with_looks_as_in_chromium(browser, name: str) -> None:
    browser.get("data:text/html,<!doctype html><body style='margin: 0; background: white'><img>")
    head = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 120 100">'
    data = f"{head}{DRAWN[name]}</svg>".encode()
    assert not take_svg(data, "drawn").notes
    assert off(browser, data, 480) < 0.004


# What moves, and what stands there at its first moment.
MOVING = {
    "a value": (
        '<rect width="50" height="50" {}><animate attributeName="opacity" values="0.3;1" dur="9s"/></rect>',
        'opacity="0.3"',
    ),
    "from where it began before": (
        '<circle cy="50" r="20" {}><animate attributeName="cx" values="0;100" dur="100s" begin="-50s"/></circle>',
        'cx="50"',
    ),
    "a step that comes later": (
        '<rect width="50" height="50" {}><animate attributeName="opacity" calcMode="discrete" values="0.3;1" '
        'keyTimes="0.5;1" dur="9s" begin="-1s"/></rect>',
        'opacity="0.3"',
    ),
    "a turn beside its own": (
        '<g transform="translate(40 40)" {}><g><rect width="40" height="20"/>'
        '<animateTransform attributeName="transform" type="rotate" values="45;90" dur="9s" additive="sum"/></g></g>',
        'style="transform: translate(40px, 40px) rotate(45deg)"',
    ),
    "what begins later": (
        '<rect width="50" height="50" {}><set attributeName="fill" to="red" begin="2s"/></rect>',
        'fill="black"',
    ),
    "keyframes": (
        "<style>@keyframes k {{ from {{ fill: #c03a1e }} }} rect {{ animation: k 9s }}</style>"
        '<rect width="50" height="50" {}/>',
        'style="fill: #c03a1e; animation: none"',
    ),
}


@pytest.mark.parametrize("name", MOVING)
def test_what_moves_stands_at_its_first_moment(name: str) -> None:
    head = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 120 100">'
    moving, still = MOVING[name]
    plain = re.sub(r"<(animate|set)[^>]*/>|@keyframes.*?}\s*}", "", moving)
    pieces = [
        take_svg(f"{head}{text}</svg>".encode(), "x").piece() for text in (moving.format(""), plain.format(still))
    ]
    first, other = (draw_pose(piece, poses_of(piece)["first"], 2.0, "white").astype(int) for piece in pieces)
    assert np.abs(first - other).max() <= 2


def test_what_draws_itself_shows_all_and_says_so() -> None:
    line = '<path d="M0 0h90" stroke="red" fill="none" stroke-dasharray="90" stroke-dashoffset="90">{}</path>'
    drawn = line.format('<animate attributeName="stroke-dashoffset" from="90" to="0" dur="1s"/>')
    shown = f'<g opacity="1">{drawn.replace(" stroke-dashoffset=", " data-was=")}</g>'
    taken = take_svg(f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 90 9">{shown}</svg>'.encode(), "x")
    assert (
        "stroke_dash_offset" in taken.document["layers"][0] and taken.document["layers"][0]["stroke_dash_offset"] == 0
    )
    assert "so it shows all" in taken.notes[0]
