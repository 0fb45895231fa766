"""A long random sequence of edits, taken back to the beginning and made again, to the identical documents."""

from __future__ import annotations

import contextlib
import random
from collections.abc import Callable

import pytest
from selenium.webdriver import ActionChains, Keys

from keen_ripple.store import connect, pieces

# A group of its own, so that the long journeys are gone while the others are.
pytestmark = pytest.mark.xdist_group("long journeys")

STEPS = 30
MOST_LAYERS = 40
# Rows of the list by number, the further ones with Shift.
CHOOSE = """
const rows = [...document.querySelectorAll('[data-row]')];
const click = (shiftKey) => new MouseEvent("click", {bubbles: true, shiftKey});
arguments[0].forEach((n, i) => rows[n % rows.length]?.dispatchEvent(click(i > 0)));
"""


def pressed(bench, *keys: str, holding: str | None = None) -> None:
    chain = ActionChains(bench.browser)
    if holding:
        chain.key_down(holding)
    chain.send_keys(*keys)
    if holding:
        chain.key_up(holding)
    chain.perform()


def operations(bench, chance: random.Random) -> list[Callable[[], None]]:
    """What a designer does, each with whatever is there; some of them change nothing at times."""

    def somewhere() -> None:
        bench.browser.execute_script(CHOOSE, [chance.randrange(1000) for _ in range(chance.choice((1, 1, 2, 3)))])

    def key(name: str, holding: str | None = None) -> Callable[[], None]:
        def press() -> None:
            somewhere()
            # Groups of groups doubled again and again would be all that there is.
            if name != "t" or len(bench.all("[data-row]")) < MOST_LAYERS:
                pressed(bench, name, holding=holding)

        return press

    def typed(label: str) -> Callable[[], None]:
        def type_it() -> None:
            somewhere()
            number = str(chance.randint(1, 90))

            def fill() -> None:
                fields = [field for field in bench.all(f"input[aria-label='{label}']") if field.is_displayed()]
                if fields:
                    bench.fill(fields[0], number)

            bench.steadily(fill)
            bench.browser.execute_script("document.activeElement.blur()")

        return type_it

    def moved() -> None:
        somewhere()
        bench.browser.execute_script("document.querySelector('[data-stage=pose]').focus({preventScroll: true})")
        pressed(bench, chance.choice((Keys.ARROW_UP, Keys.ARROW_LEFT)), holding=chance.choice((None, Keys.SHIFT)))

    def click(css: str) -> Callable[[], None]:
        def press() -> None:
            somewhere()
            which = chance.random()

            def click_one() -> None:
                buttons = [button for button in bench.all(css) if button.is_enabled()]
                if buttons:
                    bench.browser.execute_script("arguments[0].click()", buttons[int(which * len(buttons))])

            bench.steadily(click_one)

        return press

    def pick_state() -> None:
        click("[data-state]")()
        pressed(bench, chance.choice(("s", "S", "x")))

    return [
        key("t"), key("g"), key("G"), key("h"), key("k"), key(Keys.DELETE), key(Keys.ARROW_UP, Keys.ALT),
        typed("x"), typed("width"), typed("opacity"), typed("rotation"), typed("duration"), typed("hold"), moved, moved,
        click(".arrange button"), click("[data-transition]"), click(".score .foot button:not([aria-pressed])"),
        pick_state, pick_state,
    ]  # fmt: skip


def at_rest(bench) -> int:
    """The stored revision once the page shows it and it has not changed for a while."""
    script = "const done = arguments[0]; requestAnimationFrame(() => setTimeout(() => done(0), 40))"
    quiet, known = 0, -1
    while quiet < 3:
        bench.browser.execute_async_script(script)
        now = stored(bench)
        quiet = quiet + 1 if now == known == bench.revision() else 0
        known = now
    return known


def stored(bench) -> int:
    return piece(bench).revision


def piece(bench) -> pieces.StoredPiece:
    with contextlib.closing(connect(bench.served.database)) as conn:
        return pieces.load(conn, "tide-loader")


def test_every_edit_is_taken_back_and_made_again(bench) -> None:
    bench.open("/pieces/tide-loader")
    bench.one("[data-row]")
    chance = random.Random(4)
    # By the number of edits that can be undone: steps of a key in one go are one of them, however many revisions.
    documents = {0: bench.document()}
    made = operations(bench, chance)
    for _ in range(STEPS):
        chance.choice(made)()
        at_rest(bench)
        bench.steadily(lambda: [button.click() for button in bench.all(".notice button")])
        pressed(bench, Keys.ESCAPE)
        now = piece(bench)
        documents[now.done] = now.document
    last = max(documents)
    assert last >= len(documents) - 1 > STEPS / 3

    for edits in reversed(range(last)):
        if edits == last // 2:
            bench.served.restart()
            bench.browser.refresh()
            bench.wait_for_revision(stored(bench))
        bench.changed(lambda: pressed(bench, "z", holding=Keys.CONTROL))
        assert bench.document() == documents.get(edits, bench.document())
    for edits in range(1, last + 1):
        bench.changed(lambda: pressed(bench, "Z", holding=Keys.CONTROL))
        assert bench.document() == documents.get(edits, bench.document())
