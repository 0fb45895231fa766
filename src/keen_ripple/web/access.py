"""For whom the application is there: for this machine alone, or under another name for those who sign in."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from urllib.parse import urlsplit

from keen_ripple.core.errors import Fault

LOCAL = frozenset(("127.0.0.1", "localhost", "::1"))
SHORTEST_SECRET, LONGEST_SECRET = 20, 1000
HOW_TO_SIGN_IN = "Give --secret-file FILE, or --user-header NAME where a proxy says who somebody is."


@dataclass(frozen=True)
class Access:
    """`origin` is the address that people open, None for this machine alone; `secret` signs them in, or else the header
    in which a proxy says who they are."""

    origin: str | None = None
    secret: str | None = None
    user_header: str | None = None

    def is_served(self, host: str) -> bool:
        """Whether the application answers to this Host header."""
        return urlsplit(f"//{host}").hostname in LOCAL or (self.origin is not None and host == self._name)

    def is_own(self, origin: str, host: str) -> bool:
        """Whether a page of this origin is the application's own."""
        return origin == (self.origin if host == self._name else f"http://{host}")

    @property
    def _name(self) -> str:
        return urlsplit(self.origin or "").netloc


HERE = Access()


def access_of(origin: str | None, secret_file: Path | None, user_header: str | None) -> Access:
    """As it is asked for on the command line. Raises Fault where it would let in anybody, or nobody."""
    if origin is None:
        if secret_file or user_header:
            raise Fault(
                "There is nobody to sign in: this is for this machine alone.", remedy="Give --origin https://…."
            )
        return HERE
    if bool(secret_file) == bool(user_header):
        raise Fault(f"Under {origin} people have to sign in, in one way.", remedy=HOW_TO_SIGN_IN)
    secret = _secret_in(secret_file) if secret_file else None
    return Access(_checked(origin), secret, user_header)


def _checked(origin: str) -> str:
    """Scheme and name as browsers write them."""
    parts = urlsplit(origin)
    name = parts.hostname or ""
    if parts.scheme != "https" and not (parts.scheme == "http" and name in LOCAL):
        raise Fault(f"{origin} is no address that keeps a sign-in to itself.", remedy="Write https://NAME.")
    if not name or parts.path not in ("", "/") or parts.query or parts.fragment or parts.username is not None:
        raise Fault(f"{origin} is no origin.", remedy="Write https://NAME, without what follows it.")
    return f"{parts.scheme}://{parts.netloc.lower()}"


def _secret_in(file: Path) -> str:
    try:
        secret = file.read_text("utf-8").strip()
    except (OSError, UnicodeDecodeError) as error:
        raise Fault(f"{file} cannot be read: {error}.", remedy="Name a file with one line of text.") from None
    if not SHORTEST_SECRET <= len(secret) <= LONGEST_SECRET or "\n" in secret:
        remedy = 'Make one: python3 -c "import secrets; print(secrets.token_urlsafe(24))" > FILE'
        raise Fault(f"{file} holds no secret: one line of at least {SHORTEST_SECRET} characters.", remedy=remedy)
    return secret
