"""A page object thin enough to read: what a designer sees and touches, waited for by state."""

from __future__ import annotations

import contextlib
from collections.abc import Callable
from typing import Any

from selenium import webdriver
from selenium.common.exceptions import StaleElementReferenceException, TimeoutException
from selenium.webdriver import ActionChains, Keys
from selenium.webdriver.common.by import By
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import WebDriverWait

from keen_ripple.store import connect, pieces
from support import Served


class Bench:
    def __init__(self, browser: webdriver.Chrome, served: Served) -> None:
        self.browser, self.served = browser, served

    def put(self, document: dict[str, Any]) -> None:
        """Stores a piece and opens it."""
        with contextlib.closing(connect(self.served.database)) as conn:
            pieces.add(conn, document)
        self.open(f"/pieces/{document['id']}")

    def open(self, path: str = "/") -> None:
        self.browser.get(self.served.address + path)

    def wait(self, condition: Callable[[], Any], what: str = "") -> Any:
        """Until it holds; what was drawn anew while it was looked at is looked at once more."""
        patient = WebDriverWait(self.browser, 45, 0.03, ignored_exceptions=[StaleElementReferenceException])
        return patient.until(lambda _: condition(), what)

    def steadily(self, act: Callable[[], Any]) -> None:
        """Does it, and once more where what it was about to touch was drawn anew in between."""
        self.wait(lambda: [act()])

    def all(self, css: str) -> list[WebElement]:
        return self.browser.find_elements(By.CSS_SELECTOR, css)

    def one(self, css: str) -> WebElement:
        return self.wait(lambda: next(iter(self.all(css)), None), f"no {css}")

    def button(self, name: str) -> WebElement:
        named = f"normalize-space()='{name}'"
        path = f"//button[{named} and not(@disabled)]|//a[{named} and not(@aria-disabled='true')]"
        shown = lambda: (e for e in self.browser.find_elements(By.XPATH, path) if e.is_displayed())  # noqa: E731
        return self.wait(lambda: next(shown(), None), f"no button {name}")

    def field(self, label: str) -> WebElement:
        return self.one(f"input[aria-label='{label}']")

    def fill(self, element: WebElement, text: str, key: str = Keys.ENTER) -> None:
        element.click()
        element.send_keys(Keys.CONTROL, "a")
        element.send_keys(text, key)

    def changed(self, act: Callable[[], Any]) -> None:
        """Does it, and waits until the edit has been made."""
        before = self.revision()
        act()
        self.wait_for_revision(before + 1)

    def set(self, label: str, text: str) -> None:
        """Types into a field, unless it says so already."""
        [said] = self.wait(lambda: [self.field(label).get_property("value")])
        if said != text:
            self.changed(lambda: self.steadily(lambda: self.fill(self.field(label), text)))

    def press(self, name: str) -> None:
        self.changed(lambda: self.steadily(lambda: self.button(name).click()))

    def pick(self, opener: str, item: str) -> None:
        """An item of the menu that a button opens."""
        self.steadily(lambda: self.button(opener).click())
        css = ".ant-dropdown:not(.ant-dropdown-hidden) .ant-dropdown-menu-item"
        self.wait(lambda: [e for e in self.all(css) if e.text.split("\n")[0] == item], f"no item {item}")[0].click()

    def choose_transition(self, transition: str) -> None:
        def choose() -> None:
            head = self.one(f"[data-transition='{transition}']")
            self.browser.execute_script("arguments[0].scrollIntoView({inline: 'center'})", head)
            head.click()

        self.steadily(choose)

    def click_together(self, *css: str) -> None:
        """The first plainly, the further ones with Shift."""
        for n, each in enumerate(css):
            chain = ActionChains(self.browser)
            if n:
                chain.key_down(Keys.SHIFT)
            chain.click(self.one(each)).key_up(Keys.SHIFT).perform()

    def unfold(self, title: str) -> None:
        path = f"//details[not(@open)]/summary[.='{title}']"
        for summary in self.browser.find_elements(By.XPATH, path):
            summary.click()

    def double_click(self, css: str, until: Callable[[], Any]) -> None:
        """Twice, and once more where a busy machine took the second click for a new one."""

        def clicked_and_done() -> Any:
            ActionChains(self.browser).double_click(self.one(css)).perform()
            with contextlib.suppress(TimeoutException):
                return WebDriverWait(self.browser, 2, 0.03).until(lambda _: until())

        self.wait(clicked_and_done, f"nothing came of a double click on {css}")

    def rename(self, css: str, label: str, name: str) -> None:
        self.double_click(css, until=lambda: self.all(f"input[aria-label='{label}']"))
        self.changed(lambda: self.steadily(lambda: self.fill(self.field(label), name)))

    def rename_layer(self, layer: str, name: str) -> None:
        self.rename(f"[data-row='{layer}']", "Name of the layer", name)

    def rename_state(self, state: str, name: str) -> None:
        self.rename(f"[data-state='{state}']", "Name of the state", name)

    def document(self) -> dict[str, Any]:
        """What is stored of the piece that is open."""
        with contextlib.closing(connect(self.served.database)) as conn:
            return pieces.load(conn, self.browser.current_url.split("/pieces/")[1].split("/")[0]).document

    def cell(self, layer: str, prop: str, state: str) -> WebElement:
        return self.one(f"[data-score-row='{layer}/{prop}'] input[aria-label$='in {state}']")

    def faults(self) -> list[str]:
        return [element.text for element in self.all("[role=alert]")]

    def revision(self) -> int:
        return int(self.one(".saved").text.rsplit(" ", 1)[1])

    def wait_for_revision(self, number: int) -> None:
        self.wait(lambda: self.one(".saved").text == f"saved · revision {number}", f"not at revision {number}")

    def wait_for_focus(self, label: str) -> None:
        script = "return document.activeElement.getAttribute('aria-label')"
        self.wait(lambda: self.browser.execute_script(script) == label, f"no focus on {label}")

    def box(self, stage: str, layer: str) -> tuple[float, float]:
        """Where a layer is on a stage, in the px of its piece."""
        script = """
            const scene = document.querySelector(`[data-stage=${arguments[0]}] .scene`).getBoundingClientRect();
            const piece = document.querySelector(`[data-stage=${arguments[0]}] .scene`);
            const layer = document.querySelector(`[data-stage=${arguments[0]}] [data-layer='${arguments[1]}']`);
            const zoom = scene.width / piece.offsetWidth, box = layer.getBoundingClientRect();
            return [(box.x + box.width / 2 - scene.x) / zoom, (box.y + box.height / 2 - scene.y) / zoom];
        """
        x, y = self.browser.execute_script(script, stage, layer)
        return float(x), float(y)

    def zoom(self) -> float:
        """How many px of the screen one px of the pose takes."""
        scene = "document.querySelector('[data-stage=pose] .scene')"
        return float(self.browser.execute_script(f"return {scene}.getBoundingClientRect().width / {scene}.offsetWidth"))

    def on_stage(self, x: float, y: float) -> tuple[float, float]:
        """Where a place of the piece is on the screen."""
        script = (
            "const {x, y} = document.querySelector('[data-stage=pose] .scene').getBoundingClientRect(); return [x, y]"
        )
        left, top = self.browser.execute_script(script)
        return left + x * self.zoom(), top + y * self.zoom()

    def pull(self, *places: tuple[float, float], holding: str | None = None) -> None:
        """Presses at the first place of the piece, goes through the others, and lets go at the last."""
        chain = ActionChains(self.browser, duration=0)
        pointer, keys = chain.w3c_actions.pointer_action, chain.w3c_actions.key_action
        if holding:
            chain.key_down(holding)
        for n, place in enumerate(places):
            x, y = self.on_stage(*place)
            pointer.move_to_location(round(x), round(y))
            keys.pause()
            if n == 0:
                pointer.pointer_down()
                keys.pause()
        pointer.pointer_up()
        keys.pause()
        if holding:
            chain.key_up(holding)
        chain.perform()

    def click_at(self, x: float, y: float, holding: str | None = None) -> None:
        self.pull((x, y), holding=holding)

    def drag(self, element: WebElement, dx: float, dy: float) -> None:
        ActionChains(self.browser).click_and_hold(element).move_by_offset(dx, dy).release().perform()

    def keys(self, *keys: str, shift: bool = False, alt: bool = False, ctrl: bool = False) -> None:
        wanted = {Keys.SHIFT: shift, Keys.ALT: alt, Keys.CONTROL: ctrl}
        held = [key for key in wanted if wanted[key]]
        chain = ActionChains(self.browser)
        for key in held:
            chain.key_down(key)
        chain.send_keys(*keys)
        for key in held:
            chain.key_up(key)
        chain.perform()

    def errors(self) -> list[str]:
        """What the browser complained of, apart from the answers that a test provokes, and servers that it stops."""
        messages = [entry["message"] for entry in self.browser.get_log("browser")]
        unreached = ("net::ERR_CONNECTION_RE", "net::ERR_SOCKET_NOT_CONNECTED", "net::ERR_EMPTY_RESPONSE")
        return [text for text in messages if not any(known in text for known in ("status of 4", *unreached))]
