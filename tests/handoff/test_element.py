"""The custom element in Chromium, three on a page; the React component built strictly, on a server and in a page."""

from __future__ import annotations

import json
import re
import shutil
import subprocess
from pathlib import Path
from typing import Any

import pytest
from selenium.webdriver import ActionChains
from selenium.webdriver.support.ui import WebDriverWait
from test_live_in_chromium import switch

from keen_ripple.core.timeline import sample
from keen_ripple.handoff import AS_IT_IS, FORMATS
from keen_ripple.handoff.settings import settings_of
from support import DEMO, timeline_in

FRONTEND = Path(__file__).parents[2] / "frontend"
MODULES = FRONTEND / "node_modules"
NODE = shutil.which("node") or "node"
X = """
const box = arguments[0].shadowRoot.querySelector('.scene:not(.under) [data-layer=box]');
return new DOMMatrix(getComputedStyle(box).transform).e;
"""
OPENED = """
window.changes = [];
document.addEventListener('statechange', ({target, detail}) => changes.push([target.id, detail.from, detail.to]));
"""


def module_of(document: dict[str, Any], form: str = "element") -> dict[str, str]:
    files = FORMATS[form].files(timeline_in(document), AS_IT_IS)
    return {ending: content.decode() for ending, content in files.items()}


HEAD = '<!doctype html><meta charset="utf-8">'


def inline_module(document: dict[str, Any]) -> str:
    """Pages that are opened as files may load no modules."""
    text = module_of(document)["element.js"].replace("</script", "<\\/script")
    return f'<script type="module">{text}</script>'


@pytest.fixture
def three(browser, tmp_path: Path):
    document = switch(id="deck-lamp", name="Deck lamp")
    page = tmp_path / "page.html"
    inline = inline_module(document)
    elements = "".join(
        f'<deck-lamp id="{n}"{more}></deck-lamp>' for n, more in enumerate(("", ' state="far"', " paused"))
    )
    page.write_text(
        f"{HEAD}<p>beside</p>{elements}<script>{OPENED}</script>{inline}",
        "utf-8",
    )
    browser.get(page.as_uri())
    return [browser.find_element("id", str(n)) for n in range(3)]


def until(browser, holds) -> None:
    WebDriverWait(browser, 45, 0.03).until(lambda _: holds())


def test_three_elements_live_by_themselves(browser, three) -> None:
    first, second, third = three
    until(browser, lambda: browser.execute_script(X, second) == 60)
    assert [browser.execute_script(X, each) for each in (first, third)] == [20, 20]
    assert first.get_attribute("role") == "group" and first.get_attribute("aria-label") == "Deck lamp"
    # A tap inside of one reaches that one, and what it does is told.
    ActionChains(browser, duration=0).move_to_element_with_offset(first, -60, -20).click().perform()
    until(browser, lambda: browser.execute_script(X, first) == 120)
    assert browser.execute_script("return changes") == [["0", "off", "on"]]
    assert first.get_attribute("state") == "on"
    assert [browser.execute_script(X, each) for each in (second, third)] == [60, 20]
    # By attribute and by property, and not at all while it is paused.
    browser.execute_script("arguments[0].setAttribute('state', 'far')", first)
    until(browser, lambda: browser.execute_script(X, first) == 60)
    browser.execute_script("arguments[0].paused = false; arguments[0].state = 'far'", third)
    until(browser, lambda: browser.execute_script(X, third) == 60)
    asked = "try { arguments[0].go('nowhere') } catch (fault) { return fault.message }"
    assert "no state “nowhere”" in browser.execute_script(asked, first)
    assert (
        browser.execute_script("return document.head.children.length + document.querySelectorAll('style').length") <= 4
    )


def test_what_is_taken_away_leaves_nothing(browser, three) -> None:
    first, *_ = three
    until(
        browser, lambda: browser.execute_script("return arguments[0].shadowRoot?.querySelector('[data-layer]')", first)
    )
    left = "window.gone = arguments[0]; gone.remove(); return gone.shadowRoot.querySelectorAll('[data-layer]').length"
    assert browser.execute_script(left, first) == 0
    # Put back, it begins again.
    browser.execute_script("document.body.append(gone); gone.state = 'far'")
    until(browser, lambda: browser.execute_script(X, browser.execute_script("return gone")) == 60)


def test_it_plays_what_the_core_computes(browser, tmp_path: Path) -> None:
    timeline = timeline_in(DEMO["tide-loader"])
    page = tmp_path / "page.html"
    inline = inline_module(DEMO["tide-loader"])
    page.write_text(f"{HEAD}<tide-loader paused></tide-loader>{inline}", "utf-8")
    browser.get(page.as_uri())
    script = """
    const [t, layer] = arguments, element = document.querySelector('tide-loader');
    element.seek(t);
    return new DOMMatrix(getComputedStyle(element.shadowRoot.querySelector(`[data-layer=${layer}]`)).transform).f;
    """
    moments = [180.0, 430.0, 700.0, 1100.0, 1490.0]
    for t, pose in zip(moments, sample(timeline, moments), strict=True):
        assert browser.execute_script(script, t, "buoy-1") == pytest.approx(pose["buoy-1"]["y"], abs=0.5), t
    # Its letters are had by the whole page, added once.
    assert browser.execute_script("return document.adoptedStyleSheets.length") == 1


