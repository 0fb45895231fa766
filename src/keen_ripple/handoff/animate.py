"""A typed function of the Web Animations API, for those who have their own markup: elements in, animations out."""

from __future__ import annotations

import json
import re
from collections.abc import Collection, Iterable, Iterator, Mapping
from dataclasses import dataclass, field, replace
from typing import Any

from keen_ripple.core.document import walk
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.animation import Animation
from keen_ripple.handoff.beyond_css import WHOLE, beyond_css
from keen_ripple.handoff.carried import drawn_part, flipbooks_of
from keen_ripple.handoff.element import JS, TYPES, class_of
from keen_ripple.handoff.flipbook import Flipbook
from keen_ripple.handoff.fonts import family_notes
from keen_ripple.handoff.format import Files, in_file
from keen_ripple.handoff.html import HTML, ways_said
from keen_ripple.handoff.keyframes import animations_of
from keen_ripple.handoff.live import in_script
from keen_ripple.handoff.markup import DRAWN, Drawn, indented
from keen_ripple.handoff.names import in_comment
from keen_ripple.handoff.options import Options
from keen_ripple.handoff.parts import Part, parts_of, seen_first
from keen_ripple.handoff.report import Report, held, left_out_by_cue
from keen_ripple.handoff.stylesheet import PLACED, calm_of, rest_of, said

MASK_OF = ":mask"
"""At the end of the name of a mask: the element that it cuts."""

NOTHING: Mapping[str, Any] = {"look": {}, "motion": []}
Moves = list[tuple[list[dict[str, Any]], dict[str, Any]]]
"""Keyframes of the API, each list with how it is timed."""


@dataclass(frozen=True)
class Animate:
    name: str = "animate"
    takes: Collection[str] = ()
    endings: Mapping[str, str] = field(default_factory=lambda: {"animate.js": JS, "animate.d.ts": TYPES})

    def report(self, timeline: Timeline, options: Options) -> Report:
        options.check(self.name, self.takes)
        drawn = beyond_css(timeline, own_markup=True)
        told = replace(HTML.report(timeline, options), said=ways_said(timeline, drawn))
        holds = f"{function_of(timeline)}(elements): {_small(held(timeline))}"
        if WHOLE in drawn:
            return replace(told, holds=holds)
        layers, rounds = [layer for layer, _ in walk(timeline.piece.layers)], timeline.piece.undercurrents
        cut = [f"{layer.name}: it cuts by what it shows." for layer in layers if layer.masks_by_content]
        scrolled = [f"{own.name}: it follows scrolling." for own in rounds if own.section is not None]
        masks = [
            f"{layer.name} cuts the element around what is above it, called '{layer.id}{MASK_OF}'."
            for layer in layers
            if layer.mask is True
        ]
        inside = [
            f"{layer.name}: other elements lie inside of its own, as in CSS and markup."
            for layer in said(timeline.piece.layers, drawn)
            if any(part.paints or (part.within and layer.kind != "path") for part in parts_of(timeline, layer))
        ]
        waiting = left_out_by_cue(timeline, "the function answers to nobody")
        left_out = (*waiting, *cut, *scrolled, *family_notes(timeline))
        return replace(told, holds=holds, leaves_out=left_out, said=(*told.said, *masks, *inside))

    def files(self, timeline: Timeline, options: Options) -> Files:
        options.check(self.name, self.takes)
        return {"animate.js": in_file(_module(timeline)), "animate.d.ts": in_file(_types(timeline))}


ANIMATE = Animate()


def function_of(timeline: Timeline) -> str:
    """After the name of the piece, with a verb, so that it is no word of the language: `playTideLoader`."""
    return f"play{class_of(timeline)}"


def _small(text: str) -> str:
    return text[0].lower() + text[1:]


