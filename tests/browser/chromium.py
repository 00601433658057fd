"""Debian's headless Chromium, driven through Playwright."""

import os
import shutil
from collections.abc import Iterator
from contextlib import contextmanager

from playwright.sync_api import Browser, sync_playwright

# Playwright's synchronous driver runs an event loop in this thread, which Django would take for async code.
os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "1")

ARGUMENTS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


@contextmanager
def chromium() -> Iterator[Browser]:
    """A running browser; raises RuntimeError with a hint when it is not installed."""
    executable = shutil.which("chromium")
    if executable is None:
        raise RuntimeError("Chromium is missing. On Debian: apt-get install chromium")
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=executable, args=ARGUMENTS)
        try:
            yield browser
        finally:
            browser.close()
