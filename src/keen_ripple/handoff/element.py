"""The piece as a custom element, one module without dependencies, and as a React component around it."""

from __future__ import annotations

import json
import re
import unicodedata
from collections.abc import Collection, Iterator, Mapping
from dataclasses import dataclass, field

from keen_ripple.core.errors import Fault
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.fonts import font_faces, font_notes
from keen_ripple.handoff.format import Files, in_file
from keen_ripple.handoff.live import built_script, handed_of, in_script, players_of
from keen_ripple.handoff.names import in_comment
from keen_ripple.handoff.options import Options
from keen_ripple.handoff.report import Report
from keen_ripple.handoff.settings import settable_letters, setting_notes, settings_of, settings_told

JS, TYPES = "text/javascript", "text/plain"


@dataclass(frozen=True)
class Element:
    name: str = "element"
    takes: Collection[str] = ()
    endings: Mapping[str, str] = field(default_factory=lambda: {"element.js": JS, "element.d.ts": TYPES})

    def report(self, timeline: Timeline, options: Options) -> Report:
        options.check(self.name, self.takes)
        holds = f"<{tag_of(timeline)}>, with all {len(timeline.piece.states)} states and their transitions."
        holds += settings_told(timeline)
        return Report(holds, _notes(timeline), _refused(timeline, self.name))

    def files(self, timeline: Timeline, options: Options) -> Files:
        options.check(self.name, self.takes)
        for fault in _refused(timeline, self.name):
            raise fault
        return {"element.js": in_file(_module(timeline)), "element.d.ts": in_file(_types(timeline))}


@dataclass(frozen=True)
class React:
    name: str = "react"
    takes: Collection[str] = ()
    endings: Mapping[str, str] = field(
        default_factory=lambda: {"tsx": TYPES, "element.js": JS, "element.d.ts": TYPES},
    )

    def report(self, timeline: Timeline, options: Options) -> Report:
        options.check(self.name, self.takes)
        holds = f"<{class_of(timeline)}>, for React 18 and later, around the custom element."
        holds += settings_told(timeline)
        return Report(holds, _notes(timeline), _refused(timeline, self.name))

    def files(self, timeline: Timeline, options: Options) -> Files:
        options.check(self.name, self.takes)
        return {"tsx": in_file(_component(timeline)), **ELEMENT.files(timeline, options)}


ELEMENT, REACT = Element(), React()


def tag_of(timeline: Timeline) -> str:
    """After the id of the piece; a custom element has to have a dash, and a letter first."""
    name = re.sub(r"[^a-z0-9]+", "-", timeline.piece.id.lower()).strip("-")
    return name if "-" in name and name[0].isalpha() else f"piece-{name}"


def class_of(timeline: Timeline) -> str:
    """After the name of the piece where that has Latin letters, else after its id."""
    plain = unicodedata.normalize("NFKD", timeline.piece.name).encode("ascii", "ignore").decode("ascii")
    words = re.findall(r"[A-Za-z0-9]+", plain) or re.findall(r"[a-z0-9]+", timeline.piece.id)
    name = "".join(word[0].upper() + word[1:] for word in words)
    return name if name[0].isalpha() else f"Piece{name}"


def _refused(timeline: Timeline, name: str) -> tuple[Fault, ...]:
    if timeline.rehearsal is None:
        return ()
    remedy = "Choose html, which plays what happened."
    return (Fault(f"{name} answers to whoever acts, and plays no rehearsal.", remedy=remedy),)


def _notes(timeline: Timeline) -> tuple[str, ...]:
    return (*font_notes(timeline), *setting_notes(timeline))


def _states(timeline: Timeline) -> list[str]:
    return [state.id for state in timeline.piece.states]


def _module(timeline: Timeline) -> Iterator[str]:
    tag, name, start = tag_of(timeline), class_of(timeline), timeline.piece.start
    fonts = "\n".join(font_faces(timeline, settable_letters(timeline)))
    handed = in_script({"name": timeline.piece.name, "fonts": fonts, **handed_of(timeline)})
    settings = settings_of(timeline)
    yield "/**"
    yield f" * {in_comment(timeline.piece.name)}, as a custom element. It registers itself."
    yield " *"
    yield f' *   <script type="module" src="{timeline.piece.id}.element.js"></script>'
    example = "".join(f' {own.attribute}="{own.example}"' for own in settings[:1])
    yield f' *   <{tag} state="{start}"{example}></{tag}>'
    yield " *"
    yield f" * Attributes and properties: state ({', '.join(_states(timeline))}), paused."
    yield " * Methods: go(state), play(), pause(), seek(ms). Property: events, what was done so far."
    yield " * Event: statechange, with detail {from, to}."
    if settings:
        yield " *"
        yield " * Attributes, each a property too:"
        yield from (f" *   {own.attribute} ({own.member}) – {in_comment(own.about)}" for own in settings)
    yield " */"
    yield from (f"(() => {{ {built_script(player)} }})();" for player in players_of(handed))
    yield built_script("element")
    yield f"const piece = {handed};"
    yield f"export class {name} extends element.pieceElement(piece) {{}}"
    yield f"export default {name};"
    yield f'if (globalThis.customElements && !customElements.get("{tag}")) customElements.define("{tag}", {name});'


