"""The list of layers by hand: rows pulled among groups, and everything seen where it was."""

from __future__ import annotations

from typing import Any

import pytest
from selenium.webdriver import ActionChains, Keys

pytestmark = pytest.mark.xdist_group("ui")

DOTS = [f"dot-{n}" for n in range(1, 7)]


def dots() -> dict[str, Any]:
    """Six dots, of which two move; beside them a group that is moved by states, and one that is turned."""
    layers = [
        {"kind": "ellipse", "id": dot, "name": dot.title(), "x": 20 + 30 * n, "y": 20, "width": 16, "height": 16}
        for n, dot in enumerate(DOTS)
    ]
    groups = [
        {"kind": "group", "id": "fleet", "name": "Fleet", "x": 40, "y": 60, "width": 80, "height": 40, "layers": []},
        {"kind": "group", "id": "turned", "name": "Turned", "x": 140, "y": 60, "width": 60, "height": 40}
        | {"rotation": 90, "scale_x": 2, "scale_y": 2, "layers": []},
    ]
    away = {"dot-1": {"x": 60}, "dot-2": {"y": 40}, "fleet": {"x": 80}}
    return {
        "format": 1, "id": "dots", "name": "Dots", "width": 240, "height": 160, "layers": [*groups, *layers],
        "states": [{"id": "here", "name": "Here"}, {"id": "away", "name": "Away", "changes": away}], "start": "here",
    }  # fmt: skip


def row(bench, layer: str) -> Any:
    return bench.one(f"[data-row='{layer}']")


def pull_onto(bench, layer: str, target: str, down: float = 0.0) -> None:
    """`down` is a share of the height, from the middle of the row."""
    met = row(bench, target)
    chain = ActionChains(bench.browser).click_and_hold(row(bench, layer)).move_by_offset(0, 8)
    chain = chain.move_to_element_with_offset(met, 0, round(down * met.size["height"])).pause(0.05)
    bench.changed(chain.release().perform)


def places(bench) -> list[float]:
    """Of all dots in both states."""
    found: list[float] = []
    for state in ("here", "away"):
        bench.one(f"[data-state='{state}']").click()
        bench.wait(lambda state=state: bench.one(f"[data-state='{state}']").get_attribute("aria-pressed") == "true")
        found += [side for dot in DOTS for side in bench.box("pose", dot)]
    return found


def inside(bench, group: str) -> list[str]:
    [found] = [layer for layer in bench.document()["layers"] if layer["id"] == group]
    return [layer["id"] for layer in found["layers"]]


def test_six_layers_are_regrouped_by_hand_and_stay_where_they_are(bench) -> None:
    bench.put(dots())
    before = places(bench)
    # Three at once, in their order; the group moves in one state, they do not.
    bench.click_together(*(f"[data-row='{dot}']" for dot in DOTS[:3]))
    pull_onto(bench, "dot-2", "fleet")
    assert inside(bench, "fleet") == DOTS[:3]
    assert places(bench) == pytest.approx(before, abs=0.2)
    # One by one into a group that is turned and scaled, behind the one that is there.
    pull_onto(bench, "dot-4", "turned")
    pull_onto(bench, "dot-5", "dot-4", 0.3)
    assert inside(bench, "turned") == ["dot-5", "dot-4"]
    assert places(bench) == pytest.approx(before, abs=0.2)
    # Out again in front of another, from group to group, and by keys.
    pull_onto(bench, "dot-1", "dot-6", -0.3)
    pull_onto(bench, "dot-5", "dot-2", -0.3)
    assert inside(bench, "fleet") == ["dot-2", "dot-5", "dot-3"]
    row(bench, "dot-4").click()
    bench.changed(lambda: bench.keys(Keys.ARROW_LEFT, alt=True))
    assert inside(bench, "turned") == []
    assert places(bench) == pytest.approx(before, abs=0.2)
    assert [layer["id"] for layer in bench.document()["layers"]] == ["fleet", "turned", "dot-4", "dot-6", "dot-1"]
    bench.changed(lambda: bench.keys(Keys.PAGE_DOWN, alt=True))
    assert bench.document()["layers"][0]["id"] == "dot-4"

    # A group does not go into itself, and what is given up changes nothing.
    revision = bench.revision()
    met = row(bench, "dot-5")
    ActionChains(bench.browser).click_and_hold(row(bench, "fleet")).move_by_offset(0, 8).move_to_element(
        met
    ).release().perform()
    ActionChains(bench.browser).click_and_hold(row(bench, "dot-6")).move_by_offset(0, 40).perform()
    bench.wait(lambda: bench.all("li.pulled"))
    bench.keys(Keys.ESCAPE)
    bench.wait(lambda: not bench.all("li.pulled"))
    ActionChains(bench.browser).release().perform()
    assert bench.revision() == revision


