"""What an element looks like: presentation attributes, rules of style sheets, style attributes, and inheritance."""

from __future__ import annotations

import re
from collections.abc import Mapping
from xml.etree.ElementTree import Element

import cssselect2
import tinycss2

from keen_ripple.intake.opened import kind_of

INHERITED = {
    "fill": "black",
    "fill-opacity": "1",
    "fill-rule": "nonzero",
    "clip-rule": "nonzero",
    "stroke": "none",
    "stroke-opacity": "1",
    "stroke-width": "1",
    "stroke-linecap": "butt",
    "stroke-linejoin": "miter",
    "stroke-dasharray": "none",
    "stroke-dashoffset": "0",
    "color": "black",
    "visibility": "visible",
    "font-size": "16",
    "font-family": "",
    "font-weight": "400",
    "letter-spacing": "normal",
    "font-style": "normal",
    "dominant-baseline": "auto",
    "writing-mode": "horizontal-tb",
    "text-anchor": "start",
    "marker-start": "none",
    "marker-mid": "none",
    "marker-end": "none",
}
OWN = {
    "opacity": "1",
    "display": "inline",
    "text-decoration": "none",
    "clip-path": "none",
    "mask": "none",
    "mask-type": "luminance",
    "filter": "none",
    "stop-color": "black",
    "flood-color": "black",
    "flood-opacity": "1",
}
OWN |= {"stop-opacity": "1", "transform": "", "mix-blend-mode": "normal"}
Style = dict[str, str]
MOST_RULES = 1000


class Sheet:
    """The style rules of a file, ready to be asked for an element."""

    def __init__(self, root: Element, at_first: bool = False) -> None:
        """`at_first`: what moves by keyframes stands at the first of them."""
        self._matcher = cssselect2.Matcher()
        self._at_first = at_first
        self._first_frames: dict[str, Style] = {}
        self._rules = self.left_out = 0
        self._wrapped = {wrapper.etree_element: wrapper for wrapper in _wrappers(root)}
        for element in root.iter():
            if kind_of(element) == "style":
                self._add("".join(element.itertext()))

    @property
    def moves(self) -> bool:
        """Whether there are keyframes."""
        return bool(self._first_frames)

    def of(self, element: Element, outer: Mapping[str, str]) -> Style:
        """The computed style; `outer` is that of the element around it."""
        said = {name: value for name, value in element.attrib.items() if name in INHERITED or name in OWN}
        wrapper = self._wrapped.get(element)
        for match in sorted(self._matcher.match(wrapper)) if wrapper is not None else []:
            said.update(match[3])
        said.update(_declarations(element.get("style", "")))
        if self._at_first and self._first_frames:
            said.update(self._first_of(said))
        style = {name: outer.get(name, initial) for name, initial in INHERITED.items()} | OWN
        for name, value in said.items():
            if name in style and value.strip() != "inherit":
                style[name] = value.strip()
        return style

    def _first_of(self, said: Style) -> Style:
        """What keyframes say at 0 s: none of those that begin later and do not hold their first frame until then."""
        text = f"{said.get('animation', '')} {said.get('animation-name', '')}"
        names = [name for name in re.split(r"[\s,]+", text) if name in self._first_frames]
        times = re.findall(r"(?<![\w.-])([\d.]+)m?s\b", said.get("animation", ""))
        delay = said.get("animation-delay", times[1] if len(times) > 1 else "0")
        fills = re.search(r"\b(backwards|both)\b", f"{text} {said.get('animation-fill-mode', '')}")
        later = re.match(r"0*\.?0*[1-9]", delay) is not None
        return {} if later and not fills else {k: v for name in names for k, v in self._first_frames[name].items()}

    def _add(self, text: str) -> None:
        for rule in tinycss2.parse_stylesheet(text, skip_comments=True, skip_whitespace=True):
            if rule.type == "at-rule" and rule.lower_at_keyword.endswith("keyframes"):
                self._keep_first(tinycss2.serialize(rule.prelude).strip(), rule.content)
            if rule.type != "qualified-rule":
                continue
            self._rules += 1
            if self._rules > MOST_RULES:
                self.left_out += 1
                continue
            declarations = _declarations(rule.content)
            try:
                selectors = cssselect2.compile_selector_list(rule.prelude)
            except cssselect2.SelectorError:
                continue
            for selector in selectors:
                self._matcher.add_selector(selector, declarations)

    def _keep_first(self, name: str, frames: object) -> None:
        found = self._first_frames.setdefault(name, {})
        for frame in tinycss2.parse_rule_list(frames or [], skip_comments=True, skip_whitespace=True):
            at = tinycss2.serialize(frame.prelude) if frame.type == "qualified-rule" else ""
            if {"from", "0%"} & {part.strip() for part in at.split(",")}:
                found.update(_declarations(frame.content))


def _wrappers(root: Element) -> list[cssselect2.ElementWrapper]:
    return list(cssselect2.ElementWrapper.from_xml_root(root).iter_subtree())


def _declarations(text: object) -> Style:
    found = tinycss2.parse_blocks_contents(text, skip_comments=True, skip_whitespace=True)
    return {d.lower_name: tinycss2.serialize(d.value).strip() for d in found if d.type == "declaration"}
