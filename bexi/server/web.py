"""The web server: `python -m bexi.server.web --host H --port N`.

Waitress reads each request whole before a thread gets it, so that whoever sends slowly keeps no thread. Beside that
there are limits: of time for a request to come, and of connections from one address. Several of these processes may
listen on one port.
"""

import argparse
import logging
import os
import signal
import socket
import sys
import time
from typing import Any

from waitress.channel import HTTPChannel
from waitress.parser import HTTPRequestParser
from waitress.server import TcpWSGIServer

from bexi.server.keeper import end_with_keeper
from bexi.server.proxies import is_ours
from bexi.server.uploads import limit_of

_THREADS = 12
_MOST_CONNECTIONS = 1000
MOST_FROM_ONE_ADDRESS = 200
"""Connections; a browser opens six, and many may come from behind one address."""
_FIRST_SECONDS = 30.0
_LEAST_BYTES_A_SECOND = 16 * 1024
_IDLE_SECONDS = 60
_LARGEST_HEADER = 32 * 1024
_KEPT_FOR_SLOW_READERS = 512 * 1024**2
"""Bytes of an answer that are put aside, so that who reads slowly keeps no thread either."""


class _Parser(HTTPRequestParser):  # type: ignore[misc]  # the library tells no types
    """Hands a body that is too large on unread: Bexi answers it in its own words."""

    def parse_header(self, header_plus: bytes) -> None:
        super().parse_header(header_plus)
        if vars(self).get("content_length", 0) > limit_of(self.path):
            self.body_rcv, self.content_length = None, 0
            self.headers["CONNECTION"] = "close"


class _Channel(HTTPChannel):  # type: ignore[misc]
    """A connection that notes since when a request has been coming."""

    parser_class = _Parser

    def __init__(self, server: "_Server", sock: socket.socket, addr: Any, adj: Any, map: Any = None) -> None:
        super().__init__(server, sock, addr, adj, map)
        self.coming_since: float | None = self.creation_time
        if server.connections_from(addr[0]) > MOST_FROM_ONE_ADDRESS and not is_ours(addr[0], server.proxies):
            self.will_close = True

    def received(self, data: bytes) -> bool:
        taken = bool(super().received(data))
        if self.request is None:
            self.coming_since = None
        elif self.coming_since is None:
            self.coming_since = time.time()
        return taken

    def is_too_slow(self, now: float) -> bool:
        """Whether a request has been coming for too long for what came of it."""
        if self.coming_since is None or self.requests:
            return False
        came = self.request.body_bytes_received if self.request else 0
        return bool(now - self.coming_since > _FIRST_SECONDS + came / _LEAST_BYTES_A_SECOND)


class _Server(TcpWSGIServer):  # type: ignore[misc]
    """A server that shares its port with others of its kind."""

    channel_class = _Channel
    proxies: Any = ()

    def bind_server_socket(self) -> None:
        self.socket.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEPORT, 1)
        super().bind_server_socket()

    def connections_from(self, address: str) -> int:
        """How many there are."""
        return sum(channel.addr[0] == address for channel in self.active_channels.values())

    def maintenance(self, now: float) -> None:
        super().maintenance(now)
        for channel in self.active_channels.values():
            if channel.is_too_slow(now):
                channel.will_close = True


def make_server(application: Any, host: str, port: int, proxies: Any = ()) -> _Server:
    """A server that is not running yet; raises OSError when it cannot listen there."""
    server = _Server(
        application,
        listen=f"[{host}]:{port}" if ":" in host else f"{host}:{port}",
        threads=_THREADS,
        connection_limit=_MOST_CONNECTIONS,
        channel_timeout=_IDLE_SECONDS,
        cleanup_interval=1,
        max_request_header_size=_LARGEST_HEADER,
        outbuf_high_watermark=_KEPT_FOR_SLOW_READERS,
        channel_request_lookahead=1,  # so that it is seen when a browser hangs up
        asyncore_use_poll=True,
        clear_untrusted_proxy_headers=False,  # Bexi looks at them itself
        ident=None,
    )
    server.proxies = proxies
    return server


def main() -> None:
    """Serve until the signal to end."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--host", required=True)
    parser.add_argument("--port", type=int, required=True)
    chosen = parser.parse_args()
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "bexi.server.settings")
    from bexi.server.wsgi import application

    logging.getLogger("waitress.queue").setLevel(logging.ERROR)
    from django.conf import settings

    from bexi.server.artwork import aside
    from bexi.server.getting_warm import begin_to_get_warm

    aside.stay_small()
    begin_to_get_warm()
    signal.signal(signal.SIGTERM, lambda *_: sys.exit())  # which lets requests under way come to their end
    end_with_keeper()
    make_server(application, chosen.host, chosen.port, settings.PROXIES).run()


if __name__ == "__main__":
    main()
