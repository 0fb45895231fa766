"""Interruptions against real CSS transitions in Chromium, springs that keep their speed, and rehearsals as values."""

from __future__ import annotations

import random
from typing import Any

import numpy as np
import pytest

from keen_ripple.core.document import read_piece
from keen_ripple.core.errors import RunFault
from keen_ripple.core.live.hearing import Event
from keen_ripple.core.live.rehearse import Rehearsal, rehearse
from keen_ripple.core.timeline import sample, timeline_of
from support import piece, way

PLACES = {"near": 10, "middle": 60, "far": 170}


def switchboard(timing: dict[str, Any], **rest: Any) -> dict[str, Any]:
    """From each place a tap on a layer leads to each other."""
    pads = [
        {"kind": "rectangle", "id": place, "name": place, "x": 0, "y": 0, "width": 1, "height": 1} for place in PLACES
    ]
    box = {"kind": "rectangle", "id": "box", "name": "Box", "x": 10, "y": 0, "width": 20, "height": 20}
    states = [{"id": name, "name": name, "changes": {"box": {"x": x}}} for name, x in PLACES.items()]
    ways = [{**way(a, b, timing), "cue": "tap", "cue_layer": b, **rest} for a in PLACES for b in PLACES if a != b]
    return piece([box, *pads], states=states, transitions=ways, start="near")


def played(document: dict[str, Any], taps: list[tuple[float, str]], until: float = 4000.0) -> Rehearsal:
    return rehearse(read_piece(document), [Event(t, "tap", place) for t, place in taps], until)


def xs(rehearsal: Rehearsal, times: list[float]) -> list[float]:
    return [pose["box"]["x"] for pose in rehearsal.sample(times)]


# A transition is paused as soon as it exists and then moved by hand, so that nothing depends on how fast machines are.
IN_CSS = """
const [timing, start, taps, times] = arguments;
const box = document.createElement('div');
box.style.cssText = `position: absolute; left: 0; top: 0; translate: ${start}px 0px`;
document.body.replaceChildren(box);
getComputedStyle(box).translate;
box.style.transition = `translate ${timing}`;
let began = 0, motion = null;
const at = t => {
  if (motion) motion.currentTime = t - began;
  return parseFloat(getComputedStyle(box).translate);
};
const shown = [];
const moments = [...times.map(t => [t, null]), ...taps].sort((a, b) => a[0] - b[0] || (a[1] === null ? 1 : -1));
for (const [t, place] of moments) {
  if (place === null) { shown.push(at(t)); continue; }
  at(t);
  box.style.translate = `${place}px 0px`;
  getComputedStyle(box).translate;
  const next = box.getAnimations()[0] ?? null;
  if (next !== motion) { motion = next; began = t; motion?.pause(); }
}
return shown;
"""


def hard_cases() -> list[tuple[str, int, list[tuple[float, str]]]]:
    """Easing, duration and taps: sent back, sent back again, sent elsewhere, sent where it goes already."""
    fixed = [
        ("linear", 400, [(0, "far"), (100, "near")]),
        ("ease", 400, [(0, "far"), (100, "near"), (180, "far"), (230, "near")]),
        ("ease-in", 600, [(0, "far"), (500, "near"), (700, "far")]),
        ("ease-out", 300, [(0, "far"), (30, "middle"), (60, "near"), (90, "far")]),
        ("cubic-bezier(0.3, 0, 0.3, 1.6)", 500, [(0, "far"), (250, "near"), (400, "far")]),
        ("cubic-bezier(0.6, -0.6, 0.4, 1)", 500, [(0, "far"), (260, "near"), (300, "far")]),
        ("steps(5, jump-end)", 500, [(0, "far"), (250, "near"), (310, "far")]),
        ("linear(0, 0.9 20%, 0.6 50%, 1)", 500, [(0, "middle"), (220, "near"), (300, "far"), (350, "middle")]),
    ]
    rng = random.Random(9)
    names = list(PLACES)
    for easing in ("ease", "linear", "ease-in-out", "cubic-bezier(0.1, 0.9, 0.2, 1)") * 3:
        duration, state, taps, t = rng.randrange(200, 900), "near", [], 0.0
        for _ in range(rng.randrange(3, 8)):
            state = rng.choice([name for name in names if name != state])
            taps.append((t, state))
            t += rng.randrange(20, duration)
        fixed.append((easing, duration, taps))
    return fixed


