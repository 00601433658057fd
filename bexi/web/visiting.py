"""Asking a live site carefully: only http and https, bounded in bytes, time and redirects.

Only the host that a person named may be one of a private network; a redirect or a link never leads into one.
"""

import time
import typing
import zlib
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from functools import cache

import httpcore
import httpx

from bexi.core.errors import HostRefused
from bexi.core.livesite.served import Fetch, Served
from bexi.hosts.asking import Resolve, addresses_of, is_public, resolve
from bexi.hosts.guarded import reason_of

LARGEST_ANSWER = 4 * 1024 * 1024
TIMEOUT_SECONDS = 5
REDIRECTS = 5
_USUAL_PORTS = (80, 443)
_COMPRESSED = ("gzip", "x-gzip", "deflate")
_GZIP_OR_ZLIB = 47  # zlib finds out which


@dataclass(frozen=True)
class Deadline:
    """When all asking must be over, by the monotonic clock."""

    at: float

    @property
    def is_over(self) -> bool:
        """Whether no time is left."""
        return time.monotonic() >= self.at

    def left(self, timeout: float | None) -> float:
        """Seconds that one operation may take; raises ReadTimeout when none is left."""
        left = self.at - time.monotonic()
        if left <= 0:
            raise httpcore.ReadTimeout("no time is left")
        return left if timeout is None else min(timeout, left)


@contextmanager
def visiting(seconds: float, named: str, find: Resolve = resolve) -> Iterator[Fetch]:
    """What gets addresses while the block runs, all of them together within so many seconds.

    `named` is the address that a person gave.
    """
    deadline = Deadline(time.monotonic() + seconds)
    careful = transport(deadline, find, named)
    with httpx.Client(transport=careful, timeout=TIMEOUT_SECONDS, trust_env=False) as client:
        yield lambda url: fetch(client, url, deadline)


def transport(deadline: Deadline, find: Resolve, named: str) -> httpx.BaseTransport:
    """A transport that connects only where it may, and to nothing after the deadline."""
    network = _Network(deadline, find, named)
    return _Transport(httpcore.ConnectionPool(ssl_context=_certificates(), network_backend=network))


_certificates = cache(httpx.create_ssl_context)  # reading them takes longer than most answers


def fetch(client: httpx.Client, url: str, deadline: Deadline | None = None) -> Served:
    """What the site answers in the end, after at most REDIRECTS redirects."""
    moved: tuple[str, ...] = ()
    try:
        for _ in range(REDIRECTS + 1):
            if deadline:
                deadline.left(None)
            served, target = _get(client, url, moved, deadline)
            if served is not None:
                return served
            moved = (*moved, target)
        return Served(url, 0, error="It redirects in a circle.", moved=moved)
    except HostRefused as refusal:
        return Served(url, 0, error=refusal.sentence, moved=moved)
    except (httpcore.TimeoutException, httpx.TimeoutException):
        is_over = deadline is not None and deadline.is_over
        return Served(url, 0, error="No answer: it took too long.", moved=moved, late=is_over)
    except (httpx.InvalidURL, httpx.UnsupportedProtocol, httpcore.UnsupportedProtocol, ValueError):
        return Served(url[:300], 0, error="This is not an address that can be fetched.")
    except (httpx.HTTPError, httpcore.NetworkError, httpcore.ProtocolError, OSError) as error:
        return Served(url, 0, error=f"No answer: {_reason_of(error)}.", moved=moved)


def _reason_of(error: BaseException) -> str:
    """What went wrong in plain words: of what the system said, which the library has wrapped."""
    inner: BaseException | None = error
    while inner is not None:
        if isinstance(inner, OSError):
            return reason_of(inner)
        inner = inner.__cause__ or inner.__context__
    return "it closed the connection"


def _get(
    client: httpx.Client, url: str, moved: tuple[str, ...], deadline: Deadline | None
) -> tuple[Served | None, str]:
    target = moved[-1] if moved else url
    with client.stream("GET", target, headers={"Accept-Encoding": "identity"}) as response:
        if response.has_redirect_location:
            return None, str(response.next_request.url) if response.next_request else target
        body = b""
        for chunk in response.iter_raw():
            body += chunk
            if len(body) > LARGEST_ANSWER:
                return _too_large(url), target
            if deadline:
                deadline.left(None)
        plain = _unpacked(body, response.headers.get("content-encoding", "identity").strip().lower())
        if plain is None:
            return Served(url, 0, error="It answers in an encoding that was not asked for."), target
        if len(plain) > LARGEST_ANSWER:
            return _too_large(url), target
        headers = {name.lower(): value for name, value in response.headers.items()}
        return Served(url, response.status_code, headers, plain, moved=moved, at=time.time()), target


