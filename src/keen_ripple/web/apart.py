"""Long data: URLs of an answer, told once and only to whoever does not have them: a film stands in every pose."""

from __future__ import annotations

import json

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
    text, found = parts.apart(data.decode())
    if found:
        known = set(asked.split(","))
        fresh = {digest: url for digest, url in found.items() if digest not in known}
        response.set_data(f'{{"parts":{json.dumps(fresh)},"answer":{text}}}')
        response.headers[HEADER] = "apart"
    return response
