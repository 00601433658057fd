"""Whether whoever asked still waits for the answer: a browser hangs up when it has no more use for it."""

from collections.abc import Callable

from django.http import HttpRequest


def has_hung_up(request: HttpRequest) -> bool:
    """Whether the connection was closed at the other end; False where the server does not show it."""
    is_closed: Callable[[], bool] | None = request.META.get("waitress.client_disconnected")
    return is_closed is not None and is_closed()
