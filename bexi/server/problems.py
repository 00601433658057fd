"""Errors of the API as problem details (RFC 9457): a code for programs, a sentence for people."""

import json
import logging

from django.http import Http404, HttpRequest, HttpResponse
from ninja import NinjaAPI, Schema
from ninja.errors import ValidationError

from bexi.core.errors import BuildFailed, HostRefused, InstallRefused, Refusal
from bexi.hosts.place import UnknownServer
from bexi.server import own_disk

logger = logging.getLogger(__name__)

MEDIA_TYPE = "application/problem+json"


class Problem(Schema):
    """The body of every error. `fingerprint` is that of a server nobody has agreed to yet."""

    type: str
    title: str
    status: int
    code: str
    detail: str
    fingerprint: str | None = None


class Conflict(Refusal):
    """A change that was overtaken by another one."""


_STATUS: dict[type[Refusal], int] = {
    Conflict: 409,
    InstallRefused: 409,
    BuildFailed: 500,
    HostRefused: 409,
    UnknownServer: 409,
}


def problem(status: int, code: str, detail: str, fingerprint: str | None = None) -> HttpResponse:
    """A response with problem details."""
    body = Problem(
        type=f"urn:bexi:problem:{code}",
        title=code.replace("-", " ").capitalize(),
        status=status,
        code=code,
        detail=detail,
        fingerprint=fingerprint,
    )
    return HttpResponse(json.dumps(body.dict(), ensure_ascii=False), content_type=MEDIA_TYPE, status=status)


def answer_problems(api: NinjaAPI) -> None:
    """Have an API answer every error with problem details."""

    @api.exception_handler(Refusal)
    def refused(request: HttpRequest, refusal: Refusal) -> HttpResponse:
        fingerprint = refusal.fingerprint if isinstance(refusal, UnknownServer) else None
        return problem(_STATUS.get(type(refusal), 422), refusal.code, refusal.sentence, fingerprint)

    @api.exception_handler(ValidationError)
    def invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
        first = error.errors[0]
        where = ".".join(str(part) for part in first["loc"][1:])
        return problem(422, "invalid-request", f"The request is not valid: {where}: {first['msg']}.")

    @api.exception_handler(Exception)
    def unexpected(request: HttpRequest, error: Exception) -> HttpResponse:
        if own_disk.is_to_blame(error):
            logger.error("No room on the own disk at %s %s: %s", request.method, request.path, error)
            sentence = own_disk.told(error)
            return problem(507, "own-disk-full", sentence[0].upper() + sentence[1:])
        logger.exception("Unexpected error at %s %s", request.method, request.path)
        return problem(
            500, "unexpected", "Something went wrong inside Bexi; its log says more. Nothing was lost: try again."
        )

    @api.exception_handler(Http404)
    def missing(request: HttpRequest, error: Http404) -> HttpResponse:
        return problem(404, "not-found", "There is nothing here. It may have been removed; go back to the sites.")
