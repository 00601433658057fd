"""The whole stand-in host: one control server and one server for each site, all on the loopback address."""

import threading
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path

from bexi.standin.account import server_keys
from bexi.standin.control import ControlHandler
from bexi.standin.ftp import ftp_running
from bexi.standin.mischief import Mischief
from bexi.standin.requests_log import RequestLog
from bexi.standin.sftp import sftp_running
from bexi.standin.sites import SITES
from bexi.standin.web import SiteHandler

LOOPBACK = "127.0.0.1"
FTP_OFFSET, SFTP_OFFSET = len(SITES) + 1, len(SITES) + 2
PORTS = SFTP_OFFSET + 1
"""How many ports it takes, from the control port on."""


@contextmanager
def running(served: Path, control_port: int, mischief: Mischief | None = None) -> Iterator[RequestLog]:
    """Serve the sites in the folder `served` while the block runs; yields the log. Raises OSError for a port in use."""
    log, mischief, keys = RequestLog(), mischief or Mischief(), server_keys(served.parent / "standin-keys")
    attributes = {"served": served, "log": log, "control_port": control_port, "mischief": mischief, "keys": keys}
    handlers: dict[int, type[BaseHTTPRequestHandler]] = {control_port: type("Control", (ControlHandler,), attributes)}
    for site in SITES:
        attributes = {"site": site, "root": served / site.folder, "log": log, "mischief": mischief}
        handlers[control_port + site.port_offset] = type("Site", (SiteHandler,), attributes)
    with ExitStack() as stack:
        for port, handler in handlers.items():
            server = stack.enter_context(ThreadingHTTPServer((LOOPBACK, port), handler))
            threading.Thread(target=server.serve_forever, daemon=True).start()
            stack.callback(server.shutdown)
        stack.enter_context(ftp_running(LOOPBACK, control_port + FTP_OFFSET, served, keys, mischief))
        stack.enter_context(sftp_running(LOOPBACK, control_port + SFTP_OFFSET, served, keys, mischief))
        yield log
