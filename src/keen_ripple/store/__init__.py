"""Pieces and their history in one SQLite file, through plain SQL."""

from keen_ripple.store.connect import atomic, connect
from keen_ripple.store.migrate import migrate

__all__ = ["atomic", "connect", "migrate"]
