"""Answering with a kept icon as a browser shows it."""

from django.http import Http404, HttpResponse

from bexi.core.errors import ArtworkRefused
from bexi.sandbox.icons import frame_apart
from bexi.server import blobs


def picture_response(sha256: str, px: int) -> HttpResponse:
    """A PNG of the picture in a kept file that fits `px` best; its name says its content, so it can be kept for ever.

    Raises Http404 for what is no picture.
    """
    try:
        response = HttpResponse(frame_apart(blobs.get(sha256), px), content_type="image/png")
    except (ArtworkRefused, FileNotFoundError) as error:
        raise Http404 from error
    response["Cache-Control"] = "private, max-age=31536000, immutable"
    return response