@pytest.mark.parametrize("case", hard_cases(), ids=lambda case: f"{case[0]} {len(case[2])} taps")
def test_interrupted_curves_are_what_css_transitions_do(browser, case) -> None:
    easing, duration, taps = case
    browser.get("about:blank")
    times = [index * 17.3 + 0.01 for index in range(120)]
    css = [[t, PLACES[place]] for t, place in taps]
    theirs = browser.execute_script(IN_CSS, f"{duration}ms {easing}", PLACES["near"], css, times)
    timing = {"kind": "curve", "duration_ms": duration, "easing": easing}
    ours = xs(played(switchboard(timing), taps), times)
    assert np.max(np.abs(np.array(ours) - theirs)) <= 0.5


def delayed_cases(count: int) -> list[tuple[str, int, int, list[tuple[float, str]]]]:
    """Easing, duration, delay and taps, many of them while the motion still waits for its delay."""
    rng = random.Random(12)
    easings = ("ease", "linear", "ease-in-out", "cubic-bezier(0.1, 0.9, 0.2, 1)", "cubic-bezier(0.3, 0, 0.3, 1.6)")
    found = [("linear", 200, 100, [(0.0, "far"), (50.0, "near")])]
    while len(found) < count:
        duration, delay, state, taps, t = rng.randrange(80, 600), rng.randrange(1, 400), "near", [], 0.0
        for _ in range(rng.randrange(2, 9)):
            state = rng.choice([name for name in PLACES if name != state])
            taps.append((t, state))
            t += rng.randrange(5, duration + delay)
        found.append((rng.choice(easings), duration, delay, taps))
    return found


def test_interruptions_with_delays_are_what_css_transitions_do(browser) -> None:
    browser.get("about:blank")
    times = [index * 23.3 + 0.01 for index in range(160)]
    off = []
    for easing, duration, delay, taps in delayed_cases(150):
        css = [[t, PLACES[place]] for t, place in taps]
        theirs = browser.execute_script(IN_CSS, f"{duration}ms {easing} {delay}ms", PLACES["near"], css, times)
        timing = {"kind": "curve", "duration_ms": duration, "easing": easing}
        late = {"lanes": [{"layer": "box", "delay_ms": delay}]}
        ours = xs(played(switchboard(timing, **late), taps), times)
        off.append((float(np.max(np.abs(np.array(ours) - theirs))), easing, duration, delay, taps))
    assert [case for case in off if case[0] > 0.5] == []


def test_a_change_at_once_that_still_waits_is_given_up_too() -> None:
    late = {"lanes": [{"layer": "box", "delay_ms": 100, "style": "cut"}]}
    document = switchboard({"kind": "curve", "duration_ms": 200}, **late)
    rehearsal = played(document, [(0, "far"), (50, "near"), (300, "far"), (350, "middle")])
    assert xs(rehearsal, [40, 60, 120, 299, 390, 440, 460, 3000]) == [10, 10, 10, 10, 10, 10, 60, 60]


def test_sent_back_from_behind_the_start_takes_the_share_that_css_transitions_says() -> None:
    """There the share is that of the way back as it lies, without its sign; Chromium takes none."""
    timing = {"kind": "curve", "duration_ms": 500, "easing": "cubic-bezier(0.6, -0.6, 0.4, 1)"}
    rehearsal = played(switchboard(timing), [(0, "far"), (80, "near")])
    behind = xs(rehearsal, [80.0])[0]
    assert behind < 10.0
    back = rehearsal.moves[-1]
    assert back.end_ms - back.start_ms == pytest.approx(500 * (10.0 - behind) / 160.0)


def test_there_are_twenty_of_them_with_several_interruptions() -> None:
    assert len(hard_cases()) >= 20
    assert sum(len(taps) >= 4 for *_, taps in hard_cases()) >= 8


