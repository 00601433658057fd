"""What proxies say of a request: only believed of those that are named as ours."""

import ipaddress
from collections.abc import Callable
from typing import Any

from django.conf import settings
from django.http import HttpRequest, HttpResponse

_FORWARDED = "bexi.forwarded"
_STARTS = ("HTTP_X_FORWARDED", "HTTP_FORWARDED", "HTTP_VIA", "HTTP_X_REAL", "HTTP_X_ORIGINAL", "HTTP_X_CLIENT")
"""How the names of headers begin that proxies add (RFC 7239, RFC 9110 §7.6.3, the others common practice)."""
_NAMES = ("HTTP_CLIENT_IP", "HTTP_TRUE_CLIENT_IP", "HTTP_CF_CONNECTING_IP", "HTTP_X_CLUSTER_CLIENT_IP")


class TrustedProxies:
    """Middleware: notes that somebody forwarded a request, and takes out what those say who are no proxies of ours."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self._get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Pass the request on."""
        said = [name for name in request.META if name.startswith(_STARTS) or name in _NAMES]
        request.META[_FORWARDED] = bool(said)
        if not is_ours(request.META.get("REMOTE_ADDR", ""), settings.PROXIES):
            for name in said:
                del request.META[name]
            vars(request).pop("headers", None)  # made anew from what is left
        return self._get_response(request)


def was_forwarded(request: HttpRequest) -> bool:
    """Whether a request came by way of somebody else, ours or not."""
    return bool(request.META.get(_FORWARDED, True))


def is_ours(address: str, proxies: Any) -> bool:
    """Whether an address is that of a proxy of ours."""
    try:
        peer = ipaddress.ip_address(address)
    except ValueError:
        return False
    return any(peer in network for network in proxies)
