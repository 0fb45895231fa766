"""Colours in, colours out."""

from __future__ import annotations

import numpy as np
import pytest
from coloraide import Color

from keen_ripple.core.colour import colour_text, oklab_of, oklab_to_srgb, parse_colour
from keen_ripple.core.errors import ColourFault

TEXTS = ["#1f7a70", "#d9503a80", "red", "hsl(174 59% 30%)", "oklch(0.7 0.1 200)", "rgb(10% 20% 30% / 0.4)", "white"]


@pytest.mark.parametrize("text", TEXTS)
def test_there_and_back_through_oklab(text: str) -> None:
    r, g, b, alpha = parse_colour(text)
    lightness, a, bb, same_alpha = oklab_of(text)
    assert same_alpha == alpha
    assert oklab_to_srgb(np.array([[lightness, a, bb]]))[0] == pytest.approx([r, g, b], abs=0.01)


@pytest.mark.parametrize("text", TEXTS)
def test_canonical_text_is_the_same_colour(text: str) -> None:
    again = parse_colour(colour_text(parse_colour(text)))
    assert again == pytest.approx(parse_colour(text), abs=0.5)
    assert colour_text(again) == colour_text(parse_colour(text))


def test_oklab_agrees_with_an_independent_conversion() -> None:
    lab = np.array([[0.6, 0.1, -0.1], [0.9, -0.05, 0.08], [0.3, 0.02, 0.02]])
    theirs = [[c * 255 for c in Color("oklab", row.tolist()).convert("srgb").clip().coords()] for row in lab]
    assert np.max(np.abs(oklab_to_srgb(lab) - np.array(theirs))) <= 0.01


@pytest.mark.parametrize("text", ["", "bluish", "#12", "rgb(1,2)"])
def test_what_is_no_colour_is_refused(text: str) -> None:
    with pytest.raises(ColourFault, match="not a colour"):
        parse_colour(text)


def test_none_is_transparent() -> None:
    assert parse_colour("none") == (0, 0, 0, 0)
