"""The pictures of `docs/screenshots/`, made anew from the demo's pieces: all of them, or those that are named."""

from __future__ import annotations

import sys
import tempfile
from collections.abc import Callable
from pathlib import Path

from selenium.webdriver import ActionChains, Keys
from selenium.webdriver.common.actions.wheel_input import ScrollOrigin

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT / "tests"))

from bench import Bench  # noqa: E402
from fonts_of_others import FILES  # noqa: E402
from gull import GULL  # noqa: E402
from keen_ripple.gallery import write_gallery  # noqa: E402
from keen_ripple.shelf import documents_of  # noqa: E402
from keen_ripple.web.serve import fill  # noqa: E402
from support import Served, new_browser  # noqa: E402

FOLDER = ROOT / "docs" / "screenshots"
LATER = "const done = arguments[1]; setTimeout(done, arguments[0])"


def piece(bench: Bench, name: str, view: str = "") -> None:
    bench.open(f"/pieces/{name}{view}")
    bench.one(".saved")
    bench.wait(lambda: bench.browser.execute_script("return [...document.images].every((image) => image.complete)"))


def shelf(bench: Bench) -> None:
    bench.open("/")
    bench.wait(lambda: len(bench.all(".shelf-cell .scene")) >= 8)


def workbench_layer(bench: Bench) -> None:
    piece(bench, "tide-loader")
    bench.one("[data-state='handover']").click()
    bench.one("[data-row='buoy-2']").click()


def workbench_ghosts_and_way(bench: Bench) -> None:
    workbench_layer(bench)
    bench.button("dashed: before").click()
    bench.button("path").click()
    bench.button("zoom in").click()


def spring_editor(bench: Bench) -> None:
    piece(bench, "beacon-pulse")
    bench.choose_transition("dim-to-bright")


def run_sheet(bench: Bench) -> None:
    piece(bench, "tide-loader", "/run-sheet")
    bench.one("[data-bar='2 buoy-2/y'] .body").click()


def takes(bench: Bench) -> None:
    piece(bench, "tide-loader", "/takes")
    for factor, like in (("0.8", "Swell"), ("0.9", "anticipation")):
        bench.one("[aria-label='Vary… Current']").click()
        bench.fill(bench.field("Take times as long"), factor)
        bench.wait(lambda like=like: [chip for chip in bench.all(".vary .chip") if chip.text == like])[0].click()
        bench.button("Make the take").click()
        bench.wait(lambda: not bench.all(".vary"))


def rehearse(bench: Bench) -> None:
    """Used for real: three tabs, the second at once after the first; a kept rehearsal."""
    piece(bench, "timetable-tabs", "/rehearse")
    for layer in ("tab-fares", "tab-week", "slide-week"):
        element = bench.one(f".used [data-layer='{layer}']")
        ActionChains(bench.browser, duration=0).move_to_element(element).click().perform()
    bench.fill(bench.field("Name of the rehearsal"), "Fares, then the week")
    bench.button("Fares, then the week")
    element = bench.one(".used [data-layer='tab-today']")
    ActionChains(bench.browser, duration=0).move_to_element(element).click().perform()


def copies(bench: Bench) -> None:
    piece(bench, "pier-carousel")
    bench.one("[data-state='east']").click()
    bench.one("[data-row='east']").click()
    bench.one("[aria-label='What is in North card']").click()


def traits(bench: Bench) -> None:
    piece(bench, "fog-notice")
    bench.one("[data-state='drifting']").click()
    bench.one(".traits [title='Warning']").click()
    bench.one("[data-row='card']").click()


def screen(bench: Bench) -> None:
    piece(bench, "crossing-screen")
    bench.one("[data-row='notice']").click()


def scrolled(bench: Bench) -> None:
    """By a real wheel, until the third section is in view."""
    piece(bench, "pier-story", "/rehearse")
    content = bench.one(".used .scene")
    for way in (300, 300, 300):
        ActionChains(bench.browser).scroll_from_origin(ScrollOrigin.from_element(content), 0, way).perform()
        bench.browser.execute_async_script(LATER, 700)


def undercurrent_editor(bench: Bench) -> None:
    piece(bench, "sonar-sweep")
    bench.unfold("Undercurrents")
    bench.browser.execute_script("document.querySelector(`.inspector [title^='Open ']`).click()")
    bench.one(".key-axis")


