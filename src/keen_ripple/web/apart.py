"""Long data: URLs of an answer, told once and only to whoever does not have them: a film stands in every pose."""

from __future__ import annotations

import json
from collections.abc import Iterator

from flask import Flask, Response, request

from keen_ripple.store import parts

HEADER = "X-Parts"
"""Of a request: the digests of what is known already, apart by commas. Of an answer: that it is {parts, answer}, with a
mark of the digest, as `store.parts` writes it, wherever such a URL stands."""


def install(app: Flask) -> None:
    app.after_request(_apart)


def _apart(response: Response) -> Response:
    asked = request.headers.get(HEADER)
    if asked is None or response.mimetype != "application/json":
        return response
    data = response.get_data()
    if parts.BEGINS.encode() not in data:
        return response
    text, found = _told_once(data.decode())
    if found:
        known = set(asked.split(","))
        fresh = {digest: url for digest, url in found.items() if digest not in known}
        response.set_data(f'{{"parts":{json.dumps(fresh)},"answer":{text}}}')
        response.headers[HEADER] = "apart"
    return response


def _told_once(text: str) -> tuple[str, dict[str, str]]:
    """JSON text with marks in place of its long data: URLs, and these by their digests."""
    kept: list[str] = []
    found: dict[str, str] = {}
    done = 0
    for start, end in _urls(text):
        url = text[start + 1 : end - 1]
        digest = parts.digest_of(url)
        found[digest] = url
        kept += (text[done:start], parts.MARK.format(digest))
        done = end
    return "".join((*kept, text[done:])), found


def _urls(text: str) -> Iterator[tuple[int, int]]:
    """Where long data: URLs stand, quotes included; there is nothing in them that JSON would escape."""
    start = text.find(parts.BEGINS)
    while start >= 0:
        end = text.find('"', start + 1) + 1
        if end - start - 2 > parts.LONG:
            yield start, end
        start = text.find(parts.BEGINS, max(end - 1, start + 1))