def test_arrow_keys_move_what_was_chosen_in_the_list_and_escape_goes_up_to_the_piece(bench) -> None:
    bench.put(dots())
    row(bench, "dot-3").click()
    bench.changed(lambda: bench.keys(Keys.ARROW_DOWN))
    bench.changed(lambda: bench.keys(Keys.ARROW_RIGHT, shift=True))
    layer = next(layer for layer in bench.document()["layers"] if layer["id"] == "dot-3")
    state = bench.document()["states"][0].get("changes", {}).get("dot-3", {})
    assert {**layer, **state}["x"] == 90 and {**layer, **state}["y"] == 21
    # By keys one goes through the list.
    bench.browser.execute_script("arguments[0].focus()", row(bench, "dot-4"))
    bench.keys(Keys.ENTER)
    bench.keys(Keys.ARROW_DOWN)
    bench.wait(lambda: bench.one("li.chosen [data-row]").get_attribute("data-row") == "dot-3")

    bench.changed(lambda: bench.pick("+ transition", "to Away"))
    bench.wait(lambda: bench.all("[aria-label='Leads from']"))
    bench.browser.execute_script("document.activeElement.blur()")
    bench.keys(Keys.ESCAPE)
    bench.wait(lambda: bench.one(".inspector h2").text == "Dot-3")
    bench.keys(Keys.ESCAPE)
    bench.wait(lambda: bench.one(".inspector h2").text == "Dots")


def test_a_pivot_that_moves_leaves_its_layer_where_it_is(bench) -> None:
    document = dots()
    for layer in document["layers"]:
        if layer["id"] == "dot-1":
            layer |= {"width": 40, "rotation": 30, "scale_x": 1.5}
    bench.put(document)
    before = places(bench)
    row(bench, "dot-1").click()
    # In the base, while a state that has a place of its own is posed; then in that state alone.
    bench.one("[aria-label='What an edit changes'] [title='Edits the base']").click()
    bench.set("pivot x", "0")
    assert places(bench) == pytest.approx(before, abs=0.2)
    bench.one("[aria-label='What an edit changes'] [title='Edits this state']").click()
    bench.set("pivot y", "1")
    assert places(bench) == pytest.approx(before, abs=0.2)
    own = bench.document()["states"][1]["changes"]["dot-1"]
    assert own["x"] != 60 and own["pivot_y"] == 1


def test_the_box_of_a_group_goes_around_what_it_holds_and_nothing_is_seen_elsewhere(bench) -> None:
    document = dots()
    turned = document["layers"][1]
    turned["layers"] = [document["layers"].pop(2) for _ in range(2)]
    document["states"][1]["changes"]["turned"] = {"rotation": 30, "skew_x": 10, "x": 100}
    bench.put(document)
    before = places(bench)
    bench.one("[data-state='here']").click()
    row(bench, "turned").click()
    bench.one(".content-frame")
    bench.press("fit box")
    bench.wait(lambda: not bench.all(".content-frame"), "that nothing lies beyond its box")
    group = bench.document()["layers"][1]
    assert [group[side] for side in ("x", "y", "width", "height")] == [160, 80, 46, 16]
    assert [dot["x"] for dot in group["layers"]] == [0, 30]
    assert places(bench) == pytest.approx(before, abs=0.2)
    # Of a group with a size of its own in a state it is refused in words.
    bench.one("[data-state='away']").click()
    bench.one("[aria-label='What an edit changes'] [title='Edits this state']").click()
    bench.set("width", "90")
    bench.button("fit box").click()
    bench.wait(lambda: "Away has a size" in bench.one(".notice").text, "why it cannot be")


def test_what_lies_beyond_the_edge_is_cut_off_where_it_plays(bench) -> None:
    document = dots()
    bench.put(
        {
            **document,
            "id": "edge",
            "layers": [{**document["layers"][2], "x": -8}],
            "states": [{"id": "here", "name": "Here"}],
        }
    )
    stages = lambda: {  # noqa: E731
        name: bench.one(f"[data-stage={name}] .scene").value_of_css_property("overflow-x") for name in ("pose", "loop")
    }
    assert stages() == {"pose": "visible", "loop": "visible"}
    bench.changed(bench.one(".inspector .ant-checkbox-input").click)
    # While it is posed, what waits outside is seen.
    bench.wait(lambda: stages() == {"pose": "visible", "loop": "hidden"})


CLIPBOARD = """
const [kind, text] = arguments;
const transfer = new DataTransfer();
if (text) transfer.setData('text/plain', text);
document.activeElement.blur();
document.body.dispatchEvent(new ClipboardEvent(kind, {clipboardData: transfer, bubbles: true, cancelable: true}));
return transfer.getData('text/plain');
"""


