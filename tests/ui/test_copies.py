"""Pieces in pieces, from nothing: a card, and a carousel of copies of it that each have their own words."""

from __future__ import annotations

import json

import pytest
from selenium.webdriver import ActionChains
from selenium.webdriver.common.keys import Keys
from test_accessibility import findings
from test_building import add, begin, choose, give, grouped
from test_from_empty import select

pytestmark = pytest.mark.xdist_group("ui")

PIERS = ("North", "East", "South")


def a_card(bench) -> None:
    """Shut, and open with its words seen; copies may set words and colour."""
    begin(bench, "Card of a pier", 60, 90)
    face = add(bench, "rectangle", "Face", x=0, y=0, width=60, height=90, fill="#1f7a70")
    words = add(bench, "text", "Words", x=6, y=40, width=48, height=20, opacity=0)
    for row, value in ((face, "fill"), (words, "text")):
        choose(bench, row)
        if not bench.all("details[open] .chips"):
            bench.unfold("Copies may set")
        bench.press(value)
    bench.rename_state("first", "Shut")
    bench.press("+ state")
    bench.rename_state("state-2", "Open")
    choose(bench, words)
    give(bench, opacity=1, y=20)
    bench.one("[data-state='state-2']").click()
    bench.changed(lambda: bench.pick("+ transition", "to Shut"))
    bench.choose_transition("first-to-state-2")
    bench.set("duration", "420")


def place_card(bench, name: str) -> str:
    bench.button("+ add").click()
    opener = bench.wait(
        lambda: [e for e in bench.all(".ant-dropdown-menu-submenu-title") if e.text == "another piece"]
    )[0]
    ActionChains(bench.browser).move_to_element(opener).perform()
    item = bench.wait(lambda: [e for e in bench.all(".ant-dropdown-menu-item") if e.text == "Card of a pier"])[0]
    bench.changed(item.click)
    fresh = str(bench.one("li.chosen [data-row]").get_attribute("data-row"))
    bench.rename_layer(fresh, name)
    return fresh


def stand(bench, copy: str, state: str) -> None:
    choose(bench, copy)
    bench.changed(lambda: select(bench, "State of the copy", state))


def into_a_copy(bench, copy: str, state: str) -> None:
    """By keys: its row opens into those of what is in it, which are read here."""
    opener = bench.one("[aria-label='What is in North card']")
    opener.send_keys(Keys.ENTER)
    row = f"[data-score-row='{copy}/text/opacity']"
    bench.wait(lambda: bench.all(row))
    before, after = (bench.one(f"{row} td:nth-of-type({at})").text for at in (1, 3))
    assert (before, after) == ("1", "0")
    assert not bench.all(f"{row} input") and bench.all(f"{row} .way .bar")
    assert findings(bench) == []
    # What is pasted over them goes to the piece's own rows alone.
    bench.cell(copy, "state", state).click()
    document = bench.document()
    bench.one("[aria-label='What is in North card']").send_keys(Keys.ENTER)
    bench.wait(lambda: not bench.all(row))
    assert bench.document() == document


def trying_values(bench) -> None:
    """On the stage of the original; what cannot be is said, and what is left changes nothing."""
    before = bench.document()
    bench.button("try values…").click()
    panel = "[aria-label='Values that are tried']"
    colour = bench.one(f"{panel} [aria-label='face fill']")
    bench.fill(colour, "blurple")
    bench.wait(lambda: bench.faults())
    bench.fill(colour, "#d9503a")
    face = "[data-stage=loop] [data-layer=rectangle]"
    bench.wait(lambda: "(217, 80, 58" in bench.one(face).value_of_css_property("background-color"))
    bench.fill(bench.one(f"{panel} [aria-label='words text']"), "Lee")
    bench.wait(lambda: bench.one("[data-stage=loop] [data-layer=text]").text == "Lee")
    assert "face fill and words text" in bench.one(".stage-label.tried").text
    bench.button("Discard").click()
    bench.wait(lambda: not bench.all(".stage-label.tried"))
    assert bench.document() == before
    bench.browser.switch_to.active_element.send_keys(Keys.ESCAPE)


def test_what_lives_by_itself_on_the_run_sheet(bench) -> None:
    a_card(bench)
    begin(bench, "Quay wall", 200, 120)
    copy = place_card(bench, "Gate card")
    choose(bench, copy)
    bench.changed(bench.one("[aria-label='How it lives'] [title^='It plays']").click)
    bench.one("nav").find_element("link text", "Run sheet").click()
    line = bench.wait(lambda: bench.all(".voices li"))[0]
    assert "goes round in" in line.find_element("css selector", "svg").get_attribute("aria-label")
    # There and back, round after round.
    told = [bar.get_attribute("textContent") for bar in line.find_elements("css selector", ".stretch title")]
    assert "Shut to Open" in told[0] and "Open to Shut" in told[1]
    assert findings(bench) == []
    bench.button("Gate card").click()
    bench.wait(lambda: "/pieces/card-of-a-pier" in bench.browser.current_url)


