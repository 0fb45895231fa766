"""Untrusted SVG text as a tree: nothing is loaded from outside, and nothing grows beyond what was sent."""

from __future__ import annotations

import re
from xml.etree.ElementTree import Element, ParseError

from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring

from keen_ripple.core.errors import Fault

LARGEST = 8_000_000
DEEPEST = 200
MOST_ELEMENTS = 20_000
SVG = "{http://www.w3.org/2000/svg}"
LONGEST_HEAD = 20_000
# Entities that stand for text without markup or other entities, as drawing programs write them for namespaces.
DOCTYPE = re.compile(rb"<!DOCTYPE[^\[>]*(?:\[(.*?)\]\s*)?>", re.S)
ENTITY = re.compile(rb"""<!ENTITY\s+([A-Za-z_][\w.-]*)\s+("[^"<&%]*"|'[^'<&%]*')\s*>""")
PLAIN_ENTITIES = re.compile(rb"(?:\s|<!--.*?-->|" + ENTITY.pattern + rb")*", re.S)
HREF = "{http://www.w3.org/1999/xlink}href"


class IntakeFault(Fault):
    """A file that cannot be taken in."""


def opened(data: bytes) -> Element:
    """The root element. Raises IntakeFault."""
    if len(data) > LARGEST:
        raise IntakeFault(
            f"The file has {len(data) / 1e6:.1f} MB.", remedy=f"Simplify it to at most {LARGEST // 1_000_000} MB."
        )
    try:
        root: Element = fromstring(_plain(data), forbid_dtd=False, forbid_entities=True, forbid_external=True)
    except DefusedXmlException as error:
        raise IntakeFault(
            f"The file declares entities that are not read ({getattr(error, 'name', 'external')}).",
            remedy="Save it as plain SVG: such entities can load files or grow without end.",
        ) from None
    except (ParseError, ValueError, LookupError) as error:
        raise IntakeFault(f"The file is not XML: {error}.", remedy="Save it again as SVG.") from None
    if root.tag not in (f"{SVG}svg", "svg"):
        raise IntakeFault(f"The file holds {kind_of(root)}, not svg.", remedy="Choose an SVG file.")
    _measured(root)
    return root


def _plain(data: bytes) -> bytes:
    """The file with its harmless entities, names for plain text, put in and their declarations taken out."""
    doctype = DOCTYPE.search(data[:LONGEST_HEAD])
    if doctype is None or not doctype[1] or not PLAIN_ENTITIES.fullmatch(doctype[1]):
        return data
    values = {name: value[1:-1] for name, value in ENTITY.findall(doctype[1])}
    rest = data[: doctype.start()] + data[doctype.end() :]
    grown = sum(rest.count(b"&" + name + b";") * len(value) for name, value in values.items())
    if len(rest) + grown > LARGEST:
        raise IntakeFault("The entities of the file make it too large.", remedy="Save it as plain SVG.")
    return re.sub(rb"&([A-Za-z_][\w.-]*);", lambda found: values.get(found[1], found[0]), rest)


def _measured(root: Element) -> None:
    count, level = 0, [root]
    for _ in range(DEEPEST):
        count += len(level)
        level = [child for element in level for child in element]
        if not level:
            break
    if level or count > MOST_ELEMENTS:
        raise IntakeFault(
            "The file has too many elements." if not level else "Its groups lie too deep in each other.",
            remedy=f"Simplify it to at most {MOST_ELEMENTS} elements, {DEEPEST} deep.",
        )


def kind_of(element: Element) -> str:
    """What an element is called, without its namespace."""
    return str(element.tag).rpartition("}")[2]


def called(element: Element) -> str:
    """How messages speak of an element: by its own name, or by its kind."""
    return element.get("id", "")[:60] or kind_of(element)


def href_of(element: Element) -> str:
    """What an element refers to; empty for nothing."""
    return (element.get("href") or element.get(HREF) or "").strip()


def is_foreign(tag: str) -> bool:
    """Of an editor's own namespace."""
    return tag.startswith("{") and not tag.startswith("{http://www.w3.org/2000/svg}")
