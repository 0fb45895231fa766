"""Files of elements, played in a browser: the boxes, opacities and colours of their layers, moment by moment."""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping, Sequence
from typing import Any

import numpy as np

from keen_ripple.core import outlines
from keen_ripple.core.arrays import Floats
from keen_ripple.core.colour import parse_colour
from keen_ripple.core.document import walk
from keen_ripple.core.measures.geometry import frames
from keen_ripple.core.timeline import Timeline, cross_fade_at, sample
from keen_ripple.handoff.animate import function_of
from keen_ripple.handoff.beyond_css import WHOLE, beyond_css
from keen_ripple.handoff.cross_fades import PLAYING
from keen_ripple.handoff.css import CSS
from keen_ripple.handoff.element import tag_of
from keen_ripple.handoff.format import Files
from keen_ripple.handoff.options import AS_IT_IS
from keen_ripple.handoff.parts import changing_values, share_of
from keen_ripple.handoff.stylesheet import said
from keen_ripple.measured.browser import browser, seen
from keen_ripple.measured.result import Measured, NotMeasured, Worst

# What is nearly transparent has hardly a colour.
LEAST_ALPHA = 0.02
# A contour no larger than this, in the px of its view, is a point.
POINT = 0.01

PLAYED = "document.getAnimations().filter((each) => each.timeline instanceof DocumentTimeline)"
HOLD = f"for (const each of {PLAYED}) {{ each.pause(); each.currentTime = t; }}"
LOOK = """
const canvas = new OffscreenCanvas(1, 1).getContext('2d', { willReadFrequently: true });
const rgba = (text) => {
  const lab = /^oklab\\(([^ ]+) ([^ ]+) ([^ ]+)(?: \\/ ([^)]+))?\\)$/.exec(text);
  const alpha = lab ? Number(lab[4] ?? 1) : Number(/rgba\\(.*, ([0-9.]+)\\)/.exec(text)?.[1] ?? 1);
  canvas.clearRect(0, 0, 1, 1);
  canvas.fillStyle = lab ? `oklab(${lab[1]} ${lab[2]} ${lab[3]})` : text.replace(/rgba\\((.*), [0-9.]+\\)/, 'rgb($1)');
  canvas.fillRect(0, 0, 1, 1);
  return [...canvas.getImageData(0, 0, 1, 1).data].slice(0, 3).concat(alpha);
};
const paintOf = (element, style) => {
  if (element.localName === 'svg') return getComputedStyle(element.querySelector(':scope > path')).fill;
  const hasText = element.textContent.trim() && !element.querySelector('[data-layer]');
  const isText = element.classList.contains('text') || hasText;
  return isText ? style.color : style.backgroundColor;
};
const COLOUR = /(?:oklab|rgba?)\\([^)]*\\)/g;
const opacityOf = (element) => Number(getComputedStyle(element).opacity);
const sharesIn = (element) => [...element.querySelectorAll(':scope > div:not([data-layer])')].map(opacityOf);
const look = (element, origin) => {
  const box = element.getBoundingClientRect(), style = getComputedStyle(element);
  const fill = paintOf(element, style);
  const drawn = element.localName === 'svg' ? element.querySelector(':scope > path') : null;
  return [box.x - origin.x, box.y - origin.y, box.width, box.height, Number(style.opacity),
    ...rgba(fill === 'none' ? 'rgba(0, 0, 0, 0)' : fill),
    drawn && (getComputedStyle(drawn).d?.slice(6, -2) || drawn.getAttribute('d')),
    [...style.backgroundImage.matchAll(COLOUR)].map(([text]) => rgba(text)),
    sharesIn(element)];
};
"""
"""In JavaScript: look(element, origin) is [x, y, width, height, opacity, red, green, blue, alpha, outline, stops,
shares]: of a path its outline as path data, else null; of a box the colours of its gradient, none where it has none; by
which share each of the texts or pictures inside of it is seen."""

