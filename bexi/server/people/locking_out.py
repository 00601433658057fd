"""What who tried too many passwords is told, and from where somebody signs in."""

from django.conf import settings
from django.http import HttpRequest, HttpResponse

from bexi.server.problems import problem


def locked_out(request: HttpRequest, *args: object, **kwargs: object) -> HttpResponse:
    """The answer while an account is shut to an address."""
    minutes = int(settings.AXES_COOLOFF_TIME.total_seconds() // 60)
    return problem(429, "too-many-tries", f"Too many wrong passwords. Wait {minutes} minutes, then try again.")


def address_of(request: HttpRequest) -> str:
    """The address somebody asks from: behind our proxy the last one it names, which it adds itself."""
    forwarded = request.headers.get("X-Forwarded-For", "") if settings.BEHIND_PROXY else ""
    return forwarded.rsplit(",", 1)[-1].strip() or request.META.get("REMOTE_ADDR", "")
