"""Errors of the API as problem details (RFC 9457): a code for programs, a sentence for people."""

import json
import logging
from collections.abc import Callable

from django.conf import settings
from django.core.exceptions import RequestDataTooBig, SuspiciousOperation
from django.http import Http404, HttpRequest, HttpResponse
from django.http.multipartparser import MultiPartParserError
from ninja import NinjaAPI, Schema
from ninja.errors import ValidationError

from bexi.core.errors import BuildFailed, ChangedSince, HostRefused, InstallRefused, Refusal
from bexi.hosts.place import UnknownServer
from bexi.server import own_disk

logger = logging.getLogger(__name__)

MEDIA_TYPE = "application/problem+json"


class Problem(Schema):
    """The body of every error.

    `fingerprint` is that of a server nobody has agreed to yet, `path` that of a file somebody changed since.
    """

    type: str
    title: str
    status: int
    code: str
    detail: str
    fingerprint: str | None = None
    path: str | None = None


class Conflict(Refusal):
    """A change that was overtaken by another one."""


class SignInNeeded(Refusal):
    """Nobody is let in without an account, and this is none."""


class Busy(Refusal):
    """What is asked for is asked for by too many, or too often; later it may be done."""


class NotAllowed(Refusal):
    """Somebody's role does not let them do this."""


_STATUS: dict[type[Refusal], int] = {
    Conflict: 409,
    SignInNeeded: 401,
    NotAllowed: 403,
    Busy: 429,
    InstallRefused: 409,
    BuildFailed: 500,
    HostRefused: 409,
}


def problem(
    status: int, code: str, detail: str, fingerprint: str | None = None, path: str | None = None
) -> HttpResponse:
    """A response with problem details."""
    body = Problem(
        type=f"urn:bexi:problem:{code}",
        title=code.replace("-", " ").capitalize(),
        status=status,
        code=code,
        detail=detail,
        fingerprint=fingerprint,
        path=path,
    )
    return HttpResponse(json.dumps(body.dict(), ensure_ascii=False), content_type=MEDIA_TYPE, status=status)


def _status_of(refusal: Refusal) -> int:
    return next((status for kind, status in _STATUS.items() if isinstance(refusal, kind)), 422)


def answer_problems(api: NinjaAPI) -> None:
    """Have an API answer every error with problem details."""

    @api.exception_handler(Refusal)
    def refused(request: HttpRequest, refusal: Refusal) -> HttpResponse:
        fingerprint = refusal.fingerprint if isinstance(refusal, UnknownServer) else None
        path = refusal.path if isinstance(refusal, ChangedSince) else None
        return problem(_status_of(refusal), refusal.code, refusal.sentence, fingerprint, path)

    @api.exception_handler(ValidationError)
    def invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
        first = error.errors[0]
        where = ".".join(str(part) for part in first["loc"][1:])
        return problem(422, "invalid-request", f"The request is not valid: {where}: {first['msg']}.")

    @api.exception_handler(OverflowError)
    def beyond(request: HttpRequest, error: OverflowError) -> HttpResponse:
        return problem(404, "not-found", "There is nothing with that number. Go back to the sites.")

    @api.exception_handler(RequestDataTooBig)
    def too_big(request: HttpRequest, error: RequestDataTooBig) -> HttpResponse:
        limit = settings.DATA_UPLOAD_MAX_MEMORY_SIZE // 1024
        return problem(
            413, "request-too-large", f"This request is larger than the limit of {limit} kB. Send less at once."
        )

    @api.exception_handler(SuspiciousOperation)
    @api.exception_handler(MultiPartParserError)
    def malformed(request: HttpRequest, error: Exception) -> HttpResponse:
        return problem(400, *_ELSEWHERE[400])

    @api.exception_handler(Exception)
    def unexpected(request: HttpRequest, error: Exception) -> HttpResponse:
        if own_disk.is_to_blame(error):
            logger.error("No room on the own disk at %s %s: %s", request.method, request.path, error)
            sentence = own_disk.told(error)
            status, code = (503, "database-busy") if own_disk.is_busy(error) else (507, "own-disk-full")
            return problem(status, code, sentence[0].upper() + sentence[1:])
        logger.exception("Unexpected error at %s %s", request.method, request.path)
        return problem(500, "unexpected", "Something went wrong in Bexi; see its log. Nothing was lost: try again.")

    @api.exception_handler(Http404)
    def missing(request: HttpRequest, error: Http404) -> HttpResponse:
        return problem(404, "not-found", "There is nothing here. It may have been removed; go back to the sites.")


class AnswerProblems:
    """Middleware: whatever goes wrong below /api/ outside the API itself is answered with problem details, too."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self._get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Pass the answer on, or put it in our words."""
        response = self._get_response(request)
        is_problem = response.headers.get("Content-Type", "").startswith(MEDIA_TYPE)
        if not request.path.startswith("/api/") or response.status_code < 400 or is_problem:
            return response
        code, detail = _ELSEWHERE.get(response.status_code, ("refused", "Bexi cannot answer this request."))
        told = problem(response.status_code, code, detail)
        for name in ("Allow",):
            if name in response.headers:
                told.headers[name] = response.headers[name]
        return told


_ELSEWHERE = {
    400: ("bad-request", "This request is not one that Bexi understands."),
    403: ("page-outdated", "This page was opened too long ago. Reload it and try again."),
    404: ("not-found", "There is nothing here. It may have been removed; go back to the sites."),
    405: ("wrong-method", "This kind of request is not possible here."),
    500: ("unexpected", "Something went wrong in Bexi; see its log. Nothing was lost: try again."),
}