def medium(bench: Bench) -> None:
    """A bell in a notice: it plays once as the notice comes into sight."""
    piece(bench, "fog-notice")
    bench.one("[data-state='in-sight']").click()
    bench.one("[data-row='bell']").click()


def artwork(bench: Bench) -> None:
    """A drawing from elsewhere in an empty piece, with what could not be taken, and one of its gradients in hand."""
    bench.open("/")
    bench.button("New piece").click()
    bench.fill(bench.field("Name"), "Gull")
    bench.one(".layers")
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "Gull.svg"
        file.write_text(GULL, "utf-8")
        bench.changed(lambda: bench.browser.find_element("css selector", "input[type=file]").send_keys(str(file)))
    bench.one("[data-row='circle']").click()


def fonts(bench: Bench) -> None:
    """A title in a variable font of one's own, which leans as it arrives."""
    piece(bench, "fog-notice")
    bench.one("[data-state='in-sight']").click()
    bench.one("[data-row='title']").click()
    chooser = bench.browser.find_element("css selector", "input[type=file][aria-label='Font file']")
    bench.changed(lambda: chooser.send_keys(str(FILES["variable"])))
    bench.set("axis Casual", "1")
    bench.set("axis Slant", "-12")
    bench.browser.execute_script("document.querySelector('.font-field').scrollIntoView({ block: 'start' })")


def hand_off(bench: Bench) -> None:
    piece(bench, "deck-lamp-switch")
    bench.button("Hand off").click()
    bench.button("CSS and markup").click()
    bench.wait(lambda: ".deck-lamp-switch" in bench.one(".handed pre").text)
    bench.wait(lambda: "At most" in bench.one("[aria-label=Measured]").text)


def hand_off_beside(bench: Bench) -> None:
    piece(bench, "tide-loader")
    bench.button("Hand off").click()
    bench.button("GIF").click()
    bench.wait(lambda: bench.all(".beside canvas[data-frame]"))
    bench.button("Pause").click()
    for _ in range(8):
        bench.one(".beside [role=slider]").send_keys(Keys.SHIFT, Keys.ARROW_RIGHT)
    bench.wait(lambda: "At most" in bench.one("[aria-label=Measured]").text)
    bench.button("All as zip").click()
    bench.wait(lambda: bench.all("[aria-label='All formats'] [role=progressbar]"))


def timing_sheet(bench: Bench) -> None:
    piece(bench, "crossing-progress")
    bench.button("Hand off").click()
    bench.button("Timing sheet").click()
    bench.browser.switch_to.frame(bench.one(".handed iframe"))
    bench.wait(lambda: bench.all("section"))
    bench.browser.execute_script("document.querySelector('section').scrollIntoView()")
    bench.browser.switch_to.default_content()


def gallery(bench: Bench) -> None:
    # It is looked at after this, and taken away with the database.
    folder = bench.served.database.parent / "pages"
    write_gallery(documents_of(bench.served.database)[0], folder)
    bench.browser.get((folder / "index.html").as_uri())


VIEWS: list[Callable[[Bench], None]] = [
    *(shelf, workbench_layer, workbench_ghosts_and_way, spring_editor, run_sheet, takes),
    rehearse,
    *(copies, traits, screen, scrolled),
    *(undercurrent_editor, medium, artwork, fonts),
    *(hand_off, hand_off_beside, timing_sheet, gallery),
]


def main(names: list[str]) -> None:
    with tempfile.TemporaryDirectory(ignore_cleanup_errors=True) as folder:
        browser = new_browser(Path(folder) / "chromium")
        browser.set_window_size(1280, 800)
        try:
            for view in VIEWS:
                name = view.__name__.replace("_", "-")
                if names and name not in names:
                    continue
                database = Path(folder) / f"{name}.sqlite"
                served = Served(database)
                fill(database)
                bench = Bench(browser, served)
                view(bench)
                browser.execute_async_script(LATER, 900)
                browser.save_screenshot(str(FOLDER / f"{name}.png"))
                served.stop()
        finally:
            browser.quit()


if __name__ == "__main__":
    main(sys.argv[1:])
