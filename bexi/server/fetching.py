"""Fetching from a site, carefully: only http and https, bounded in bytes, time and redirects."""

from urllib.parse import urlsplit

import httpx

from bexi.core.livesite.pages import Served

LARGEST_ANSWER = 4 * 1024 * 1024
TIMEOUT_SECONDS = 5
REDIRECTS = 3


def fetch(client: httpx.Client, url: str) -> Served:
    """What the site answers. Redirects are followed on the same host only."""
    host = urlsplit(url).netloc
    target = url
    try:
        for _ in range(REDIRECTS + 1):
            served, target = _get(client, url, target)
            if served is not None:
                return served
            if urlsplit(target).netloc != host:
                return Served(url, 0, error=f"It sends visitors on to another host, {urlsplit(target).netloc}.")
        return Served(url, 0, error="It sends visitors on in a circle.")
    except httpx.HTTPError as error:
        return Served(url, 0, error=f"No answer: {type(error).__name__}.")


def _get(client: httpx.Client, url: str, target: str) -> tuple[Served | None, str]:
    with client.stream("GET", target) as response:
        if response.is_redirect:
            return None, str(response.next_request.url) if response.next_request else target
        body = b""
        for chunk in response.iter_bytes():
            body += chunk
            if len(body) > LARGEST_ANSWER:
                return Served(url, 0, error="The answer is larger than 4 MB; it was not read on."), target
        return Served(url, response.status_code, response.headers.get("content-type", ""), body), target
