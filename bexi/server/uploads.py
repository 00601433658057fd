"""Refusing request bodies that are too large before they are read."""

from collections.abc import Callable

from django.conf import settings
from django.http import HttpRequest, HttpResponse

from bexi.server.problems import problem


class RefuseLargeBodies:
    """Middleware: answers 413 when the declared length of a body is beyond the limit."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self._get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Pass the request on, or refuse it."""
        declared = request.META.get("CONTENT_LENGTH") or "0"
        if declared.isdecimal() and int(declared[:20]) > settings.BODY_LIMIT:
            megabytes = settings.BODY_LIMIT // 1024 // 1024
            return problem(
                413, "file-too-large", f"This file is larger than the limit of {megabytes} MB. Choose a smaller copy."
            )
        return self._get_response(request)


class KnownHostsOnly:
    """Middleware: refuses names that are not Bexi's own before any file is given out, static ones included."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self._get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Pass the request on; raises DisallowedHost, which Django answers with 400."""
        request.get_host()
        return self._get_response(request)
