"""Pieces and their history in one SQLite file, through plain SQL."""

from keen_ripple.store.connect import Connection, atomic, connect
from keen_ripple.store.faults import DatabaseError, StoreFault, fault_of, told
from keen_ripple.store.migrate import migrate

__all__ = ["Connection", "DatabaseError", "StoreFault", "atomic", "connect", "fault_of", "migrate", "told"]
