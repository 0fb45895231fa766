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


def off(browser, data: bytes) -> float:
    """The share of pixels that differ visibly between our drawing and Chromium's."""
    piece = take_svg(data, "icon").piece()
    scale = SIDE_PX / max(piece.width, piece.height)
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
