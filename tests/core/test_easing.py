"""Easing functions against the browser's own values, and the text that is none."""

from __future__ import annotations

import numpy as np
import pytest

from keen_ripple.core.curves import Settle, Spring, parse_easing
from keen_ripple.core.curves.named import PARAMETERS
from keen_ripple.core.curves.presets import CURVES
from keen_ripple.core.errors import EasingFault

TEXTS = sorted(
    {
        *(text for text in CURVES.values() if text not in PARAMETERS),
        "step-start",
        "step-end",
        "cubic-bezier(0, 0, 1, 1)",
        "cubic-bezier(0.2, 0.8, 0.3, 1)",
        "cubic-bezier(0.68, -0.55, 0.27, 1.55)",
        "cubic-bezier(1, 0, 0, 1)",
        "cubic-bezier(0, 1, 0, 1)",
        "cubic-bezier(1, -2, 0, 3)",
        "cubic-bezier(0.3, 0.3, 0.3, 0.3)",
        "cubic-bezier(.9,.03,.69,.22)",
        "steps(1)",
        "steps(5, start)",
        "steps(5, end)",
        "steps(3, jump-start)",
        "steps(3, jump-both)",
        "steps(3, jump-none)",
        "steps(7, jump-both)",
        "linear(0, 1)",
        "linear(0, 0.25, 1)",
        "linear(0, 0.5 20% 40%, 1)",
        "linear(0, 40% 0.8, 1.2 60%, 1)",
        "linear(0.2, 0.9 30%, 0.4 30%, 1)",
        "linear(0 20%, 1 80%)",
        "linear(0, 1 50%, 0.5 20%, 1)",
        "linear(0, 0.1, 0.9 110%)",
        "linear(0.3 20%, 0.6 20%, 1)",
        "linear(0.3 20%, 0.5 20%, 0.6 20%, 1)",
        "linear(0 100%, 1 0%)",
        "linear(0.5 50%, 1 50%)",
        "linear(0, calc(1 / 2) calc(10% + 20%), min(0.9, 1))",
        "cubic-bezier(calc(0.1 * 2), calc(1 - (0.25 + 0.25)), .3, 1)",
        "cubic-bezier(0, 0, 0, 0)",
        "cubic-bezier(1, 1, 1, 1)",
        "cubic-bezier(0.1, 100, 0.2, -100)",
        "steps(calc(5 / 2))",
        "/* four */ steps(4)",
        Settle.of(Spring(420, 24)).css(),
        Settle.of(Spring(560, 16)).css(),
    }
)

PROGRESS = """
const animation = document.body.animate({opacity: [0, 1]}, {duration: 1000, easing: arguments[0], fill: 'both'});
animation.pause();
return arguments[1].map(t => { animation.currentTime = t; return animation.effect.getComputedTiming().progress; });
"""


def test_there_are_enough_to_mean_something() -> None:
    assert len(TEXTS) >= 25


@pytest.mark.parametrize("text", TEXTS)
def test_equals_the_browser(browser, text: str) -> None:
    browser.get("about:blank")
    times = [index * 10 for index in range(101)]
    theirs = browser.execute_script(PROGRESS, text, times)
    ours = parse_easing(text)(np.array(times) / 1000.0)
    assert np.max(np.abs(ours - np.array(theirs))) <= 1e-4


OUTSIDE = """
const [text, places] = arguments;
const box = document.createElement('div');
box.style.cssText = 'position: absolute; left: 0';
document.body.replaceChildren(box);
// The timing of the whole runs from -1 to 2, that of the keyframe is the one asked for.
const keyframes = [{left: '0px', easing: text}, {left: '10000px'}];
const animation = box.animate(keyframes, {duration: 3000, easing: 'linear(-1, 2)', fill: 'both'});
animation.pause();
const at = u => { animation.currentTime = (u + 1) * 1000; return parseFloat(getComputedStyle(box).left) / 1e4; };
return places.map(at);
"""


@pytest.mark.parametrize("text", TEXTS)
def test_equals_the_browser_outside_the_unit_interval_too(browser, text: str) -> None:
    browser.get("about:blank")
    places = [-0.97, -0.51, -0.13, 0.07, 0.51, 0.97, 1.03, 1.49, 1.97]
    theirs = np.array(browser.execute_script(OUTSIDE, text, places))
    assert np.max(np.abs(parse_easing(text)(np.array(places)) - theirs) / np.maximum(np.abs(theirs), 1.0)) <= 1e-3


@pytest.mark.parametrize("text", TEXTS)
def test_text_round_trip(text: str) -> None:
    easing = parse_easing(text)
    again = parse_easing(easing.css())
    u = np.linspace(0.0, 1.0, 997)
    assert np.max(np.abs(again(u) - easing(u))) <= 2e-5
    assert again.css() == easing.css()


@pytest.mark.parametrize("text", TEXTS)
def test_takes_floats_and_arrays_alike(text: str) -> None:
    easing = parse_easing(text)
    u = np.array([[-0.5, 0.0, 0.25], [0.5, 1.0, 1.5]])
    assert easing(u).shape == (2, 3)
    singly = [[easing(float(x)) for x in row] for row in u]
    np.testing.assert_allclose(singly, easing(u), rtol=0, atol=1e-12)
    assert isinstance(easing(0.3), float)


