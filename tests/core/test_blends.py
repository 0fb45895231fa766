"""Values in between: colours against the browser, gradients, shadows, dashes, outlines, text."""

from __future__ import annotations

import itertools
import re
from typing import Any

import numpy as np
import pytest

from keen_ripple.core.blends import blend_named
from keen_ripple.core.colour import parse_colour
from keen_ripple.core.outlines import matched, subpaths
from keen_ripple.core.values import ConicGradient, Fade, LinearGradient, RadialGradient, Shadow, Stop

COLOURS = (
    "#1f7a70",
    "#d9503a",
    "white",
    "black",
    "transparent",
    "hsl(174 59% 30% / 0.35)",
    "rgb(255 200 0 / 0.5)",
    "oklch(0.7 0.1 200)",
    "rebeccapurple",
    "color(display-p3 0.2 0.6 0.4)",
    "lab(50% 40 -20)",
)

# The alpha is in the text; the colour is painted without it, since canvases round what they multiply.
MIXED = """
const canvas = document.createElement('canvas').getContext('2d', {willReadFrequently: true});
return arguments[0].map(([space, a, b, share]) => {
  document.body.style.backgroundColor = `color-mix(in ${space}, ${b} ${share * 100}%, ${a})`;
  const text = getComputedStyle(document.body).backgroundColor;
  const [opaque, alpha] = text.replace(/\\)$/, '').split(' / ');
  canvas.fillStyle = `${opaque})`;
  canvas.fillRect(0, 0, 1, 1);
  return [...canvas.getImageData(0, 0, 1, 1).data].slice(0, 3).concat(Number(alpha ?? 1));
});
"""


@pytest.mark.parametrize("space", ["oklab", "srgb"])
def test_colours_between_are_those_of_the_browser(browser, space: str) -> None:
    browser.get("about:blank")
    cases = [(space, a, b, share) for a, b in itertools.permutations(COLOURS, 2) for share in (0.25, 0.5, 0.8)]
    seen = browser.execute_script(MIXED, cases)
    for (_, a, b, share), theirs in zip(cases, seen, strict=True):
        ours = blend_named("colour", space).between(a, b).rows(np.array([share]))[0]
        assert ours[3] == pytest.approx(theirs[3], abs=1 / 255), (a, b, share)
        # What the browser paints is rounded to whole channels.
        assert np.max(np.abs(np.round(ours[:3]) - theirs[:3])) <= 1.0, (a, b, share)


def stops(*pairs: tuple[float, str]) -> tuple[Stop, ...]:
    return tuple(Stop(at=at, colour=colour) for at, colour in pairs)


BLACK_WHITE = stops((0, "black"), (1, "white"))
LINEAR = LinearGradient(kind="linear", angle=0, stops=BLACK_WHITE)


def halfway(blend: str, start: Any, end: Any, share: float = 0.5) -> Any:
    between = blend_named(blend, "srgb").between(start, end)
    rows = between.rows(np.array([0.0, share, 1.0]))
    assert rows.shape == (3, len(between.tolerances or rows[0]))
    return between.value(rows[1])


def test_gradients_of_one_kind_blend_stop_by_stop() -> None:
    turned = LinearGradient(kind="linear", angle=90, stops=stops((0.2, "white"), (1, "black")))
    middle = halfway("paint", LINEAR, turned)
    assert middle == LinearGradient(kind="linear", angle=45, stops=stops((0.1, "#808080"), (1, "#808080")))


def test_a_stop_more_changes_nothing_where_it_is_added() -> None:
    three = LinearGradient(kind="linear", angle=0, stops=stops((0, "black"), (0.5, "#ff0000"), (1, "white")))
    middle = halfway("paint", LINEAR, three)
    assert [stop.at for stop in middle.stops] == [0, 0.5, 1]
    assert parse_colour(middle.stops[1].colour)[:3] == pytest.approx((192, 64, 64), abs=1)


