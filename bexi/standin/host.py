"""The whole stand-in host: one control server and one server for each site, all on the loopback address."""

import threading
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path

from bexi.standin.control import ControlHandler
from bexi.standin.requests_log import RequestLog
from bexi.standin.sites import SITES
from bexi.standin.web import SiteHandler

LOOPBACK = "127.0.0.1"


@contextmanager
def running(served: Path, control_port: int) -> Iterator[RequestLog]:
    """Serve the sites in the folder `served` while the block runs; yields the log. Raises OSError for a port in use."""
    log = RequestLog()
    handlers: dict[int, type[BaseHTTPRequestHandler]] = {
        control_port: type("Control", (ControlHandler,), {"served": served, "log": log, "control_port": control_port})
    }
    for site in SITES:
        attributes = {"site": site, "root": served / site.folder, "log": log}
        handlers[control_port + site.port_offset] = type("Site", (SiteHandler,), attributes)
    with ExitStack() as stack:
        for port, handler in handlers.items():
            server = stack.enter_context(ThreadingHTTPServer((LOOPBACK, port), handler))
            threading.Thread(target=server.serve_forever, daemon=True).start()
            stack.callback(server.shutdown)
        yield log
