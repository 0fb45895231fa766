"""The application over HTTP: a JSON API and the page."""

from keen_ripple.web.app import create_app

__all__ = ["create_app"]