SCRIPT = """
LOOK
addEventListener('load', async () => {
  await document.fonts.ready;
  const root = ROOT, origin = (ORIGIN).getBoundingClientRect();
  // What cuts stands far away from where it cuts.
  for (const each of root.querySelectorAll('[data-cuts]')) each.style.transform = 'none';
  const seen = MOMENTS.map((t) => {
    HOLD
    const layers = [...root.querySelectorAll('[data-layer]')].filter((each) => !each.closest('.under'));
    const looks = [...root.querySelectorAll('[data-look]')].map((each) => [each.dataset.look, opacityOf(each)]);
    return Object.fromEntries([
      ...layers.map((each) => [each.dataset.layer, look(each, origin)]), ['', Object.fromEntries(looks)],
    ]);
  });
  const pre = document.createElement('pre');
  pre.id = 'seen';
  pre.textContent = JSON.stringify(seen);
  document.body.replaceChildren(pre);
});
"""


def measured_elements(
    timeline: Timeline, name: str, files: Files, moments: Sequence[float], shown: Callable[[str], Any] = seen
) -> Measured:
    """Of formats that show elements, as the browser behind `shown` has them. Raises NotMeasured."""
    drawn = beyond_css(timeline, own_markup=name == "animate") if name != "element" else {}
    told = () if WHOLE in drawn else tuple(said(timeline.piece.layers, drawn))
    if drawn and not told:
        raise NotMeasured("Not measured: all of it is drawn into pictures.", remedy="Measure a WebP, drawn alike.")
    page, root, origin, hold = PAGES[name](timeline, files)
    script = SCRIPT.replace("LOOK", LOOK).replace("ROOT", root).replace("ORIGIN", origin).replace("HOLD", hold)
    script = script.replace("MOMENTS", json.dumps(list(moments)))
    found = shown(page.replace("</body>", f"<script>{script}</script></body>"))
    by = browser()[1] if shown is seen else "another browser"
    layers = [layer.id for layer in told]
    names = {layer.id: layer.name for layer, _ in walk(timeline.piece.layers)}
    # A mask is not painted, however it is filled.
    values = {layer.id: changing_values(timeline, layer) for layer in told}
    changing = {id_: each for id_, each in values.items() if len(each) > 1 and name != "element"}
    painted = {layer.id for layer, _ in walk(timeline.piece.layers) if layer.mask is not True}
    worst = {"px": Worst(0.0), "opacity": Worst(0.0), "colour": Worst(0.0)}
    for t, theirs, pose in zip(moments, found, sample(timeline, moments), strict=True):
        # A browser tells the bounds of the whole box, whatever its outline.
        bounds = frames(timeline.piece, pose)
        for layer in layers:
            if layer not in theirs:
                raise NotMeasured(f"Not measured: {names[layer]} is not shown.", remedy="Open the file to see why.")
            for kind, value in _off(theirs[layer], pose[layer], bounds[layer], layer in painted).items():
                worst[kind] = worst[kind].or_more(value, t, names[layer])
            if layer in changing:
                off = _shares_off(theirs[layer][11], pose[layer], changing[layer])
                worst["opacity"] = worst["opacity"].or_more(off, t, names[layer])
        off = _looks_off(theirs[WHOLE], timeline, t)
        worst["opacity"] = worst["opacity"].or_more(off, t, "all of it")
    left_out = tuple(f"{names[layer]} is drawn into pictures." for layer in drawn)
    return Measured(by, len(moments), worst, left_out)


def _off(theirs: Sequence[Any], look: Mapping[str, Any], box: Any, is_painted: bool) -> dict[str, float]:
    found = {"px": float(np.max(np.abs(np.array(theirs[:4]) - box)))}
    if is_painted:
        found["opacity"] = abs(theirs[4] - look["opacity"] * look["visible"])
    if isinstance(look.get("path"), str):
        found["px"] = max(found["px"], _outline_off(theirs[9], look))
    if is_painted and "fill" in look:
        pairs = [(colour, theirs[5:9]) for colour in [look["fill"]] if isinstance(colour, str)]
        if theirs[10]:
            # A colour is a gradient of nothing else where it goes over into one.
            ours = [stop.colour for stop in getattr(look["fill"], "stops", ())] or [look["fill"]] * len(theirs[10])
            pairs = list(zip(ours, theirs[10], strict=True))
        found["colour"] = max((_colour_off(text, seen) for text, seen in pairs), default=0.0)
    return found