def test_a_colour_becomes_a_gradient_as_if_it_were_one() -> None:
    conic = ConicGradient(kind="conic", centre_x=0.25, stops=BLACK_WHITE)
    middle = halfway("paint", "black", conic)
    assert (middle.kind, middle.centre_x) == ("conic", 0.25)
    assert [stop.colour for stop in middle.stops] == ["#000000", "#808080"]


def test_gradients_of_two_kinds_fade_into_each_other() -> None:
    radial = RadialGradient(kind="radial", stops=BLACK_WHITE)
    fading = halfway("paint", LINEAR, radial, 0.3)
    assert fading == Fade(LINEAR, radial, pytest.approx(0.3))
    # Interrupted there, it fades on.
    assert halfway("paint", fading, LINEAR).share == 0.5


def test_radii_of_gradients_do_not_fall_below_nothing() -> None:
    small, large = (RadialGradient(kind="radial", radius=radius, stops=BLACK_WHITE) for radius in (0.1, 1.0))
    between = blend_named("paint", "oklab").between(large, small)
    assert between.value(between.rows(np.array([1.5]))[0]).radius == 0.0


def test_shadows_go_in_pairs_and_a_missing_one_fades() -> None:
    low, high = Shadow(y=2, blur=4, colour="black"), Shadow(y=10, blur=20, colour="black")
    assert halfway("shadows", (low,), (high,)) == (Shadow(y=6, blur=12, colour="#000000"),)
    [fading] = halfway("shadows", (), (high,), 0.25)
    assert (fading.y, fading.blur, parse_colour(fading.colour)[3]) == (10, 20, pytest.approx(0.25, abs=0.01))
    inset = high.model_copy(update={"inset": True})
    assert [shadow.inset for shadow in halfway("shadows", (low,), (inset,))] == [False, True]


@pytest.mark.parametrize(
    ("start", "end", "middle"),
    [
        ((4.0, 2.0), (8.0, 6.0), (6.0, 4.0)),
        ((4.0,), (8.0, 6.0), (6.0, 5.0)),
        ((), (8.0, 6.0), (8.0, 3.0)),
        ((1.0, 2.0, 3.0, 4.0), (3.0, 2.0), (2.0, 2.0, 3.0, 3.0)),
        ((), (), ()),
    ],
)
def test_dashes(start: tuple[float, ...], end: tuple[float, ...], middle: tuple[float, ...]) -> None:
    assert halfway("dash", start, end) == middle


def test_texts_fade_and_choices_switch_at_once() -> None:
    assert halfway("fade", "Open", "Shut", 0.25) == Fade("Open", "Shut", 0.25)
    assert halfway("discrete", "round", "butt", 0.01) == "butt"
    assert halfway("visible", False, True, 0.25) == 0.25
    assert halfway("visible", False, True, 1.0) is True


SQUARE = "M10 10H90V90H10Z"
SHAPES = {
    "square to tick": (SQUARE, "M15 55L40 80L85 25"),
    "square to filled tick": (SQUARE, "M10 50L22 38L40 58L78 18L90 30L40 84Z"),
    "play to pause": ("M20 10L90 50L20 90Z", "M20 10H42V90H20ZM58 10H80V90H58Z"),
    "three lines to a cross": ("M10 25H90M10 50H90M10 75H90", "M15 15L85 85M85 15L15 85"),
    "circle to star": (
        "M50 10A40 40 0 1 1 49.99 10Z",
        "M50 5L61 39L97 39L68 60L79 95L50 74L21 95L32 60L3 39L39 39Z",
    ),
    "line to wave": ("M10 50L90 50", "M10 50C30 10 40 10 50 50S70 90 90 50"),
}


def area(data: str) -> float:
    return sum(path.area for path in subpaths(data))


