"""What goes round on its own, made in the page: from layers, and from a transition."""

from __future__ import annotations

from typing import Any

import pytest
from selenium.webdriver import ActionChains, Keys
from selenium.webdriver.common.by import By
from test_building import add, begin, choose, give
from test_from_empty import inked

from keen_ripple.core.document import read_piece
from keen_ripple.core.timeline import sample, timeline_of


def styles(bench, layer: str, css: str, stage: str = "loop") -> str:
    return str(bench.one(f"[data-stage={stage}] [data-layer={layer}]").value_of_css_property(css))


def goes_round(bench, layer: str, prop: str) -> dict[str, Any]:
    bench.unfold("Goes round on its own")
    field = bench.one("input[aria-label='What goes round']")
    ActionChains(bench.browser).click(field).send_keys(prop, Keys.ENTER).perform()
    shown = "//*[contains(@class, 'ant-select')][.//input[@aria-label='What goes round']]"
    bench.wait(lambda: bench.browser.find_element(By.XPATH, shown).text.strip() == prop, f"no {prop} to go round")
    bench.press("+ undercurrent")
    bench.one(".key-axis")
    return bench.document()["undercurrents"][-1]


def keys_of(bench) -> list[tuple[int, Any]]:
    return [(key["at_ms"], key["value"]) for key in bench.document()["undercurrents"][-1]["courses"][0]["keys"]]


def test_a_glow_that_breathes_under_a_button(bench) -> None:
    begin(bench, "Landing light", 200, 120)
    glow = add(bench, "rectangle", "Glow", width=120, height=48, x=40, y=36, fill="#f2c14e", opacity=0.4)
    add(bench, "rectangle", "Button", width=100, height=36, x=50, y=42, fill="#1f7a70")
    choose(bench, glow)
    made = goes_round(bench, glow, "opacity")
    assert (made["period_ms"], keys_of(bench)) == (1200, [(0, 0.4), (600, 0.9)])
    # It is seen at once, in a piece of one state.
    seen: set[str] = set()
    bench.wait(lambda: seen.add(styles(bench, glow, "opacity")) or len(seen) > 4, "that it breathes")
    assert all(0.39 < float(share) < 0.91 for share in seen)

    # Keys by keyboard and pointer; the period takes them along, and what cannot be is said in the field.
    bench.set("value of key 2 of opacity of Glow", "0.8")
    grip = bench.one("[aria-label='Key 2 of opacity of Glow']")
    press = ActionChains(bench.browser).click(grip).key_down(Keys.SHIFT).send_keys(Keys.ARROW_RIGHT).key_up(Keys.SHIFT)
    bench.changed(press.perform)
    assert keys_of(bench)[1] == (610, 0.8)
    bench.press("+ key")
    assert [at for at, _ in keys_of(bench)] == [0, 305, 610]
    bench.changed(lambda: bench.drag(bench.one("[aria-label='Key 2 of opacity of Glow']"), 30, 0))
    moved = keys_of(bench)[1][0]
    assert 440 < moved < 465
    bench.fill(bench.field("period"), "1")
    bench.wait(lambda: any("fall on each other" in text for text in bench.faults()))
    assert bench.document()["undercurrents"][0]["period_ms"] == 1200
    bench.fill(bench.field("period"), "2400")
    bench.wait(lambda: bench.document()["undercurrents"][0]["period_ms"] == 2400)
    assert [at for at, _ in keys_of(bench)] == [0, 2 * moved, 1220]
    bench.set("phase, ms that have passed at the start", "600")
    timeline = timeline_of(read_piece(bench.document()))
    assert timeline.run.loop_ms == 2400

    # Level by level back to the piece, from which it is opened again; on the run sheet it is a line of its own.
    bench.one("h2").click()
    ActionChains(bench.browser).send_keys(Keys.ESCAPE).perform()
    bench.wait(lambda: bench.one(".inspector h2").text == "Glow")
    bench.one("header nav a[href$='run-sheet']").click()
    bench.one("[aria-label='Undercurrents'] button").click()
    bench.wait(lambda: bench.field("period").get_property("value") == "2400")
    bench.press("delete undercurrent")
    assert bench.document()["undercurrents"] == []
    bench.wait(lambda: not bench.all("[aria-label='Undercurrents']"))
    assert bench.errors() == []


