"""Refusing request bodies that are too large before they are read."""

from collections.abc import Callable

from django.conf import settings
from django.http import HttpRequest, HttpResponse

from bexi.server.problems import problem

_SITE_ARCHIVES = "/site-zip"
"""Where a whole site is sent to, which is larger than a picture."""


def limit_of(path: str) -> int:
    """How many bytes a body may have that is sent there."""
    return int(settings.SITE_ARCHIVE_LIMIT if path.endswith(_SITE_ARCHIVES) else settings.BODY_LIMIT)


class RefuseLargeBodies:
    """Middleware: answers 413 when the declared length of a body is beyond the limit."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self._get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Pass the request on, or refuse it."""
        declared = request.META.get("CONTENT_LENGTH") or "0"
        limit = limit_of(request.path)
        instead = "Pack the site's pages alone." if limit > settings.BODY_LIMIT else "Choose a smaller copy."
        if declared.isdecimal() and int(declared[:20]) > limit:
            megabytes = limit // 1024 // 1024
            return problem(413, "file-too-large", f"This file is larger than the limit of {megabytes} MB. {instead}")
        return self._get_response(request)


class KnownHostsOnly:
    """Middleware: refuses names that are not Bexi's own before any file is given out, static ones included."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self._get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Pass the request on; raises DisallowedHost, which Django answers with 400."""
        request.get_host()
        return self._get_response(request)
