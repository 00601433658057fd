"""Debian's headless Chromium, driven through Playwright: the one without windows where that will do."""

import os
import shutil
from collections.abc import Iterator
from contextlib import contextmanager

from playwright.sync_api import Browser, Playwright, sync_playwright

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
def launched(playwright: Playwright, program: str = "chromium-headless-shell") -> Iterator[Browser]:
    """A running browser; raises RuntimeError with a hint when it is not installed."""
    executable = shutil.which(program)
    if executable is None:
        raise RuntimeError(f"Chromium is missing. On Debian: apt-get install {program}")
    browser = playwright.chromium.launch(executable_path=executable, args=ARGUMENTS)
    try:
        yield browser
    finally:
        browser.close()


@contextmanager
def chromium() -> Iterator[Browser]:
    """The same with a Playwright of its own."""
    with sync_playwright() as playwright, launched(playwright) as browser:
        yield browser
