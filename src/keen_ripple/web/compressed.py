"""Answers made smaller on their way: looks and names repeat themselves."""

from __future__ import annotations

import gzip

from flask import Flask, Response, request

# Smaller ones fit into a packet or two as they are.
WORTH_IT = 4000
LEVEL = 4


def install(app: Flask) -> None:
    app.after_request(_compressed)


def _compressed(response: Response) -> Response:
    """JSON that is read, for whoever takes gzip; an edit is answered as soon as it can be."""
    if request.method != "GET" or response.mimetype != "application/json" or response.status_code != 200:
        return response
    response.vary.add("Accept-Encoding")
    if request.accept_encodings.quality("gzip") > 0 and len(response.get_data()) >= WORTH_IT:
        response.set_data(gzip.compress(response.get_data(), LEVEL, mtime=0))
        response.headers["Content-Encoding"] = "gzip"
    return response