def _shares_off(theirs: Sequence[float], look: Mapping[str, Any], values: Sequence[str]) -> float:
    """Of texts or pictures that change into each other."""
    seen = look.get("text", look.get("source"))
    pairs = zip(theirs, (share_of(value, seen) for value in values), strict=True)
    return max(abs(share - ours) for share, ours in pairs)


def _looks_off(theirs: Mapping[str, float], timeline: Timeline, t: float) -> float:
    """Of the looks that fade into each other, by the states that they are of; of other formats nothing is told."""
    fade = cross_fade_at(timeline, t)
    share, left = (1.0, "") if fade is None else (fade[1], timeline.run.states_at(timeline.run.within(t))[0])
    ours = {PLAYING: share, left: 1.0 - share} if left else {PLAYING: 1.0}
    return max((abs(seen - ours.get(state, 0.0)) for state, seen in theirs.items()), default=0.0)


def _colour_off(ours: str, theirs: Sequence[float]) -> float:
    """By how much of 255."""
    *rgb, alpha = parse_colour(ours)
    apart = abs(theirs[3] - alpha) * 255.0
    return max(apart, float(np.max(np.abs(np.array(theirs[:3]) - rgb)))) if alpha > LEAST_ALPHA else apart


def _outline_off(theirs: str, look: Mapping[str, Any]) -> float:
    """How far the bounds of an outline are off, in the px of its layer."""
    across, down = look["width"] / look["view_width"], look["height"] / look["view_height"]
    return float(np.max(np.abs(_drawn(theirs) - _drawn(look["path"])) * (across, down, across, down)))


def _drawn(path: str) -> Floats:
    """(left, top, right, bottom) of its contours; those that have shrunk to a point are not seen."""
    bounds = np.array(outlines.contour_bounds(path) or [(0.0, 0.0, 0.0, 0.0)])
    large = bounds[np.max(bounds[:, 2:] - bounds[:, :2], axis=1) > POINT]
    seen = large if len(large) else bounds
    return np.concatenate((np.min(seen[:, :2], axis=0), np.max(seen[:, 2:], axis=0)))


Page = tuple[str, str, str, str]
"""A page of HTML, and as JavaScript where its layers are, from where they are measured, and how a moment is held."""
EMPTY = "<!doctype html><meta charset=utf-8><body style='margin: 0'>{}</body>"


def _html(_: Timeline, files: Files) -> Page:
    return files["html"].decode(), "document", "document.querySelector('.piece')", HOLD


def _css(timeline: Timeline, files: Files) -> Page:
    page = EMPTY.format(f"<style>{files['css'].decode()}</style>{files['markup.html'].decode()}")
    return page, "document", "document.body.querySelector('div')", HOLD


def _svg(_: Timeline, files: Files) -> Page:
    return EMPTY.format(files["svg"].decode()), "document", "document.querySelector('foreignObject > *')", HOLD


def _animate(timeline: Timeline, files: Files) -> Page:
    markup = CSS.files(timeline, AS_IT_IS)["markup.html"].decode()
    play = f"window.played = {function_of(timeline)}(document.body, {{ calm: false }});"
    module = f'<script type="module">{files["animate.js"].decode()}\n{play}</script>'
    box = f"position: relative; width: {timeline.piece.width:g}px; height: {timeline.piece.height:g}px"
    page = EMPTY.format(f'<main style="{box}">{markup}</main>{module}')
    return page, "document", "document.querySelector('main')", "played.pause(); played.seek(t);"


def _element(timeline: Timeline, files: Files) -> Page:
    tag = tag_of(timeline)
    module = files["element.js"].decode().replace("</script", "<\\/script")
    page = EMPTY.format(f'<{tag} paused></{tag}><script type="module">{module}</script>')
    root = f"document.querySelector('{tag}').shadowRoot"
    hold = f"document.querySelector('{tag}').seek(t);"
    return page, root, f"{root}.querySelector('.scene:not(.under)')", hold


PAGES: dict[str, Callable[[Timeline, Files], Page]] = {
    "html": _html,
    "css": _css,
    "svg": _svg,
    "animate": _animate,
    "element": _element,
}