def kinds(**more: Any) -> dict[str, Any]:
    """The lamp with a trait and with parameters of every kind that names of elements leave room for."""
    parameters = [
        {"id": "style", "name": "Glow", "kind": "colour", "bind": [{"layer": "box", "property": "fill"}]},
        {"id": "far", "name": "Far", "kind": "number", "bind": [{"layer": "box", "property": "x", "state": "far"}]},
        {"id": "length", "name": "Length", "kind": "time", "bind": [{"transition": "on-to-off"}]},
    ]
    changes = {"box": {"width": 70}}
    options = [{"id": "narrow", "name": "Narrow"}, {"id": "wide", "name": "Wide", "changes": changes}]
    traits = [{"id": "breadth", "name": "Breadth", "options": options}]
    return switch(id="deck-lamp", name="Deck lamp", parameters=parameters, traits=traits, **more)


LOOK = """
const style = getComputedStyle(arguments[0].shadowRoot.querySelector('.scene:not(.under) [data-layer=box]'));
return [style.width, style.backgroundColor, Math.round(new DOMMatrix(style.transform).e)];
"""
WARNED = "window.warned = []; console.warn = (text) => warned.push(text);"


def test_three_with_values_of_their_own(browser, tmp_path: Path) -> None:
    page = tmp_path / "page.html"
    tags = ("", ' state="far" far="90" breadth="wide"', ' style-colour="#d9503a" far="late" length="0"')
    elements = "".join(f'<deck-lamp id="{n}"{more}></deck-lamp>' for n, more in enumerate(tags))
    page.write_text(f"{HEAD}{elements}<script>{WARNED}</script>{inline_module(kinds())}", "utf-8")
    browser.get(page.as_uri())
    first, second, third = (browser.find_element("id", str(n)) for n in range(3))
    own = timeline_in(kinds()).rest["box"]
    until(browser, lambda: browser.execute_script(LOOK, second)[2] == 90)
    width = f"{own['width']:g}px"
    assert browser.execute_script(LOOK, first)[::2] == [width, own["x"]]
    assert browser.execute_script(LOOK, second)[0] == "70px"
    assert browser.execute_script(LOOK, third) == [width, "rgb(217, 80, 58)", own["x"]]
    # What cannot be is told, and left as the piece has it.
    told = browser.execute_script("return warned")
    assert len(told) == 2 and "Far cannot be “late”" in told[0] and "Give a number from" in told[1]
    # By property, while it plays and while it stands; and taken back.
    browser.execute_script("Object.assign(arguments[0], { styleColour: 'rgb(0 0 255)', breadth: 'wide' })", first)
    assert browser.execute_script(LOOK, first)[:2] == ["70px", "rgb(0, 0, 255)"]
    browser.execute_script("arguments[0].paused = true; arguments[0].far = 33", second)
    assert browser.execute_script(LOOK, second)[2] == 33
    browser.execute_script("arguments[0].removeAttribute('breadth'); arguments[0].styleColour = null", first)
    assert browser.execute_script(LOOK, first) == [width, browser.execute_script(LOOK, second)[1], own["x"]]
    assert browser.execute_script(LOOK, third)[1] == "rgb(217, 80, 58)"


def test_no_parameter_takes_a_name_that_elements_have(browser) -> None:
    has = "return arguments[0].filter((name) => name in document.createElement('deck-lamp'))"
    browser.get("about:blank")
    taken = "return [...(function* (of) { for (const name in of) yield name })(document.createElement('deck-lamp'))]"
    ids = {re.sub("([A-Z])", r"-\1", name).lower() for name in browser.execute_script(taken)}
    fit = sorted(name for name in ids if re.fullmatch("[a-z0-9]+(-[a-z0-9]+)*", name) and not name.startswith("on"))
    found = []
    for start in range(0, len(fit), 60):
        bind = [{"layer": "box", "property": "y"}]
        own = [{"id": name, "name": name, "kind": "number", "bind": bind} for name in fit[start : start + 60]]
        found += [each.member for each in settings_of(timeline_in(switch(parameters=own)))]
    assert len(found) > 150 and browser.execute_script(has, found) == []


def test_a_server_may_load_it(tmp_path: Path) -> None:
    for ending, text in module_of(switch(id="deck-lamp", name="Deck lamp")).items():
        (tmp_path / f"deck-lamp.{ending}").write_text(text, "utf-8")
    shutil.move(tmp_path / "deck-lamp.element.js", tmp_path / "lamp.mjs")
    script = "import('./lamp.mjs').then((all) => console.log(Object.keys(all).join()))"
    done = subprocess.run([NODE, "-e", script], cwd=tmp_path, capture_output=True, text=True)
    assert done.stdout.strip() == "DeckLamp,default", done.stderr


