"""What visitors asked for, kept in memory."""

import threading
from collections import deque
from dataclasses import asdict, dataclass

KEPT = 500


@dataclass(frozen=True)
class Request:
    """One answered request. `status` is the HTTP status sent, `sent` the number of body bytes."""

    time: str
    site: str
    path: str
    status: int
    content_type: str
    sent: int


class RequestLog:
    """The last requests, oldest first; safe to use from several threads."""

    def __init__(self) -> None:
        self._requests: deque[Request] = deque(maxlen=KEPT)
        self._lock = threading.Lock()

    def add(self, request: Request) -> None:
        """Remember a request."""
        with self._lock:
            self._requests.append(request)

    def clear(self) -> None:
        """Forget all."""
        with self._lock:
            self._requests.clear()

    def as_json(self) -> list[dict[str, object]]:
        """All remembered requests as plain data."""
        with self._lock:
            return [asdict(request) for request in self._requests]