@pytest.mark.parametrize("text", TEXTS)
def test_trace_is_the_curve(text: str) -> None:
    easing = parse_easing(text)
    u, progress = easing.trace()
    assert (u[0], u[-1]) == (0.0, 1.0)
    assert np.all(np.diff(u) >= 0.0)
    middles = np.linspace(0.0005, 0.9995, 1999)
    away = np.min(np.abs(middles[:, None] - u[np.flatnonzero(np.diff(u) == 0.0)]), axis=1, initial=1.0) > 1e-9
    assert np.max(np.abs(np.interp(middles, u, progress) - easing(middles))[away]) <= 2e-5


@pytest.mark.parametrize(
    ("text", "u", "value"),
    [
        ("ease-in", -1.0, 0.0),
        ("cubic-bezier(0.25, 0.5, 0.75, 0.5)", -1.0, -2.0),
        ("cubic-bezier(0.25, 0.5, 0.75, 0.5)", 2.0, 3.0),
        ("cubic-bezier(0, 0.5, 1, 0.5)", 2.0, 1.0),
        ("linear", 1.5, 1.5),
        ("linear(0, 0.5 50%, 2)", 1.5, 3.5),
        ("steps(4, jump-start)", -0.5, -0.25),
        ("steps(4)", 1.5, 1.5),
    ],
)
def test_outside_the_unit_interval(text: str, u: float, value: float) -> None:
    assert parse_easing(text)(u) == pytest.approx(value)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "is not an easing function"),
        ("eas", "is not an easing function"),
        ("cubic-bezier(0.1, 0.2, 0.3)", "has 3 numbers"),
        ("cubic-bezier(1.2, 0, 0, 1)", "first number of cubic-bezier() is 1.2"),
        ("cubic-bezier(0, 0, -0.1, 1)", "third number"),
        ("cubic-bezier(a, 0, 0, 1)", "'a' where a number"),
        ("steps(0)", "has 0 steps"),
        ("steps(1, jump-none)", "at least 2"),
        ("steps(2.5)", "whole number"),
        ("steps(3, middle)", "unknown jump term"),
        ("linear(0)", "one stop"),
        ("linear(0, 20% 0.5 30%, 1)", "a stop is one number"),
        ("linear(0, , 1)", "the stop ''"),
        ("steps(99999999999)", "more steps than 1000"),
        ("cubic-bezier(0.1, 1e999, 0.2, 1)", "where a number belongs"),
        ("cubic-bezier(0.1, 101, 0.2, 1)", "has 101"),
        ("linear(0, calc(1 / 0), 1)", "the stop"),
        ("linear(0, calc(1% + 1), 1)", "the stop"),
        ("linear(0, 1 20000%)", "has 20000%"),
        ("linear(" + ", ".join(["0"] * 1001) + ")", "has 1001 stops"),
        ("ease" + " " * 20_000, "characters"),
        ("steps(" + "(" * 5000 + "4" + ")" * 5000 + ")", "too deep"),
        ("ease, ease", "is not an easing function"),
    ],
)
def test_faults_say_what_and_what_to_do(text: str, says: str) -> None:
    with pytest.raises(EasingFault) as caught:
        parse_easing(text)
    assert says in str(caught.value)
    assert caught.value.remedy


NAMED = ("anticipation", "anticipation(0.35)", "overshoot", "overshoot(0)", "bounce", "bounce(0.8)", "elastic(5)")


@pytest.mark.parametrize("text", NAMED)
def test_named_curves_are_exact_at_their_ends_and_play_in_css(browser, text: str) -> None:
    curve = parse_easing(text)
    assert (curve(-1.0), curve(0.0), curve(1.0), curve(2.0)) == (0.0, 0.0, 1.0, 1.0)
    assert parse_easing(curve.text()) == curve
    browser.get("about:blank")
    theirs = browser.execute_script(PROGRESS, curve.css(), [index * 10 for index in range(101)])
    assert np.max(np.abs(curve(np.arange(101) / 100.0) - theirs)) <= 1.1e-3


def test_named_curves_do_what_their_numbers_say() -> None:
    u = np.linspace(0.0, 1.0, 20001)
    assert parse_easing("anticipation(0.25)")(u).min() == pytest.approx(-0.25, abs=1e-6)
    assert parse_easing("overshoot(0.25)")(u).max() == pytest.approx(1.25, abs=1e-6)
    fall = parse_easing("bounce(0.5)")(u)
    assert fall.max() == 1.0
    # Each arc rises a quarter as high as the one before.
    lows = [fall[i] for i in range(1, len(u) - 1) if fall[i] < fall[i - 1] and fall[i] <= fall[i + 1]]
    assert [1.0 - low for low in lows] == pytest.approx([0.25, 0.0625, 0.015625, 0.00390625], abs=1e-6)
    swing = parse_easing("elastic(4)")(u) - 1.0
    assert np.count_nonzero(np.diff(np.sign(swing[:-1])) != 0) == 6


@pytest.mark.parametrize("text", ["bounce(0.9)", "elastic(0)", "overshoot(-1)", "elastic(1, 2)", "anticipation(x)"])
def test_named_curves_refuse_what_they_cannot_do(text: str) -> None:
    with pytest.raises(EasingFault) as caught:
        parse_easing(text)
    assert caught.value.remedy
