"""The connections of one piece of work to a host: each can be cut at any moment, also while something waits on it."""

import errno
import os
import select
import socket
import ssl
import time
from collections.abc import Sequence
from contextlib import suppress
from threading import Event, Lock, Thread
from typing import Any

from bexi.hosts import asking

TIMEOUT_SECONDS = 20
"""For an answer of any kind: to a connection, and to each command after it."""
_LOOKED_EVERY = 0.2


class Line:
    """Connections to a host, which `cut` ends together: whatever waits on one of them gets an error at once."""

    def __init__(self, find: asking.Resolve = asking.resolve) -> None:
        self._find = find
        self._sockets: list[socket.socket] = []
        self._cut = Event()
        self._lock = Lock()

    def to(self, host: str, port: int) -> socket.socket:
        """A connection to the first address of a host that answers; raises OSError, or HostRefused when none may be."""
        return asking.connected(host, port, lambda address: self.further(address, port), self._found)

    def further(self, address: str, port: int) -> socket.socket:
        """A connection to an address that was looked at already; raises OSError."""
        family = socket.AF_INET6 if ":" in address else socket.AF_INET
        connection = socket.socket(family, socket.SOCK_STREAM)
        try:
            self._connect(connection, address, port)
            self._kept(connection)
        except BaseException:
            connection.close()
            raise
        return connection

    def secured(self, context: ssl.SSLContext, plain: socket.socket, **options: Any) -> ssl.SSLSocket:
        """The same connection over TLS; `options` are those of wrapping a socket."""
        secured = context.wrap_socket(plain, do_handshake_on_connect=False, **options)
        self._kept(secured)
        secured.do_handshake()
        return secured

    def cut(self) -> None:
        """End every connection, and let none begin any more."""
        self._cut.set()
        with self._lock:
            for connection in self._sockets:
                with suppress(OSError):
                    # Not TLS's own way, which another thread may be in the middle of.
                    socket.socket.shutdown(connection, socket.SHUT_RDWR)

    def _kept(self, connection: socket.socket) -> None:
        with self._lock:
            self._sockets = [one for one in self._sockets if one.fileno() >= 0]
            self._sockets.append(connection)
        self._refuse_cut()

    def _connect(self, connection: socket.socket, address: str, port: int) -> None:
        connection.setblocking(False)
        code = connection.connect_ex((address, port))
        if code not in (0, errno.EINPROGRESS):
            raise OSError(code, os.strerror(code))
        end = time.monotonic() + TIMEOUT_SECONDS
        while not select.select([], [connection], [], _LOOKED_EVERY)[1]:
            self._refuse_cut()
            if time.monotonic() > end:
                raise TimeoutError
        if code := connection.getsockopt(socket.SOL_SOCKET, socket.SO_ERROR):
            raise OSError(code, os.strerror(code))
        connection.settimeout(TIMEOUT_SECONDS)

    def _found(self, host: str, port: int) -> Sequence[str]:
        """The addresses of a host, found beside this thread, since asking for them cannot be ended."""
        answers: list[Sequence[str] | OSError] = []
        done = Event()

        def find() -> None:
            try:
                answers.append(self._find(host, port))
            except (OSError, UnicodeError) as error:
                answers.append(
                    error if isinstance(error, OSError) else OSError(f"{host[:80]} is not the name of a host")
                )
            done.set()

        Thread(target=find, daemon=True).start()
        end = time.monotonic() + TIMEOUT_SECONDS
        while not done.wait(_LOOKED_EVERY):
            self._refuse_cut()
            if time.monotonic() > end:
                raise TimeoutError
        if isinstance(answers[0], OSError):
            raise answers[0]
        return answers[0]

    def _refuse_cut(self) -> None:
        if self._cut.is_set():
            raise ConnectionAbortedError
