"""Who may ask, and what a page may do."""

from __future__ import annotations

import secrets

from flask import Flask, Response, abort, current_app, g, request

from keen_ripple.web.access import Access

READING = {"GET", "HEAD", "OPTIONS"}


def install(app: Flask) -> None:
    app.before_request(_refuse_strangers)
    app.after_request(_headers)


def nonce() -> str:
    """The nonce of this answer, for the style sheets that the page adds to itself."""
    if "nonce" not in g:
        g.nonce = secrets.token_urlsafe(16)
    value: str = g.nonce
    return value


def _refuse_strangers() -> None:
    """A name that resolves to this machine, or a page of another origin, must not reach the pieces."""
    access: Access = current_app.config["ACCESS"]
    if not access.is_served(request.host):
        abort(403, "This host is not served here. Open the address that the program printed.")
    origin = request.headers.get("Origin")
    if origin is not None and not access.is_own(origin, request.host):
        abort(403, "This origin may not use the application.")
    # Browsers say where a request comes from even where they send no origin; other programs say nothing.
    if request.method not in READING and request.headers.get("Sec-Fetch-Site", "none") not in ("same-origin", "none"):
        abort(403, "Only the application's own page may change anything.")


NOBODYS = (
    "sandbox allow-scripts; default-src 'none'; script-src 'unsafe-inline'; style-src 'unsafe-inline'; "
    "img-src data:; font-src data:; media-src data:; worker-src blob:; base-uri 'none'; form-action 'none'; "
    "frame-ancestors "
)


def of_others(response: Response) -> Response:
    """For files that are handed over: in a frame of the application they play, as nobody's, and reach nothing."""
    response.headers["Content-Security-Policy"] = f"{NOBODYS}'self'"
    return response


def framed_anywhere(response: Response) -> Response:
    """For what is shown by a link: the same in a frame of any page."""
    response.headers["Content-Security-Policy"] = f"{NOBODYS}*"
    response.headers["Cross-Origin-Resource-Policy"] = "cross-origin"
    return response


def _headers(response: Response) -> Response:
    own = (
        "default-src 'none'; script-src 'self'; connect-src 'self'; font-src 'self'; img-src 'self' data:; "
        # What reads films that can be seen through makes its worker of a text of its own.
        f"media-src 'self' data:; worker-src blob:; frame-src 'self'; style-src 'self' 'nonce-{nonce()}'; "
        "base-uri 'none'; form-action 'none'; frame-ancestors 'none'"
    )
    response.headers.setdefault("Content-Security-Policy", own)
    response.headers["X-Content-Type-Options"] = "nosniff"
    response.headers.setdefault("Referrer-Policy", "no-referrer")
    response.headers["Cross-Origin-Opener-Policy"] = "same-origin"
    response.headers.setdefault("Cross-Origin-Resource-Policy", "same-origin")
    response.headers.setdefault("Cache-Control", "no-store")
    return response