@pytest.mark.parametrize("damping", [8, 24, 60])
def test_springs_keep_their_speed_through_any_number_of_interruptions(damping: float) -> None:
    taps = [(0, "far"), (90, "near"), (130, "middle"), (300, "far"), (333, "near"), (700, "middle")]
    spring = {"kind": "spring", "stiffness": 420, "damping": damping}
    rehearsal = played(switchboard(spring), taps)
    for t, _ in taps[1:]:
        a, b, c, d = xs(rehearsal, [t - 0.02, t - 1e-9, t + 1e-9, t + 0.02])
        assert c == pytest.approx(b, abs=1e-4)
        assert (d - c) / 0.02 == pytest.approx((b - a) / 0.02, abs=0.05)
    # The force is that of the spring: m·x″ = k·(goal − x) − c·x′, with the last goal.
    h = 0.5
    x0, x1, x2 = xs(rehearsal, [740 - h, 740, 740 + h])
    force = (x2 - 2 * x1 + x0) / (h / 1000) ** 2
    assert force == pytest.approx(420 * (60 - x1) - damping * (x2 - x0) / (2 * h / 1000), rel=0.01, abs=5)
    assert xs(rehearsal, [3999.0]) == pytest.approx([60.0])


def test_a_number_at_its_goal_in_full_speed_swings_out_and_back() -> None:
    timing = {"kind": "curve", "duration_ms": 400, "easing": "linear"}
    document = switchboard(timing)
    for transition in document["transitions"]:
        if transition["to"] == "middle":
            transition["timing"] = {"kind": "spring", "stiffness": 300, "damping": 20}
    # 50 px into a way of 160 in 400 ms: at the middle, with 400 px/s.
    rehearsal = played(document, [(0, "far"), (125, "middle")])
    assert xs(rehearsal, [125.0]) == pytest.approx([60.0])
    assert max(xs(rehearsal, [float(t) for t in range(125, 500)])) > 65.0
    assert xs(rehearsal, [3000.0]) == pytest.approx([60.0])


def test_a_rehearsal_without_events_is_the_run() -> None:
    document = piece()
    run = timeline_of(read_piece(document))
    alone = rehearse(read_piece(document), [], 1200.0)
    times = [float(t) for t in range(0, 1200, 7)]
    assert xs(alone, times) == pytest.approx([pose["box"]["x"] for pose in sample(run, times)])
    assert [(s.kind, s.from_, s.to, s.start_ms, s.end_ms) for s in alone.segments[:3]] == [
        ("travel", "a", "b", 0, 400),
        ("hold", "b", "b", 400, 500),
        ("travel", "b", "a", 500, 500),
    ]


def test_what_nothing_waits_for_is_told() -> None:
    spring = {"kind": "spring", "stiffness": 420, "damping": 24}
    rehearsal = played(switchboard(spring, hold_ms=200), [(10, "far"), (300, "far"), (350, "near"), (400, "nowhere")])
    # Before 200 ms the start has not rested; in mid-transition nothing that needs a rest is heeded.
    assert [event.t_ms for event in rehearsal.unheeded] == [10, 350, 400]
    assert rehearsal.state == "far"


def test_the_same_events_give_the_same_tape() -> None:
    taps = [(0, "far"), (90, "near"), (130, "middle")]
    first, second = (played(switchboard({"kind": "spring", "stiffness": 420, "damping": 24}), taps) for _ in range(2))
    assert first.moves == second.moves
    for a, b in zip(first.tape(), second.tape(), strict=True):
        assert a.times_ms.tobytes() == b.times_ms.tobytes()
        assert a.rows.tobytes() == b.rows.tobytes()


def test_states_that_chase_each_other_in_no_time_are_refused() -> None:
    instant = {"kind": "curve", "duration_ms": 0}
    document = piece(transitions=[way("a", "b", instant), way("b", "a", instant)])
    with pytest.raises(RunFault) as caught:
        rehearse(read_piece(document), [], 100.0)
    assert caught.value.remedy