def _types(timeline: Timeline) -> Iterator[str]:
    tag, name = tag_of(timeline), class_of(timeline)
    yield f"/** A state of {in_comment(timeline.piece.name)}. */"
    yield f"export type {name}State = {' | '.join(map(json.dumps, _states(timeline)))};"
    yield f"export interface {name}Change {{ from: {name}State; to: {name}State; }}"
    yield f"export declare class {name} extends HTMLElement {{"
    yield "  /** Where it stands; set, it goes there. */"
    yield f"  state: {name}State;"
    yield "  paused: boolean;"
    for own in settings_of(timeline):
        yield f"  /** {in_comment(own.about)} */"
        yield f"  {own.member}: {own.type} | null;"
    yield "  /** What was done so far. */"
    yield "  readonly events: readonly object[];"
    yield f"  go(state: {name}State): void;"
    yield "  play(): void;"
    yield "  pause(): void;"
    yield "  /** Shows the moment so many ms after the start. */"
    yield "  seek(ms: number): void;"
    yield "}"
    yield f"export default {name};"
    yield f'declare global {{ interface HTMLElementTagNameMap {{ "{tag}": {name}; }} }}'


def _component(timeline: Timeline) -> Iterator[str]:
    """Typed strictly; on a server it is an empty element of its size, which fills itself in the browser."""
    piece, name = timeline.piece, class_of(timeline)
    first = json.dumps(piece.start)
    settings = settings_of(timeline)
    yield from COMPONENT.format(
        about=in_comment(piece.name),
        name=name,
        tag=tag_of(timeline),
        file=f"./{piece.id}.element.js",
        first=first,
        example="".join(f" {own.member}={{{json.dumps(own.example, ensure_ascii=False)}}}" for own in settings[:1]),
        width=f"{piece.width:g}",
        height=f"{piece.height:g}",
        props="".join(
            f"  /** {in_comment(own.about)} */\n  {own.member}?: {own.type} | undefined;\n" for own in settings
        ),
        members="".join(f", {own.member}" for own in settings),
        attributes="".join(f", {json.dumps(own.attribute)}: {own.member}" for own in settings),
    ).splitlines()


COMPONENT = """\
'use client';
/**
 * {about}, as a React component (React 18 and later, no other dependency).
 *
 *   <{name} state={{{first}}}{example} onStateChange={{({{ to }}) => console.log(to)}} />
 */
import {{ createElement, forwardRef, useEffect, useImperativeHandle, useRef }} from 'react';
import type {{ CSSProperties }} from 'react';
import type {{ {name} as {name}Element, {name}Change, {name}State }} from '{file}';

export type {{ {name}Change, {name}State }};

export interface {name}Props {{
  /** Where it stands; left out, it lives by itself. */
  state?: {name}State;
  paused?: boolean;
{props}  onStateChange?: (change: {name}Change) => void;
  className?: string;
  style?: CSSProperties;
}}

export interface {name}Handle {{
  go(state: {name}State): void;
  play(): void;
  pause(): void;
  /** Shows the moment so many ms after the start. */
  seek(ms: number): void;
}}

export const {name} = forwardRef<{name}Handle, {name}Props>(function {name}(
  {{ state, paused = false, onStateChange, className, style{members} }},
  ref,
) {{
  const own = useRef<{name}Element>(null);
  const told = useRef(onStateChange);
  useEffect(() => {{
    told.current = onStateChange;
  }});
  useEffect(() => {{
    // The element itself is asked for in the browser alone.
    void import('{file}');
    const element = own.current;
    const tell = (event: Event) => told.current?.((event as CustomEvent<{name}Change>).detail);
    element?.addEventListener('statechange', tell);
    return () => element?.removeEventListener('statechange', tell);
  }}, []);
  useEffect(() => {{
    if (state !== undefined) own.current?.setAttribute('state', state);
  }}, [state]);
  useEffect(() => {{
    own.current?.toggleAttribute('paused', paused);
  }}, [paused]);
  useImperativeHandle(ref, () => ({{
    go: (to) => own.current?.go(to),
    play: () => own.current?.play(),
    pause: () => own.current?.pause(),
    seek: (ms) => own.current?.seek(ms),
  }}), []);
  const size = {{ display: 'inline-block', width: {width}, height: {height} }};
  return createElement('{tag}', {{ ref: own, class: className, style: {{ ...size, ...style }}{attributes} }});
}});
export default {name};
"""
