"""What a site answers, and where references on its pages lead."""

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from urllib.parse import urldefrag, urljoin, urlsplit

XHTML = "application/xhtml+xml"
# The beginning of WHATWG MIME Sniffing, "identifying a resource with an unknown MIME type".
_LOOKS_LIKE_HTML = re.compile(rb"\s*<(?:!doctype html|html|head|title|body|link|meta|!--|p|div|h1)[\s>]", re.IGNORECASE)
LONGEST_REFERENCE = 8000
"""In characters; browsers and servers take no longer addresses [common practice]."""


@dataclass(frozen=True)
class Served:
    """What a site answered to the address `url`.

    `error` is a sentence when it did not answer at all; `status` is 0 then. `headers` have names in lower case, `moved`
    are the addresses it sent the visitor on to, `at` is when it answered, in seconds since 1970. `known` is False for
    an earlier answer whose bytes nobody kept, `late` is True when the time for all asking was over.
    """

    url: str
    status: int
    headers: Mapping[str, str] = field(default_factory=dict)
    body: bytes = b""
    error: str = ""
    moved: tuple[str, ...] = ()
    at: float = 0.0
    known: bool = True
    late: bool = False

    @property
    def address(self) -> str:
        """The address it really has, after all redirects."""
        return self.moved[-1] if self.moved else self.url

    @property
    def content_type(self) -> str:
        """What the server says it is, empty for nothing."""
        return self.headers.get("content-type", "")

    @property
    def media_type(self) -> str:
        """The same without parameters, in lower case (RFC 9110 §8.3)."""
        return self.content_type.partition(";")[0].strip().lower()

    @property
    def is_page(self) -> bool:
        """Whether it is an HTML page that can be shown; one without a type is told by how it begins."""
        says_so = self.media_type in ("text/html", XHTML) or (not self.media_type and _LOOKS_LIKE_HTML.match(self.body))
        return self.status == 200 and bool(says_so)

    @property
    def told(self) -> str:
        """Why it is of no use, in a few words."""
        return self.error or f"status {self.status}"


Fetch = Callable[[str], Served]
"""Gets an absolute address and tells what was answered."""


def joined(page: str, reference: str) -> str:
    """Where a reference on a page leads, without its fragment; empty when that is no address to be fetched."""
    if len(reference) > LONGEST_REFERENCE:
        return ""
    try:
        url = urldefrag(urljoin(page, reference.strip())).url
        parts = urlsplit(url)
        is_plain = parts.scheme in ("http", "https") and bool(parts.hostname) and (parts.port or 1) > 0
        is_plain = is_plain and " " not in parts.netloc
    except ValueError:  # a malformed one leads nowhere
        return ""
    return url if is_plain and url.isprintable() else ""


def same_host(one: str, other: str) -> bool:
    """Whether two addresses are of one host and port."""
    try:
        return urlsplit(one).netloc.lower() == urlsplit(other).netloc.lower()
    except ValueError:
        return False


def path_of(address: str) -> str:
    """The path of an address as people read it: from the top of its host, with its query."""
    parts = urlsplit(address)
    return (parts.path or "/") + (f"?{parts.query}" if parts.query else "")
