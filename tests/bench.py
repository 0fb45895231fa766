"""A page object thin enough to read: what a designer sees and touches, waited for by state."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from selenium import webdriver
from selenium.webdriver import ActionChains, Keys
from selenium.webdriver.common.by import By
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import WebDriverWait

from support import Served


class Bench:
    def __init__(self, browser: webdriver.Chrome, served: Served) -> None:
        self.browser, self.served = browser, served

    def open(self, path: str = "/") -> None:
        self.browser.get(self.served.address + path)

    def wait(self, condition: Callable[[], Any], what: str = "") -> Any:
        return WebDriverWait(self.browser, 15, 0.03).until(lambda _: condition(), what)

    def all(self, css: str) -> list[WebElement]:
        return self.browser.find_elements(By.CSS_SELECTOR, css)

    def one(self, css: str) -> WebElement:
        return self.wait(lambda: next(iter(self.all(css)), None), f"no {css}")

    def button(self, name: str) -> WebElement:
        path = f"//button[normalize-space()='{name}' and not(@disabled)]|//a[normalize-space()='{name}']"
        shown = lambda: (e for e in self.browser.find_elements(By.XPATH, path) if e.is_displayed())  # noqa: E731
        return self.wait(lambda: next(shown(), None), f"no button {name}")

    def field(self, label: str) -> WebElement:
        return self.one(f"input[aria-label='{label}']")

    def fill(self, element: WebElement, text: str, key: str = Keys.ENTER) -> None:
        element.click()
        element.send_keys(Keys.CONTROL, "a")
        element.send_keys(text, key)

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

    def drag(self, element: WebElement, dx: float, dy: float) -> None:
        ActionChains(self.browser).click_and_hold(element).move_by_offset(dx, dy).release().perform()

    def keys(self, *keys: str, shift: bool = False) -> None:
        chain = ActionChains(self.browser)
        if shift:
            chain.key_down(Keys.SHIFT)
        chain.send_keys(*keys)
        if shift:
            chain.key_up(Keys.SHIFT)
        chain.perform()

    def errors(self) -> list[str]:
        """What the browser complained of, apart from the answers that a test provokes."""
        return [entry["message"] for entry in self.browser.get_log("browser") if "status of 4" not in entry["message"]]