def test_a_streak_that_runs_round_a_border_with_three_parameters(bench) -> None:
    begin(bench, "Streak", 200, 120)
    border = add(bench, "rectangle", "Border", width=160, height=80, x=20, y=20, fill="none", stroke="#f2c14e")
    bench.unfold("Line")
    give(bench, dash="80 400")
    made = goes_round(bench, border, "dash offset")
    bench.set("value of key 2 of dash offset of Border", "-480")
    bench.set("key 2 of dash offset of Border, at", "1200")
    bench.one("[aria-label='Key 1 of dash offset of Border']").click()
    bench.set("easing to the next", "linear")
    bench.changed(lambda: bench.button("its period").click())
    ActionChains(bench.browser).send_keys(Keys.ESCAPE).perform()
    bench.unfold("Copies may set")
    for label in ("stroke", "width"):
        chips = [e for e in bench.all(".chips button") if e.text == label]
        bench.changed(chips[0].click)
    parameters = bench.document()["parameters"]
    assert [each["kind"] for each in parameters] == ["time", "colour", "number"]
    assert parameters[0]["bind"][0]["undercurrent"] == made["id"]

    # Another piece takes it in, in another time and colour.
    streak = bench.browser.current_url.split("/pieces/")[1].split("/")[0]
    piece = read_piece(bench.document())
    holder = {
        "kind": "placement",
        "id": "copy",
        "name": "Copy",
        "piece": streak,
        "x": 0,
        "y": 0,
        "width": 200,
        "height": 120,
        "state": "first",
        "values": {parameters[0]["id"]: 600, parameters[1]["id"]: "#c03a1e"},
    }
    screen = {"format": 1, "id": "screen", "name": "Screen", "width": 200, "height": 120, "layers": [holder]}
    screen |= {"states": [{"id": "s", "name": "S"}], "start": "s"}
    timeline = timeline_of(read_piece(screen), library={streak: piece})
    assert timeline.run.common_loop_ms == 600
    [pose] = sample(timeline, [300])
    inner = pose[f"copy/{border}"]
    assert (inner["stroke_dash_offset"], inner["stroke"]) == (pytest.approx(-240, abs=0.5), "#c03a1e")
    # Deleted, it leaves no parameter that leads nowhere.
    bench.button("Border dash offset · 1200 ms").click()
    bench.press("delete undercurrent")
    assert [each["kind"] for each in bench.document()["parameters"]] == ["colour", "number"]


def test_dots_in_turn_and_a_transition_that_goes_round(bench) -> None:
    begin(bench, "Dots", 160, 80)
    dots = [add(bench, "ellipse", f"Dot {n}", width=12, height=12, x=30 * n, y=40) for n in (1, 2, 3)]
    bench.press("+ state")
    choose(bench, dots[0])
    give(bench, y=20)
    choose(bench, *dots)
    goes_round(bench, dots[0], "opacity")
    bench.set("opacity of Dot 1, Dot 2, Dot 3, each later by", "100")
    courses = bench.document()["undercurrents"][0]["courses"]
    assert [(course["layer"], course["offset_ms"]) for course in courses] == list(zip(dots, (0, 100, 200), strict=True))
    # Only while the second state is there: what is ticked last cannot be taken away.
    bench.changed(lambda: bench.one("[aria-label='Where it runs'] [title='in some']").click())
    boxes = lambda: bench.all("[aria-label='States in which it runs'] input")  # noqa: E731
    bench.changed(lambda: boxes()[0].click())
    bench.wait(lambda: not boxes()[1].is_enabled(), "that one state stays")
    assert bench.document()["undercurrents"][0]["states"] == ["state-2"]

    bench.choose_transition(bench.document()["transitions"][0]["id"])
    bench.press("as undercurrent")
    made = bench.document()["undercurrents"][1]
    assert [(c["layer"], c["property"]) for c in made["courses"]] == [(dots[0], "y")]
    assert made["period_ms"] == 2 * bench.document()["transitions"][0]["timing"]["duration_ms"]
    bench.wait(lambda: inked(bench, "[data-stage=loop]"))
    # Once more, there is nothing left that could.
    bench.choose_transition(bench.document()["transitions"][0]["id"])
    bench.button("as undercurrent").click()
    bench.wait(lambda: "does not go round already" in bench.one(".notice").text)
    assert bench.errors() == []
