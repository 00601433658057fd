"""`make demo` and `make dev`: load the demo once, then run Bexi and the stand-in host until Ctrl-C."""

import os
import signal
import socket
import sys
from pathlib import Path

import django
from django.core.management import call_command
from honcho.manager import Manager

from bexi.standin.host import PORTS

LOOPBACK = "127.0.0.1"
WEB_PORT = 8400
STANDIN_PORT = 8410
VITE_PORT = 5173


def main(development: bool) -> int:
    """Run until interrupted; returns the exit code."""
    ports = [WEB_PORT, *range(STANDIN_PORT, STANDIN_PORT + PORTS), *([VITE_PORT] if development else [])]
    taken = [port for port in ports if _in_use(port)]
    if taken:
        print(
            f"In use on {LOOPBACK}: port {', '.join(map(str, taken))}. Another demo may be running. "
            "Stop what uses it, then start again.",
            file=sys.stderr,
        )
        return 1
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "bexi.server.settings")
    django.setup()
    from django.conf import settings

    served: Path = settings.DATA_FOLDER / "sites"
    call_command("migrate", verbosity=0)
    call_command("load_demo", str(served), port=STANDIN_PORT)
    processes = Manager()
    processes.add_process("web", _web_command(development))
    processes.add_process("worker", f'"{sys.executable}" manage.py work')
    processes.add_process("standin", f'{_beside("bexi-standin")} --folder "{served}" --port {STANDIN_PORT}')
    if development:
        processes.add_process("vite", "npm --prefix frontend run dev")
    print(f"\nBexi:          http://{LOOPBACK}:{VITE_PORT if development else WEB_PORT}/")
    print(f"Stand-in host: http://{LOOPBACK}:{STANDIN_PORT}/\nCtrl-C ends both.\n", flush=True)
    processes.loop()
    interrupted = 128 + signal.SIGINT
    return 0 if processes.returncode == interrupted else int(processes.returncode or 0)


def _web_command(development: bool) -> str:
    """Two processes: the one that encodes a large PNG answers nobody else meanwhile."""
    if development:
        return f'"{sys.executable}" manage.py runserver {LOOPBACK}:{WEB_PORT}'
    options = f"--bind {LOOPBACK}:{WEB_PORT} --workers 2 --threads 8 --log-level warning"
    return f"{_beside('gunicorn')} bexi.server.wsgi {options}"


def _beside(command: str) -> str:
    """The command of the same environment as this Python."""
    return f'"{Path(sys.executable).parent / command}"'


def _in_use(port: int) -> bool:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((LOOPBACK, port))
        except OSError:
            return True
    return False


if __name__ == "__main__":
    sys.exit(main("--development" in sys.argv[1:]))
