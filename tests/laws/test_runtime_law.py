"""The same events give the same pictures: the runtime in Chromium against `core.rehearse`.

Time is given, so that nothing depends on how fast machines are; real pointers are in tests/handoff.
"""

from __future__ import annotations

import json
import random
from pathlib import Path
from typing import Any

import pytest
from apart import differences
from hypothesis import HealthCheck, Phase, given, seed, settings
from hypothesis import strategies as st
from strategies import pieces

from keen_ripple.core.document import Piece, read_piece
from keen_ripple.core.errors import Fault
from keen_ripple.core.live.hearing import Event
from keen_ripple.core.live.rehearse import Rehearsal, rehearse
from keen_ripple.core.live.tables import tables_of
from keen_ripple.core.values.plain import plain

RUNTIME = Path(__file__).parents[2] / "src" / "keen_ripple" / "handoff" / "built" / "runtime.js"
# Off whole ms, at which things jump.
TIMES = [index * 61.7 + 0.13 for index in range(50)]
CUES = ("tap", "press", "over", "double-tap")
LISTS, OF_ONE_SEED = 300, 60

# What was written until each moment, what was heard, and by which share each look that was left is seen.
PLAY = """
const [cases, times] = arguments;
return cases.map(({tables, events}) => {
  const values = {}, heard = [];
  let shares = [], next = 0;
  const top = {write: (layer, name, value) => { values[`${layer}/${name}`] = value; }, flush() {}};
  const under = () => ({write() {}, flush() {}});
  const live = new runtime.Live(tables, {top, under, show: found => { shares = [...found]; }},
    {heard: ({reason, transition}) => heard.push([reason, transition])});
  const shown = times.map(t => {
    while (next < events.length && events[next].t_ms <= t) live.hear(events[next++]);
    live.show(t);
    return [{...values}, shares.filter(share => share > 0)];
  });
  return JSON.stringify({shown, heard});
});
"""


def with_cues(document: dict[str, Any], rng: random.Random) -> dict[str, Any]:
    """Ways between all states, set off by whatever somebody does; plays, early leaving and undercurrents by state."""
    ways = document["transitions"]
    for way in ways:
        if rng.random() < 0.5:
            way.update(cue=rng.choice(CUES[:3]), hold_ms=rng.choice((0, 0, 50)))
    names = [state["id"] for state in document["states"]]
    for a in names:
        for b in names:
            if a != b and rng.random() < 0.6:
                ways.append({**rng.choice(ways), "id": f"x{len(ways)}", "from": a, "to": b, "hold_ms": 0})
                ways[-1]["cue"] = rng.choice(CUES)
    for undercurrent in document["undercurrents"]:
        if rng.random() < 0.5:
            undercurrent["states"] = rng.sample(names, rng.randint(1, len(names)))
    return {**document, "plays": rng.choice((None, None, 1, 3))}


Case = tuple[Piece, list[Event], Rehearsal]
taps = st.lists(st.tuples(st.integers(0, 2500), st.sampled_from(CUES[:3])), min_size=2, max_size=8)


def cases(number: int) -> list[Case]:
    rng, found = random.Random(number), list[Case]()

    @seed(number)
    @settings(
        max_examples=OF_ONE_SEED,
        phases=[Phase.generate],
        deadline=None,
        database=None,
        suppress_health_check=list(HealthCheck),
    )
    @given(pieces(), taps)
    def collect(document: dict[str, Any], done: list[tuple[int, str]]) -> None:
        events = sorted((Event(t + 0.25, cue) for t, cue in done), key=lambda event: event.t_ms)
        try:
            piece = read_piece(with_cues(document, rng))
            found.append((piece, events, rehearse(piece, events, TIMES[-1])))
        except Fault:
            return

    collect()
    return found


@pytest.mark.parametrize("number", range(1, LISTS // OF_ONE_SEED + 1))
def test_the_runtime_shows_what_the_core_says(browser, number: int, record_property) -> None:
    browser.get("about:blank")
    browser.execute_script(f"{RUNTIME.read_text('utf-8')}; window.runtime = runtime;")
    found = cases(number)
    assert len(found) > OF_ONE_SEED * 0.8
    asked = [{"tables": tables_of(piece), "events": [vars(event) for event in events]} for piece, events, _ in found]
    worst = (0.0, "")
    answers = browser.execute_script(PLAY, asked, TIMES)
    for index, (answer, (_, _, played)) in enumerate(zip(answers, found, strict=True)):
        theirs = json.loads(answer)
        assert theirs["heard"] == [[heard.reason, heard.transition] for heard in played.heard], index
        for t, pose, (values, shares) in zip(TIMES, played.sample(TIMES), theirs["shown"], strict=True):
            weights = [weight for _, weight in played.faded_at(t)]
            # Of many looks that fade at once the runtime keeps those that are seen most.
            if len(weights) <= len(shares):
                assert shares == pytest.approx(weights, abs=0.002), (index, t)
            for key, value in values.items():
                layer, name = key.split("/")
                off = max(differences(plain(pose[layer][name]), value), default=0.0)
                worst = max(worst, (off, f"list {index} of seed {number} at {t:.1f} ms: {key}"))
    record_property("worst", f"{worst[0]:.2f} of its tolerance, {worst[1]}")
    assert worst[0] <= 1.0, worst
