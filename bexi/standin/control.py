"""The stand-in host's own page: its sites, what visitors asked for, and the button that resets them."""

import html
import json
from http import HTTPStatus
from http.server import BaseHTTPRequestHandler
from pathlib import Path
from urllib.parse import parse_qs

from bexi.standin.account import PASSWORD, USER, ServerKeys
from bexi.standin.mischief import Mischief
from bexi.standin.requests_log import RequestLog
from bexi.standin.sites import SITES, reset

_PAGE = """<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>Stand-in host</title>
<meta name="viewport" content="width=device-width">
<style>
body {{ font: 15px/1.5 sans-serif; color: #1b2420; background: #f4f6f1 }}
body {{ max-width: 860px; margin: 32px auto; padding: 0 16px }}
table {{ border-collapse: collapse; width: 100%; background: #fff }}
th, td {{ text-align: left; padding: 4px 10px; border: 1px solid #d5dbd3 }}
button {{ font: inherit; padding: 6px 14px; border: 0; background: #16302a; color: #fff; border-radius: 6px }}
.fingerprints code {{ overflow-wrap: anywhere }}
.switches {{ display: flex; flex-wrap: wrap; gap: 6px }}
:focus-visible {{ outline: 3px solid #e2572b }}
</style></head><body>
<h1>Stand-in host</h1>
<p>A simulated web host that came with the demo. It serves invented sites from folders on this machine.</p>
<ul>{sites}</ul>
<form method="post" action="/reset"><button>Reset all sites to their first state</button></form>
<h2>How it is reached</h2>
<p>FTP and FTP over TLS on port {ftp}, SFTP on port {sftp}; user <code>{user}</code>, password <code>{password}</code>.
Each site is in the folder of its name, like <code>sftp://{user}@127.0.0.1:{sftp}/crew</code>.</p>
<p>When a program connects for the first time, compare the fingerprint that it shows with the one published here:</p>
<ul class="fingerprints">{fingerprints}</ul>
<h2>Misbehaviour, for practice</h2>
<p>Now: {mischief}</p>
<form method="post" action="/mischief" class="switches">{switches}</form>
<h2>What visitors asked for</h2>
<table><tr><th>When</th><th>Site</th><th>Path</th><th>Answer</th><th>Type</th><th>Bytes</th></tr>{requests}</table>
</body></html>"""


_SWITCHES: dict[str, dict[str, int]] = {
    "behave": {},
    "drop the line after 4,000 bytes": {"drop_after": 4000},
    "disk full after 4,000 bytes": {"full_after": 4000},
    "refuse to overwrite": {"no_overwrite": 1},
    "refuse to rename": {"no_rename": 1},
    "refuse every change": {"read_only": 1},
    "answer slowly": {"slow": 400},
    "answer visitors slowly": {"slow_web": 1500},
    "have icons kept for a year": {"cache_year": 1},
    "answer /favicon.ico with a page": {"page_for_icon": 1},
    "send pictures as text": {"wrong_type": 1},
    "send visitors on once": {"send_on": 1},
}


class ControlHandler(BaseHTTPRequestHandler):
    """`GET /` shows the page, `GET /requests.json` the log, `POST /reset` resets the sites and the log.

    `POST /mischief` with a `switch` makes it misbehave.
    """

    served: Path
    log: RequestLog
    control_port: int
    mischief: Mischief
    keys: ServerKeys
    server_version = "StandIn/1"
    sys_version = ""

    def do_GET(self) -> None:
        """Answer with the page or the log."""
        if self.path == "/requests.json":
            self._send(HTTPStatus.OK, json.dumps(self.log.as_json()).encode(), "application/json")
        elif self.path == "/":
            self._send(HTTPStatus.OK, self._page().encode(), "text/html; charset=utf-8")
        else:
            self._send(HTTPStatus.NOT_FOUND, b"Not found", "text/plain")

    def do_POST(self) -> None:
        """Reset, when the request comes from this very page."""
        origin = self.headers.get("Origin")
        if self.path not in ("/reset", "/mischief") or origin not in (None, f"http://{self.headers.get('Host')}"):
            self._send(HTTPStatus.FORBIDDEN, b"Press the button on this host's own page.", "text/plain")
            return
        if self.path == "/reset":
            reset(self.served)
            self.log.clear()
        else:
            length = min(int(self.headers.get("Content-Length", 0)), 100)
            chosen = parse_qs(self.rfile.read(length).decode()).get("switch", [""])[0]
            self.mischief.set(**_SWITCHES.get(chosen, {}))
        self.send_response(HTTPStatus.SEE_OTHER)
        self.send_header("Location", "/")
        self.send_header("Content-Length", "0")
        self.end_headers()

    def log_message(self, format: str, *args: object) -> None:
        """Keep the console quiet."""

    def _page(self) -> str:
        sites = "".join(
            f'<li><a href="http://127.0.0.1:{self.control_port + site.port_offset}/">{site.title}</a>, '
            f"served from {html.escape(str(self.served / site.folder))}</li>"
            for site in SITES
        )
        cells = ("time", "site", "path", "status", "content_type", "sent")
        requests = "".join(
            f"<tr>{''.join(f'<td>{html.escape(str(request[cell]))}</td>' for cell in cells)}</tr>"
            for request in reversed(self.log.as_json())
        )
        on = [name for name, switch in _SWITCHES.items() if switch and self._is_on(switch)]
        return _PAGE.format(
            sites=sites,
            requests=requests or "<tr><td colspan=6>Nothing yet.</td></tr>",
            ftp=self.control_port + len(SITES) + 1,
            sftp=self.control_port + len(SITES) + 2,
            user=USER,
            password=PASSWORD,
            fingerprints="".join(
                f"<li>{protocol}: <code>{fingerprint}</code></li>"
                for protocol, fingerprint in self.keys.fingerprints().items()
            ),
            mischief=on[0] if on else "behaves",
            switches=" ".join(f'<button name="switch" value="{name}">{name}</button>' for name in _SWITCHES),
        )

    def _is_on(self, switch: dict[str, int]) -> bool:
        return all(getattr(self.mischief, name) == value for name, value in switch.items())

    def _send(self, status: HTTPStatus, body: bytes, content_type: str) -> None:
        self.send_response(status)
        self.send_header("Content-Type", content_type)
        self.send_header("Content-Length", str(len(body)))
        self.end_headers()
        self.wfile.write(body)
