"""The page that carries the front end."""

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import ensure_csrf_cookie

_NONCE_PLACEHOLDER = "BEXI_CSP_NONCE"  # put there by the front end's build


@never_cache
@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    """The built index page, with this response's nonce for style elements."""
    index = _index()
    if index is None:
        return HttpResponse(
            "The front end is not built yet: run make setup.", status=503, content_type="text/plain; charset=utf-8"
        )
    nonce = str(request.csp_nonce)  # type: ignore[attr-defined]  # set by the CSP middleware
    return HttpResponse(index.replace(_NONCE_PLACEHOLDER, nonce))


def _index() -> str | None:
    file = settings.FRONTEND_BUILD / "index.html"
    return file.read_text() if file.exists() else None
