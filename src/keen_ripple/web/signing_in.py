"""Signing in: with the one secret of a team, kept by a signed cookie, or as whom a proxy says that somebody is."""

from __future__ import annotations

import hashlib
import hmac
from datetime import timedelta
from html import escape
from urllib.parse import quote

from flask import Blueprint, Flask, Response, current_app, redirect, request, session
from flask.typing import ResponseReturnValue

from keen_ripple.web.access import Access
from keen_ripple.web.contract.answers import ErrorTold, Failure
from keen_ripple.web.security import nonce

blueprint = Blueprint("signing_in", __name__)
ADDRESS = "/sign-in"
LONGEST = timedelta(days=30)
# What anybody may ask for: what is shown by a link; and to sign in, with the page's own files.
BY_LINK = "/p/"
TO_SIGN_IN = (ADDRESS, "/assets/")


def install(app: Flask, access: Access) -> None:
    app.config["ACCESS"] = access
    if access.origin is None:
        return
    if access.secret is not None:
        # Another secret signs everybody out.
        app.secret_key = hashlib.sha256(f"keen-ripple sessions\n{access.secret}".encode()).digest()
        app.config.update(
            SESSION_COOKIE_NAME="keen-ripple",
            SESSION_COOKIE_HTTPONLY=True,
            SESSION_COOKIE_SAMESITE="Lax",
            SESSION_COOKIE_SECURE=access.origin.startswith("https:"),
            PERMANENT_SESSION_LIFETIME=LONGEST,
        )
        app.register_blueprint(blueprint)
    app.before_request(_ask_who)


def _ask_who() -> ResponseReturnValue | None:
    access: Access = current_app.config["ACCESS"]
    if request.path.startswith(BY_LINK):
        return None
    if access.user_header is not None:
        vouched = request.headers.get(access.user_header, "").strip()
        return None if vouched else _not_signed_in("The proxy did not say who you are.", "Sign in there.")
    if session.get("signed_in") or request.path.startswith(TO_SIGN_IN):
        return None
    if request.path.startswith("/api/"):
        return _not_signed_in("You are signed out.", "Sign in in another tab: what you did is sent then.")
    return redirect(f"{ADDRESS}?to={quote(request.path)}", 303)


def _not_signed_in(message: str, remedy: str) -> Response:
    return Failure(error=ErrorTold(kind="SignedOut", message=message, place="", value=None, remedy=remedy)).told(401)


@blueprint.get(ADDRESS)
def ask() -> Response:
    """The form, or for whoever is signed in the way out."""
    return _form(SIGNED_IN) if session.get("signed_in") else _form(SIGNED_OUT.format(fault="", to=escape(_to())))


@blueprint.post(ADDRESS)
def enter() -> ResponseReturnValue:
    """With the secret to where somebody was going."""
    access: Access = current_app.config["ACCESS"]
    given = request.form.get("secret", "").strip()
    if access.secret is None or not hmac.compare_digest(given.encode(), access.secret.encode()):
        fault = '<p role="alert">This is not the secret. Ask whoever runs Keen Ripple here.</p>'
        return _form(SIGNED_OUT.format(fault=fault, to=escape(_to())), 403)
    session.clear()
    session["signed_in"] = True
    session.permanent = True
    return redirect(_to(), 303)


@blueprint.post(f"{ADDRESS}/out")
def leave() -> ResponseReturnValue:
    """Signs out."""
    session.clear()
    return redirect(ADDRESS, 303)


def _to() -> str:
    """Where somebody was going: a place of this application."""
    to = request.values.get("to", "/")
    inside = to.startswith("/") and not to.startswith(("//", "/\\")) and to.isprintable()
    return to if inside and not to.startswith(ADDRESS) else "/"


def _form(content: str, status: int = 200) -> Response:
    page = PAGE.format(nonce=nonce(), content=content)
    response = Response(page, status=status, mimetype="text/html")
    own = (
        f"default-src 'none'; style-src 'nonce-{nonce()}'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'"
    )
    response.headers["Content-Security-Policy"] = own
    # Without it browsers do not say from which page a form comes.
    response.headers["Referrer-Policy"] = "same-origin"
    return response


SIGNED_OUT = """<h1>Sign in</h1>
{fault}<form method="post" action="/sign-in">
<input type="hidden" name="to" value="{to}">
<label>The secret of your team
<input type="password" name="secret" autocomplete="current-password" required autofocus></label>
<button>Sign in</button>
</form>"""
SIGNED_IN = """<h1>You are signed in</h1>
<p><a href="/">To the shelf</a></p>
<form method="post" action="/sign-in/out"><button>Sign out</button></form>"""
PAGE = """<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>Keen Ripple</title>
<style nonce="{nonce}">
body {{ margin: 0; background: #f4f1e8; color: #15293b; font: 15px/1.5 system-ui, sans-serif; }}
main {{ width: 320px; max-width: 90%; margin: 18vh auto 0; }}
h1 {{ margin: 0 0 16px; font-size: 26px; }}
label {{ display: block; }}
input {{ box-sizing: border-box; width: 100%; margin: 6px 0 14px; padding: 8px 10px; border: 1px solid #7a8791;
  background: #fbfaf5; color: inherit; font: inherit; }}
button {{ padding: 8px 18px; border: 0; background: #15293b; color: #fbfaf5; font: 600 15px system-ui, sans-serif; }}
:focus-visible {{ outline: 2px solid #1f7a70; outline-offset: 2px; }}
[role="alert"] {{ color: #a8321f; }}
a {{ color: #17655d; }}
</style>
<main>{content}</main>
</html>
"""