def test_layers_go_to_another_piece_and_wrong_files_are_refused_in_words(bench) -> None:
    bench.put(dots())
    bench.click_together("[data-row='dot-1']", "[data-row='dot-2']")
    text = bench.browser.execute_script(CLIPBOARD, "copy", "")
    bench.put(
        {**dots(), "id": "quay", "name": "Quay", "layers": [], "states": [{"id": "z", "name": "Away"}], "start": "z"}
    )
    bench.changed(lambda: bench.browser.execute_script(CLIPBOARD, "paste", text))
    document = bench.document()
    assert [layer["name"] for layer in document["layers"]] == ["Dot-1", "Dot-2"]
    assert document["states"][0]["changes"] == {"dot-1": {"x": 60}, "dot-2": {"y": 40}}
    bench.changed(lambda: bench.browser.execute_script(CLIPBOARD, "paste", text))
    assert [layer["name"] for layer in bench.document()["layers"]] == ["Dot-1", "Dot-2", "Dot-1 2", "Dot-2 2"]
    revision = bench.revision()
    bench.browser.execute_script("""
        const transfer = new DataTransfer();
        transfer.items.add(new File(['x'], 'tide.pdf', {type: 'application/pdf'}));
        document.body.dispatchEvent(new DragEvent('drop', {dataTransfer: transfer, bubbles: true, cancelable: true}));
    """)
    bench.wait(lambda: any("tide.pdf is no picture that can be taken" in fault for fault in bench.faults()))
    assert bench.revision() == revision


def values(bench, prop: str) -> list[float]:
    """Of the first three dots, in the state that says it, or else in all."""
    document = bench.document()
    base = {layer["id"]: layer for layer in document["layers"]}
    own = document["states"][1]["changes"]
    return [own.get(dot, {}).get(prop, base[dot].get(prop)) for dot in DOTS[:3]]


def test_values_of_a_state_are_marked_and_taken_back_and_several_change_each_from_its_own(bench) -> None:
    bench.put(dots())
    bench.one("[data-state='away']").click()
    row(bench, "dot-1").click()
    bench.wait(lambda: bench.one(".from-before").text == "From Here: x +40")
    # A bar at the field, and an empty field, both lead back to the base.
    assert [mark.get_attribute("aria-label") for mark in bench.all(".own-mark")] == ["x back to the base"]
    bench.changed(lambda: bench.fill(bench.field("y"), "33"))
    bench.wait(lambda: len(bench.all(".own-mark")) == 2)
    bench.changed(bench.one("[aria-label='x back to the base']").click)
    bench.changed(lambda: bench.fill(bench.field("y"), Keys.DELETE))
    assert "dot-1" not in bench.document()["states"][1]["changes"]
    bench.wait(lambda: not bench.all(".own-mark"))

    bench.click_together(*(f"[data-row='{dot}']" for dot in DOTS[:3]))
    bench.wait(lambda: bench.field("x").get_attribute("placeholder") == "differs")
    bench.changed(lambda: bench.field("x").send_keys(Keys.ARROW_UP))
    assert values(bench, "x") == [21, 51, 81]
    bench.changed(lambda: bench.fill(bench.field("x"), "*2"))
    assert values(bench, "x") == [42, 102, 162]
    bench.changed(lambda: bench.fill(bench.field("x"), "-10"))
    assert values(bench, "x") == [-10, -10, -10]
    # What is refused stays as it was typed.
    bench.fill(bench.field("width"), "+wide")
    bench.wait(lambda: any("a change of each such as +40" in fault for fault in bench.faults()))
    assert bench.field("width").get_property("value") == "+wide"


def test_undo_goes_to_where_it_undid_and_a_reload_finds_it_as_it_was_left(bench) -> None:
    def seen() -> tuple[Any, str]:
        return bench.one("[data-state][aria-pressed=true]").get_attribute("data-state"), bench.one(".inspector h2").text

    bench.put(dots())
    bench.one("[data-state='away']").click()
    row(bench, "dot-1").click()
    bench.set("y", "44")
    bench.one("[data-state='here']").click()
    row(bench, "dot-5").click()
    bench.wait(lambda: seen() == ("here", "Dot-5"))
    bench.press("Undo")
    bench.wait(lambda: seen() == ("away", "Dot-1"))
    bench.button("1:1").click()
    bench.unfold("Colour filters")
    bench.wait(lambda: bench.zoom() == 1)
    bench.browser.refresh()
    bench.wait(lambda: seen() == ("away", "Dot-1"))
    assert bench.zoom() == 1
    assert bench.field("hue").is_displayed()
    # A piece that is opened is shown whole, and nothing of it is chosen.
    bench.open("/pieces/dots")
    bench.wait(lambda: seen() == ("here", "Dots"))
    assert bench.zoom() > 1