def test_a_carousel_from_one_card(bench) -> None:
    a_card(bench)
    begin(bench, "Carousel", 240, 120)
    copies = [place_card(bench, f"{pier} card") for pier in PIERS]
    for copy, pier, colour in zip(copies, PIERS, ("#b9832b", "#d9503a", "#15293b"), strict=True):
        choose(bench, copy)
        bench.set("words text", pier)
        bench.changed(lambda colour=colour: bench.fill(bench.field("face fill"), colour))
    choose(bench, *copies)
    grouped(bench, "Row")
    bench.unfold("Row or column")
    bench.changed(bench.one("[aria-label=layout] [title=row]").click)

    # One open in each state; what copies say themselves stays.
    bench.rename_state("first", PIERS[0])
    for pier in PIERS[1:]:
        bench.press("+ state")
        bench.rename_state(bench.one(".state-head.chosen button").get_attribute("data-state"), pier)
    states = [state["id"] for state in bench.document()["states"]]
    for state, copy in zip(states, copies, strict=True):
        bench.one(f"[data-state='{state}']").click()
        stand(bench, copy, "Open")
    assert bench.one(".standing").text in ("Open", "Shut")
    shown = bench.one(f"[data-stage=pose] [data-layer='{copies[2]}/text']")
    assert (shown.text, shown.value_of_css_property("opacity")) == ("South", "1")
    # In the score a state is typed by its name; a wrong one says which there are, and nothing is lost.
    cell = bench.cell(copies[0], "state", states[2])
    bench.fill(cell, "Ajar")
    bench.wait(lambda: "It has Shut, Open." in "".join(bench.faults()))
    bench.changed(lambda: bench.fill(bench.cell(copies[0], "state", states[2]), "open"))
    bench.press("Undo")
    into_a_copy(bench, copies[0], states[0])

    # Each goes its own way, which is the card's: 420 ms there, 300 back.
    moves = bench.browser.execute_script(
        "return fetch(`/api${location.pathname}`).then(r => r.json()).then(a => a.transitions)"
    )
    first = moves[bench.document()["transitions"][0]["id"]]
    assert first["length_ms"] == 420
    lengths = {f"{move[0]} {move[1]}": move[3] - move[2] for move in first["moves"]}
    assert (lengths[f"{copies[1]}/text opacity"], lengths[f"{copies[0]}/text opacity"]) == (420, 300)
    assert findings(bench) == []

    # By a double click into the original and, by where it is used, back; an edit there is seen here.
    bench.one(f"[data-row='{copies[0]}']").click()
    ActionChains(bench.browser).double_click(
        bench.one(
            f"[data-stage=pose] [data-layer='{copies[0]}/rectangle'], [data-stage=pose] [data-layer='{copies[0]}']"
        )
    ).perform()
    bench.wait(lambda: "/pieces/card-of-a-pier" in bench.browser.current_url)
    trying_values(bench)
    bench.choose_transition("first-to-state-2")
    bench.set("duration", "700")
    assert "× 3" in bench.one(".used-by").text
    bench.one(".used-by a").click()
    bench.one(f"[data-row='{copies[0]}']")
    bench.wait(lambda: "700 ms" in bench.one(".score").text)
    # What others hold is not thrown away.
    bench.open("/")
    bench.fill(bench.field("Find a piece"), "card of")
    bench.one("[aria-label='More for Card of a pier']").click()
    bench.button("Delete").click()
    bench.wait(lambda: any("Carousel × 3" in e.text for e in bench.all(".ant-notification-notice")))


def test_the_way_of_a_copy_begins_later_by_pulling_its_bars(bench) -> None:
    bench.open("/pieces/pier-carousel/run-sheet")
    bar = bench.one("[data-row-of='mid/view/width'] .body")
    bench.changed(lambda: bench.drag(bar, 40, 0))
    lanes = [lane for way in bench.document()["transitions"] for lane in way.get("lanes", [])]
    assert [(lane["layer"], lane["property"]) for lane in lanes] == [("mid", "state")]
    assert lanes[0]["delay_ms"] > 0
    bench.one("[data-row-of='mid/view/width'] .body").click()
    bench.set("Way begins after", "120")
    bench.press("Undo")
    bench.press("Undo")
    # One goes on by itself: nothing that plays changes, and it is a copy no more.
    bench.open("/pieces/pier-carousel")
    bench.one("[data-row='west']").click()
    run = bench.one(".ring .of").text
    bench.press("Turn into plain layers")
    bench.one("[aria-label='Unfold West card']").click()
    bench.one("[data-row='west-title']")
    assert (bench.one(".ring .of").text, len(bench.all(".standing"))) == (run, 4)
    bench.press("Undo")
    # Another window edits the original: this one follows, though its own revision stays.
    carousel = bench.browser.current_window_handle
    bench.browser.switch_to.new_window("window")
    bench.open("/pieces/pier-card")
    bench.choose_transition("shut-to-open")
    bench.changed(bench.button("Lapping").click)
    bench.browser.close()
    bench.browser.switch_to.window(carousel)
    bench.wait(lambda: bench.one(".ring .of").text != run)
    # Handed over whole.
    whole = bench.browser.execute_script(
        "return fetch('/api/pieces/pier-carousel/piece.json').then(answer => answer.text())"
    )
    assert list(json.loads(whole)["library"]) == ["pier-card"]


EDIT = """
const [id, patch] = arguments;
return fetch(`/api/pieces/${id}`).then(r => r.json())
  .then(({ revision }) => fetch(`/api/pieces/${id}`, { method: 'PATCH', headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ revision, label: 'Elsewhere', patch }) }))
  .then(answer => answer.status);
"""


def test_an_edit_of_the_original_elsewhere_is_rehearsed(bench) -> None:
    """In another window, while its holder, whose own revision stays, is being rehearsed."""
    a_card(bench)
    begin(bench, "Quay step", 100, 120)
    copy = place_card(bench, "Step card")
    bench.press("+ state")
    stand(bench, copy, "Open")
    bench.one("nav").find_element("link text", "Rehearse").click()
    face = f".used [data-layer='{copy}/rectangle']"
    assert "(31, 122, 112" in bench.one(face).value_of_css_property("background-color")
    patch = [{"op": "replace", "path": "/layers/0/fill", "value": "#d9503a"}]
    assert bench.browser.execute_script(EDIT, "card-of-a-pier", patch) == 200
    bench.wait(lambda: "(217, 80, 58" in bench.one(face).value_of_css_property("background-color"))