def _too_large(url: str) -> Served:
    return Served(url, 0, error="The answer is larger than 4 MB, so Bexi stopped reading.")


def _unpacked(body: bytes, encoding: str) -> bytes | None:
    """The answer itself, of one packed in spite of our asking never more than the limit; None when it is unreadable."""
    if encoding in ("identity", ""):
        return body
    try:
        return (
            zlib.decompressobj(_GZIP_OR_ZLIB).decompress(body, LARGEST_ANSWER + 1) if encoding in _COMPRESSED else None
        )
    except zlib.error:
        return None


class _Transport(httpx.BaseTransport):
    """httpx over a pool of ours."""

    def __init__(self, pool: httpcore.ConnectionPool) -> None:
        self._pool = pool

    def handle_request(self, request: httpx.Request) -> httpx.Response:
        url = request.url
        answer = self._pool.handle_request(
            httpcore.Request(
                request.method,
                httpcore.URL(scheme=url.raw_scheme, host=url.raw_host, port=url.port, target=url.raw_path),
                headers=request.headers.raw,
                content=request.stream,
                extensions=request.extensions,
            )
        )
        stream = _Body(typing.cast(typing.Iterable[bytes], answer.stream))
        return httpx.Response(answer.status, headers=answer.headers, stream=stream, extensions=answer.extensions)

    def close(self) -> None:
        self._pool.close()


class _Body(httpx.SyncByteStream):
    def __init__(self, stream: typing.Iterable[bytes]) -> None:
        self._stream = stream

    def __iter__(self) -> Iterator[bytes]:
        yield from self._stream

    def close(self) -> None:
        if hasattr(self._stream, "close"):
            self._stream.close()


class _Network(httpcore.NetworkBackend):
    """Connects to the very address that was looked at, and lets nothing outlast the deadline."""

    def __init__(self, deadline: Deadline, find: Resolve, named: str) -> None:
        self._plain = httpcore.SyncBackend()
        self._deadline = deadline
        self._find = find
        self._named = _read(named)

    def connect_tcp(
        self,
        host: str,
        port: int,
        timeout: float | None = None,
        local_address: str | None = None,
        socket_options: typing.Iterable[httpcore.SOCKET_OPTION] | None = None,
    ) -> httpcore.NetworkStream:
        failed: Exception = httpcore.ConnectError(f"{host} has no address")
        for address in addresses_of(host, port, self._find):
            if not is_public(address) and not self._is_named(host, port):
                raise HostRefused(
                    "address-not-asked",
                    f"It leads to {host[:80]}:{port} on a private network. Only the site's own address may be there.",
                )
            try:
                left = self._deadline.left(timeout)
                return _Stream(self._plain.connect_tcp(address, port, left, None, socket_options), self._deadline)
            except httpcore.ConnectError as error:
                failed = error
        raise failed

    def _is_named(self, host: str, port: int) -> bool:
        """Whether this is the host that the person named, by its own port or a usual one."""
        own = self._named.port or (443 if self._named.scheme == "https" else 80)
        ports = _USUAL_PORTS if own in _USUAL_PORTS else (own,)
        return host == self._named.raw_host.decode("ascii") and port in ports


def _read(address: str) -> httpx.URL:
    """An address, empty for what is none: whatever asks for it is told so."""
    try:
        return httpx.URL(address)
    except httpx.InvalidURL:
        return httpx.URL()


class _Stream(httpcore.NetworkStream):
    def __init__(self, plain: httpcore.NetworkStream, deadline: Deadline) -> None:
        self._plain = plain
        self._deadline = deadline

    def read(self, max_bytes: int, timeout: float | None = None) -> bytes:
        return self._plain.read(max_bytes, self._deadline.left(timeout))

    def write(self, buffer: bytes, timeout: float | None = None) -> None:
        self._plain.write(buffer, self._deadline.left(timeout))

    def close(self) -> None:
        self._plain.close()

    def start_tls(
        self, ssl_context: typing.Any, server_hostname: str | None = None, timeout: float | None = None
    ) -> httpcore.NetworkStream:
        secure = self._plain.start_tls(ssl_context, server_hostname, self._deadline.left(timeout))
        return _Stream(secure, self._deadline)

    def get_extra_info(self, info: str) -> typing.Any:
        return self._plain.get_extra_info(info)
