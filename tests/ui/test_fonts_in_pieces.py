"""Fonts of one's own in a piece, from an empty one: brought in, set, moved, shared, missed and removed."""

from __future__ import annotations

from pathlib import Path

import pytest
from selenium.webdriver import Keys
from test_building import add, begin, choose, give

from fonts_of_others import FILES, LIGATURES, VARIABLE
from keen_ripple.core.document import read_piece

FAMILY = "//*[@aria-label='family']/ancestor::*[contains(@class, 'ant-select')][1]"


def bring(bench, name: str, label: str = "Font file") -> None:
    field = bench.browser.find_element("css selector", f"input[type=file][aria-label='{label}']")
    bench.changed(lambda: field.send_keys(str(FILES[name])))


def shown(bench) -> list[str]:
    """The families of the piece that the browser knows, each as often as it has files."""
    known = bench.browser.execute_script("return [...document.fonts].map((face) => face.family.replace(/\"/g, ''))")
    return sorted(family for family in known if family in (LIGATURES, VARIABLE))


def notes(bench) -> str:
    return " ".join(each.text for each in bench.all(".warning"))


@pytest.fixture
def sign(bench):
    """A piece with one text, which is chosen."""
    begin(bench, "Sign", 320, 200)
    bench.layer = add(bench, "text", "Title", x=20, y=20, width=280, height=50)
    give(bench, text="Pier 9 != Жук")
    return bench


def test_a_text_in_a_font_of_ones_own_moves_along_its_axes(sign, tmp_path: Path) -> None:
    bench = sign
    # What no shipped font has is said before anything is done about it.
    bench.wait(lambda: "Hanken Grotesk has no Ж у к" in notes(bench))
    bring(bench, "variable")
    layer = bench.document()["layers"][0]
    assert (layer["font_family"], [each["family"] for each in bench.document()["fonts"]]) == (VARIABLE, [VARIABLE])
    bench.wait(lambda: shown(bench) == [VARIABLE])
    bench.press("+ state")
    bench.set("axis Casual", "0.8")
    bench.set("axis Slant", "-90")
    read_piece(bench.document())
    said = {each["axis"]: each["value"] for each in bench.document()["states"][1]["changes"][bench.layer]["font_axes"]}
    # No farther than it goes.
    assert (said["CASL"], said["slnt"]) == (0.8, -15)
    base = {each["axis"]: each["value"] for each in bench.document()["layers"][0]["font_axes"]}
    assert (base["CASL"], base["slnt"], base.keys()) == (0, 0, said.keys())
    bench.changed(lambda: bench.one("[aria-label='axes back to the base']").click())
    assert "font_axes" not in bench.document()["states"][1].get("changes", {}).get(bench.layer, {})
    broken = tmp_path / "broken.ttf"
    broken.write_bytes(b"no font at all")
    bench.browser.find_element("css selector", "input[aria-label='Font file']").send_keys(str(broken))
    bench.wait(lambda: "This is no font." in " ".join(bench.faults()))


def test_weights_come_one_by_one_and_a_font_goes_when_nothing_is_set_in_it(sign) -> None:
    bench = sign
    bring(bench, "ligatures")
    bring(bench, "ligatures, more letters")
    bring(bench, "ligatures, bold")
    bench.wait(lambda: "weights 400, 700" in bench.one(".font-field ~ small").text)
    assert [len(each["files"]) for each in bench.document()["fonts"]] == [3]
    # The same once more is no edit, and a newer one of the same letters takes the place of the older one.
    before = bench.revision()
    bench.browser.find_element("css selector", "input[aria-label='Font file']").send_keys(str(FILES["ligatures"]))
    give(bench, text="ΔELTA")
    assert bench.revision() == before + 1
    assert len(shown(bench)) == 3
    bench.browser.find_element("css selector", "body").send_keys(Keys.ESCAPE)
    bench.wait(lambda: bench.all(f"[aria-label='Remove {LIGATURES}']"))
    assert not bench.one(f"[aria-label='Remove {LIGATURES}']").is_enabled()
    choose(bench, bench.layer)
    bench.changed(lambda: pick_family(bench, "Hanken Grotesk"))
    bench.browser.find_element("css selector", "body").send_keys(Keys.ESCAPE)
    bench.changed(lambda: bench.one(f"[aria-label='Remove {LIGATURES}']").click())
    assert bench.document()["fonts"] == []
    bench.wait(lambda: shown(bench) == [])
    bench.press("Undo")
    bench.wait(lambda: len(shown(bench)) == 3)


def test_another_piece_has_it_too_by_choice_or_along_with_its_layers(sign) -> None:
    bench = sign
    bring(bench, "ligatures")
    bench.browser.execute_script(
        "window.copied = new DataTransfer();"
        "document.body.dispatchEvent(new ClipboardEvent('copy', {clipboardData: copied, bubbles: true}));"
        "sessionStorage.setItem('copied', copied.getData('text/plain'));"
    )
    begin(bench, "Other", 320, 200)
    bench.wait(lambda: shown(bench) == [])
    bench.changed(
        lambda: bench.browser.execute_script(
            "const data = new DataTransfer(); data.setData('text/plain', sessionStorage.getItem('copied'));"
            "document.body.dispatchEvent(new ClipboardEvent('paste', {clipboardData: data, bubbles: true}));"
        )
    )
    assert [each["family"] for each in bench.document()["fonts"]] == [LIGATURES]
    assert bench.document()["layers"][0]["font_family"] == LIGATURES
    begin(bench, "Third", 320, 200)
    add(bench, "text", "Note")
    bench.changed(lambda: pick_family(bench, f"{LIGATURES}, from Other"))
    assert bench.document()["layers"][0]["font_family"] == LIGATURES
    bench.wait(lambda: shown(bench) == [LIGATURES])


def test_letters_become_an_outline_and_need_no_font_any_more(sign) -> None:
    bench = sign
    bring(bench, "ligatures")
    bench.press("as outline")
    layer = bench.document()["layers"][0]
    assert layer["kind"] == "path"
    assert "font_family" not in layer
    bench.press("Undo")
    assert bench.document()["layers"][0]["text"] == "Pier 9 != Жук"


def pick_family(bench, name: str) -> None:
    bench.browser.find_element("xpath", FAMILY).click()
    option = f"//*[contains(@class, 'ant-select-item-option-content')][normalize-space()='{name}']"
    bench.wait(lambda: bench.browser.find_elements("xpath", option))
    bench.browser.find_element("xpath", option).click()