def _layers(timeline: Timeline) -> dict[str, Any]:
    """By layer how it looks at first, and its motion; both also for those who ask for less motion."""
    drawn: Drawn = flipbooks_of(timeline, own_markup=True)
    if WHOLE in drawn:
        return {timeline.piece.id: _of_pictures(drawn[WHOLE])}
    layers = [layer for layer in said(timeline.piece.layers, drawn) if not layer.masks_by_content]
    parts = [part for layer in layers for part in parts_of(timeline, layer)]
    found = {f"{part.layer.id}{MASK_OF * part.is_mask}": _of_part(timeline, part) for part in parts if not part.within}
    for part in parts:
        if part.within:
            inside = found[part.layer.id].setdefault("inside", {})
            inside[part.within.removeprefix(" > ")] = _of_part(timeline, part)
    own = {layer.id: layer for layer, _ in walk(timeline.piece.layers)}
    return found | {name: _of_part(timeline, drawn_part(own[name], book, timeline)) for name, book in drawn.items()}


def _of_part(timeline: Timeline, part: Part) -> dict[str, Any]:
    look = {**({} if part.is_mask or part.within else PLACED), **part.fixed}
    look |= rest_of(timeline, part, seen_first(timeline)[part.layer.id])
    calm = {"look": calm_of(timeline, part), "motion": _motion(animations_of(timeline, part, calm=True))}
    return {"look": look, "motion": _motion(animations_of(timeline, part)), "calm": calm}


def _of_pictures(book: Flipbook) -> dict[str, Any]:
    return {"look": {**PLACED, **book.look()}, "motion": _motion(book.animations(DRAWN)), "calm": NOTHING}


def _motion(animations: Iterable[Animation]) -> Moves:
    return [_move(animation) for animation in animations if animation.section is None]


def _move(animation: Animation) -> tuple[list[dict[str, Any]], dict[str, Any]]:
    frames = [
        {
            "offset": round(frame.t_ms / animation.duration_ms, 9),
            **({"easing": easing} if (easing := frame.easing or animation.easing) != "linear" else {}),
            **{_camel(css): text for css, text in frame.values.items()},
        }
        for frame in animation.keyframes
    ]
    timing: dict[str, Any] = {"duration": animation.duration_ms}
    if animation.delay_ms:
        timing["delay"] = animation.delay_ms
    if animation.plays == 1:
        timing["fill"] = "both"
    else:
        timing["iterations"] = animation.plays
    return frames, timing


def _camel(css: str) -> str:
    return css if css.startswith("--") else re.sub(r"-([a-z])", lambda found: found[1].upper(), css)


def _module(timeline: Timeline) -> Iterator[str]:
    piece, name = timeline.piece, function_of(timeline)
    layers = _layers(timeline)
    first = next(iter(layers), "layer")
    yield "/**"
    yield f" * {in_comment(piece.name)}, for elements of your own. {held(timeline)}"
    yield " *"
    yield f" *   import {{ {name} }} from './{piece.id}.animate.js';"
    yield f" *   const played = {name}({{ '{first}': document.querySelector('#its-element') }});"
    yield " *   played.pause(); played.seek(400); played.play(); played.cancel();"
    yield " *"
    yield f" * Its elements stand in a box of {piece.width:g} × {piece.height:g} px with `position: relative`."
    yield " */"
    yield "const LAYERS = {"
    for layer, told in layers.items():
        yield from indented(_told(layer, told), 2)
    yield "};"
    yield from _registered(timeline)
    yield from FUNCTION.replace("NAME", name).splitlines()


def _registered(timeline: Timeline) -> Iterator[str]:
    """Custom properties that browsers blend; once on a page."""
    drawn = beyond_css(timeline, own_markup=True)
    layers = () if WHOLE in drawn else said(timeline.piece.layers, drawn)
    found = [each for layer in layers for part in parts_of(timeline, layer) for each in part.registered]
    if not found:
        return
    yield "for (const own of ["
    for each in found:
        told = {"name": each.name, "syntax": each.syntax, "inherits": False, "initialValue": each.initial}
        yield f"  {in_script(told)},"
    yield "]) try { CSS.registerProperty(own); } catch { /* It is there already. */ }"