def test_no_name_ends_the_comment_it_stands_in(tmp_path: Path) -> None:
    hostile = "*/ globalThis.ran = 1; /* `${globalThis.ran = 2}`\u2028</script>"
    for ending, text in module_of(switch(id="deck-lamp", name=hostile), "react").items():
        (tmp_path / f"deck-lamp.{ending}").write_text(text, "utf-8")
        # Wherever it stands outside of strings, it is in a comment.
        assert "\n * *∕ globalThis.ran" in text or "/** A state of *∕ globalThis.ran" in text
    shutil.move(tmp_path / "deck-lamp.element.js", tmp_path / "lamp.mjs")
    script = "import('./lamp.mjs').then(() => console.log(String(globalThis.ran)))"
    done = subprocess.run([NODE, "-e", script], cwd=tmp_path, capture_output=True, text=True)
    assert done.stdout.strip() == "undefined", done.stderr


APP = """
import { StrictMode, useState } from 'react';
import Lamp, { DeckLamp, type DeckLampState } from './deck-lamp';
export function App() {
  const [state, setState] = useState<DeckLampState>('off');
  return (
    <StrictMode>
      <button onClick={() => setState('far')}>go</button>
      <output>{state}</output>
      <DeckLamp state={state} onStateChange={({ to }) => setState(to)} className="one" />
      <Lamp paused style={{ opacity: 0.5 }} breadth="wide" styleColour="#d9503a" far={90} />
    </StrictMode>
  );
}
"""
CLIENT = """
import { createRoot } from 'react-dom/client';
import { App } from './App';
createRoot(document.body).render(<App />);
"""
SERVER = """
import { renderToString } from 'react-dom/server';
import { App } from './App';
console.log(renderToString(<App />));
"""
STRICT = {
    "strict": True, "noUncheckedIndexedAccess": True, "exactOptionalPropertyTypes": True, "noEmit": True,
    "jsx": "react-jsx", "module": "esnext", "moduleResolution": "bundler", "target": "es2022", "skipLibCheck": True,
    "lib": ["es2022", "dom", "dom.iterable"], "types": [],
}  # fmt: skip


def test_the_component_is_strict_and_renders_on_a_server_and_twice_in_a_page(browser, tmp_path: Path) -> None:
    (tmp_path / "node_modules").symlink_to(MODULES)
    for ending, text in module_of(kinds(), "react").items():
        (tmp_path / f"deck-lamp.{ending}").write_text(text, "utf-8")
    for name, text in (("App.tsx", APP), ("client.tsx", CLIENT), ("server.tsx", SERVER)):
        (tmp_path / name).write_text(text, "utf-8")
    (tmp_path / "tsconfig.json").write_text(json.dumps({"compilerOptions": STRICT, "files": ["App.tsx"]}))
    run = {"cwd": tmp_path, "capture_output": True, "text": True}
    checked = subprocess.run([NODE, str(MODULES / "typescript/bin/tsc"), "-p", "."], **run)
    assert checked.returncode == 0, checked.stdout
    (tmp_path / "index.html").write_text(
        '<!doctype html><body></body><script type="module" src="./client.tsx"></script>'
    )
    vite = [NODE, str(MODULES / "vite/bin/vite.js"), "build", "--logLevel", "error"]
    built = subprocess.run([*vite, "--ssr", "server.tsx", "--outDir", "server"], **run)
    assert built.returncode == 0, built.stderr
    [server] = (tmp_path / "server").glob("server.*")
    rendered = subprocess.run([NODE, str(server)], **run)
    assert (
        '<deck-lamp class="one" style="display:inline-block;width:200px;height:100px"></deck-lamp>' in rendered.stdout
    )
    # One file without imports, so that a page can be opened without a server.
    output = "{ inlineDynamicImports: true, format: 'iife' }"
    whole = f"export default {{ build: {{ rollupOptions: {{ output: {output} }}, modulePreload: false }} }};"
    (tmp_path / "vite.config.mjs").write_text(whole)
    built = subprocess.run(vite, **run)
    assert built.returncode == 0, built.stderr
    assert 'style-colour="#d9503a"' in rendered.stdout
    [script] = (tmp_path / "dist/assets").glob("*.js")
    (tmp_path / "page.html").write_text(f"{HEAD}<body></body><script>{script.read_text()}</script>")
    browser.get((tmp_path / "page.html").as_uri())
    one = lambda: browser.find_element("css selector", "deck-lamp.one")  # noqa: E731
    until(browser, lambda: browser.execute_script("return document.querySelector('.one')?.shadowRoot") is not None)
    ActionChains(browser, duration=0).move_to_element_with_offset(one(), -60, -20).click().perform()
    until(browser, lambda: browser.find_element("css selector", "output").text == "on")
    browser.find_element("css selector", "button").click()
    until(browser, lambda: browser.execute_script(X, one()) == 60)
    assert browser.execute_script("return document.querySelectorAll('deck-lamp').length") == 2
    other = browser.find_element("css selector", "deck-lamp:not(.one)")
    assert browser.execute_script(LOOK, other)[:2] == ["70px", "rgb(217, 80, 58)"]
