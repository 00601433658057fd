"""Whether whoever asked still waits for the answer: a browser hangs up when it has no more use for it."""

import socket

from django.http import HttpRequest


def has_hung_up(request: HttpRequest) -> bool:
    """Whether the connection was closed at the other end; False where the server does not show it."""
    connection = request.META.get("gunicorn.socket")
    if not isinstance(connection, socket.socket):
        return False
    try:
        return not connection.recv(1, socket.MSG_PEEK | socket.MSG_DONTWAIT)
    except BlockingIOError:
        return False
    except OSError:
        return True
