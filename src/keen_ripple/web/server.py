"""The server: waitress, with time limits for slow senders and room left for others."""

from __future__ import annotations

import time
from typing import Any

from waitress.channel import HTTPChannel
from waitress.server import TcpWSGIServer

# A request has to be there this long after its first byte, and its first byte after the connection was made.
SLOWEST_S = 10.0
# Of one address so many connections are kept; the one that has been idle longest makes room for a new one.
MOST_PER_ADDRESS = 48
MOST_CONNECTIONS = 500
# More than there may be pictures waited for, so that an edit always finds one.
THREADS = 56
IDLE_S = 60
LOOK_EVERY_S = 1


class TimedChannel(HTTPChannel):  # type: ignore[misc]
    """A connection that knows since when it waits for the rest of a request."""

    receiving_since: float | None = None

    def received(self, data: bytes) -> Any:
        if self.receiving_since is None:
            self.receiving_since = time.time()
        answer = super().received(data)
        if self.request is None:
            self.receiving_since = None
        return answer

    def is_slow(self, now: float) -> bool:
        """Whether somebody has begun to send and does not come to an end, or has not even begun."""
        if self.requests:
            return False
        never_used = self.last_activity == self.creation_time
        since = self.receiving_since if self.receiving_since is not None else self.creation_time if never_used else now
        return bool(now - since > SLOWEST_S)


class Server(TcpWSGIServer):  # type: ignore[misc]
    channel_class = TimedChannel

    def __init__(self, application: Any, port: int) -> None:
        super().__init__(
            application,
            host="127.0.0.1",
            port=port,
            threads=THREADS,
            ident=None,
            connection_limit=MOST_CONNECTIONS,
            asyncore_use_poll=True,
            # Reads on while it answers, and so sees that somebody has gone.
            channel_request_lookahead=1,
            channel_timeout=IDLE_S,
            cleanup_interval=LOOK_EVERY_S,
        )

    def maintenance(self, now: float) -> None:
        super().maintenance(now)
        for channel in self.active_channels.values():
            if channel.is_slow(now):
                channel.will_close = True

    def fix_addr(self, addr: Any) -> Any:
        """Told of each new connection before it is taken: makes room for it among those of its address."""
        own = [channel for channel in self.active_channels.values() if channel.addr[0] == addr[0]]
        idle = [channel for channel in own if not channel.requests and not channel.will_close]
        if len(own) >= MOST_PER_ADDRESS and idle:
            min(idle, key=lambda channel: channel.last_activity).will_close = True
        return addr
