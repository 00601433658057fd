"""Starting the processes that Bexi is made of, and ending them together."""

import os
import signal
import socket
import sys
import threading
import time
import urllib.error
import urllib.request
import webbrowser
from collections.abc import Mapping, Sequence
from pathlib import Path

from honcho.manager import Manager

LOOPBACK = "127.0.0.1"
WEB_PORT = 8400
_WAIT_SECONDS = 60


def command(module: str, *arguments: object) -> str:
    """A shell line that runs a module with this Python."""
    return " ".join([f'"{sys.executable}" -m {module}', *map(str, arguments)])


def web(host: str, port: int) -> str:
    """The web server: two processes, since the one that encodes a large PNG answers nobody else meanwhile."""
    address = f"[{host}]:{port}" if ":" in host else f"{host}:{port}"
    options = ["--bind", address, "--workers", 2, "--threads", 8, "--log-level", "warning"]
    # Who may say that a request came by TLS is settled by BEXI_PROXY alone.
    options += ["--forwarded-allow-ips", '""']
    return command("gunicorn", "bexi.server.wsgi", *options)


def worker() -> str:
    """The process that does what takes long."""
    return command("django", "work")


def run(processes: Mapping[str, str]) -> int:
    """Run them until one ends or Ctrl-C; returns the exit code, 0 for Ctrl-C."""
    environment = {**os.environ, "DJANGO_SETTINGS_MODULE": "bexi.server.settings"}
    manager = Manager()
    for name, line in processes.items():
        manager.add_process(name, line, env=environment)
    manager.loop()
    interrupted = (128 + signal.SIGINT, -signal.SIGINT)
    return 0 if manager.returncode in interrupted else int(manager.returncode or 0)


def taken(host: str, ports: Sequence[int]) -> list[int]:
    """Those of the ports that something else listens on."""
    return [port for port in ports if _in_use(host, port)]


def _in_use(host: str, port: int) -> bool:
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    with socket.socket(family) as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((host, port))
        except OSError:
            return True
    return False


def open_browser_at(address: str) -> None:
    """Open the page in a browser once it answers, where there is one; beside what is done meanwhile."""
    threading.Thread(target=_open_when_up, args=(address,), daemon=True).start()


def _open_when_up(address: str) -> None:
    if not has_browser():
        return
    end = time.monotonic() + _WAIT_SECONDS
    while time.monotonic() < end:
        try:
            urllib.request.urlopen(f"{address}health", timeout=2).close()
        except urllib.error.HTTPError:
            break  # it answers
        except OSError:
            time.sleep(0.3)
            continue
        break
    webbrowser.open(address)


def has_browser() -> bool:
    """Whether a page can be shown to a person here: a browser in a text terminal would take the terminal over."""
    on_screen = sys.platform in ("darwin", "win32") or any(
        os.environ.get(one) for one in ("DISPLAY", "WAYLAND_DISPLAY")
    )
    try:
        webbrowser.get()
    except webbrowser.Error:
        return False
    return on_screen


def data_folder(chosen: Path | None, name: str) -> Path:
    """The data folder of a command, set for all its processes before the settings are read."""
    home = Path(os.environ.get("XDG_DATA_HOME", Path.home() / ".local" / "share"))
    folder = chosen or Path(os.environ.get("BEXI_DATA", home / name))
    os.environ["BEXI_DATA"] = str(folder.resolve())
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "bexi.server.settings")
    return folder.resolve()