def _told(name: str, told: Mapping[str, Any]) -> Iterator[str]:
    """Of one element, and of what has to lie in it."""
    yield f"{json.dumps(name)}: {{"
    yield f"  look: {in_script(told['look'])},"
    yield from indented(_written("motion", told["motion"]), 2)
    yield "  calm: {"
    yield f"    look: {in_script(told['calm']['look'])},"
    yield from indented(_written("motion", told["calm"]["motion"]), 4)
    yield "  },"
    if told.get("inside"):
        yield "  inside: {"
        for selector, part in told["inside"].items():
            yield from indented(_told(selector, part), 4)
        yield "  },"
    yield "},"


def _written(name: str, moves: Moves) -> Iterator[str]:
    """A keyframe a line."""
    if not moves:
        yield f"{name}: [],"
        return
    yield f"{name}: ["
    for frames, timing in moves:
        yield "  [["
        yield from (f"    {in_script(frame)}," for frame in frames)
        yield f"  ], {in_script(timing)}],"
    yield "],"


FUNCTION = """\

const isCalm = () => matchMedia('(prefers-reduced-motion: reduce)').matches;
const within = (root) => [
  ...[...root.querySelectorAll('[data-layer]')].map((element) => [element.dataset.layer, element]),
  ...[...root.querySelectorAll('[data-mask]')].map((element) => [`${element.dataset.mask}:mask`, element]),
];

const all = (element, told) => [
  [told, element],
  ...Object.entries(told.inside ?? {}).map(([selector, part]) => [part, element.querySelector(`:scope > ${selector}`)]),
];

export function NAME(elements, { calm = isCalm() } = {}) {
  const found = elements instanceof Element ? within(elements) : Object.entries(elements);
  const known = found
    .filter(([layer, element]) => element && Object.hasOwn(LAYERS, layer))
    .flatMap(([layer, element]) => all(element, LAYERS[layer]))
    .filter(([, element]) => element);
  const before = known.map(([, element]) => [element, element.getAttribute('style')]);
  const animations = known.flatMap(([{ look, motion, calm: quiet }, element]) => {
    for (const [name, value] of Object.entries({ ...look, ...(calm ? quiet.look : {}) }))
      element.style.setProperty(name, value);
    return (calm ? quiet.motion : motion).map(([frames, { iterations, ...timing }]) =>
      element.animate(frames, { ...timing, iterations: iterations === null ? Infinity : (iterations ?? 1) }),
    );
  });
  return {
    animations,
    play: () => animations.forEach((each) => each.play()),
    pause: () => animations.forEach((each) => each.pause()),
    seek: (ms) => animations.forEach((each) => (each.currentTime = ms)),
    cancel: () => {
      for (const each of animations) each.cancel();
      for (const [element, style] of before)
        if (style === null) element.removeAttribute('style');
        else element.setAttribute('style', style);
    },
  };
}
export default NAME;
"""


def _types(timeline: Timeline) -> Iterator[str]:
    piece, name, kind = timeline.piece, function_of(timeline), class_of(timeline)
    layers = list(_layers(timeline))
    yield f"/** A layer of {in_comment(piece.name)}. */"
    yield f"export type {kind}Layer = {' | '.join(map(json.dumps, layers)) or 'never'};"
    yield f"export interface {kind}Played {{"
    yield "  readonly animations: readonly Animation[];"
    yield "  play(): void;"
    yield "  pause(): void;"
    yield "  /** Shows the moment so many ms after the start. */"
    yield "  seek(ms: number): void;"
    yield "  /** Takes the motion and its looks away. */"
    yield "  cancel(): void;"
    yield "}"
    yield "/** Plays on elements by layer, or on all inside of one with data-layer. `calm` moves nothing away. */"
    yield f"export declare function {name}("
    yield f"  elements: Element | Partial<Record<{kind}Layer, HTMLElement | SVGElement | null>>,"
    yield "  options?: { calm?: boolean },"
    yield f"): {kind}Played;"
    yield f"export default {name};"