@pytest.mark.parametrize(("start", "end"), SHAPES.values(), ids=SHAPES.keys())
def test_outlines_keep_their_shapes_at_both_ends(start: str, end: str) -> None:
    between = blend_named("path", "oklab").between(start, end)
    for share, exact in ((0.0, start), (1.0, end)):
        shown = between.value(np.array([share]))
        corners = [path.cubics[:, 0] for path in subpaths(exact)]
        points = np.concatenate([path.points_at(np.linspace(0, 1, 4001)) for path in subpaths(shown)])
        for corner in np.concatenate(corners):
            assert np.min(np.hypot(*(points - corner).T)) < 0.1
        if "Z" in start and "Z" in end:
            assert area(shown) == pytest.approx(area(exact), rel=2e-3)


@pytest.mark.parametrize("name", ["square to filled tick", "play to pause", "circle to star"])
def test_closed_outlines_do_not_collapse_halfway(name: str) -> None:
    start, end = SHAPES[name]
    middle = blend_named("path", "oklab").between(start, end).value(np.array([0.5]))
    assert area(middle) > 0.8 * min(area(start), area(end))


def test_points_travel_no_farther_than_they_must() -> None:
    # The same square, begun at another corner and run the other way round, does not move at all.
    _, start, end = matched(SQUARE, "M90 90L90 10L10 10L10 90Z M0 0Z")
    assert np.max(np.abs(start - end)) < 1e-6


def test_what_has_no_partner_grows_from_a_point() -> None:
    commands, start, _ = matched("M20 10L90 50L20 90Z", "M20 10H42V90H20ZM58 10H80V90H58Z")
    assert commands.count("M") == 2
    parts = np.split(start.reshape(-1, 2), [commands.index("Z", 0) * 3 - 2])
    point, triangle = sorted(parts, key=lambda part: float(np.ptp(part)))
    assert np.ptp(triangle, axis=0).min() > 60.0
    assert np.ptp(point, axis=0).max() == 0.0
    assert area("M0 0H9V9H0ZM3 3V6H6V3Z") > 0.0


@pytest.mark.parametrize("mirrored", [False, True])
def test_holes_stay_holes(mirrored: bool) -> None:
    """All of an outline is run the other way round, or nothing of it: else a ring would be filled at its ends."""
    ring, frame = "M0 0H90V90H0ZM20 20V70H70V20Z", "M10 10H80V80H10ZM40 40V50H50V40Z"
    if mirrored:
        frame = "M10 10V80H80V10ZM40 40H50V50H40Z"
    between = blend_named("path", "oklab").between(ring + " M0 0", frame)
    for share, left in ((0.0, 8100 - 2500), (0.5, 80 * 80 - 30 * 30), (1.0, 4900 - 100)):
        paths = subpaths(between.value(np.array([share])))
        assert abs(sum(path.signed_area for path in paths)) == pytest.approx(left, rel=1e-3)


def test_mirrored_outlines_of_the_same_commands_do_not_collapse() -> None:
    arrow, back = "M10 40H60V10L90 50L60 90V60H10Z", "M90 40H40V10L10 50L40 90V60H90Z"
    middle = blend_named("path", "oklab").between(arrow, back).value(np.array([0.5]))
    assert area(middle) > 0.4 * area(arrow)


def test_outlines_with_the_same_commands_are_taken_as_they_are() -> None:
    commands, start, end = matched("M0 0L10 0L10 10Z", "M5 5L15 5L25 30Z")
    assert (commands, start.tolist(), end.tolist()) == (
        "MLLLZ",
        [0, 0, 10, 0, 10, 10, 0, 0],
        [5, 5, 15, 5, 25, 30, 5, 5],
    )


def test_path_text_is_path_data() -> None:
    text = blend_named("path", "oklab").between(SQUARE, SHAPES["square to tick"][1]).value(np.array([0.3]))
    assert re.fullmatch(r"[MC0-9 .-]+", text)
    assert subpaths(text)
