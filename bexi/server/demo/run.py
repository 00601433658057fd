"""`bexi demo`, `make demo` and `make dev`: load the demo once, then run Bexi and the stand-in host until Ctrl-C."""

import sys
from pathlib import Path
from typing import Annotated

import typer

from bexi.server import running
from bexi.server.serve import NOT_STARTED, DataOption
from bexi.standin.host import PORTS

STANDIN_PORT = 8410
VITE_PORT = 5173


def demo_command(
    data: DataOption = None,
    browser: Annotated[bool, typer.Option(help="Open the page in a browser, where there is one.")] = True,
) -> None:
    """Start Bexi with invented sites on a stand-in host. Ctrl-C ends both."""
    raise typer.Exit(run(running.data_folder(data, "bexi-demo"), browser))


def run(folder: Path, browser: bool, development: bool = False) -> int:
    """Run the demo until it is interrupted; returns the exit code."""
    ports = [running.WEB_PORT, *range(STANDIN_PORT, STANDIN_PORT + PORTS), *([VITE_PORT] if development else [])]
    taken = running.taken(running.LOOPBACK, ports)
    if taken:
        print(
            f"In use on {running.LOOPBACK}: port {', '.join(map(str, taken))}. Another demo may be running. "
            "Stop what uses it, then start again.",
            file=sys.stderr,
        )
        return NOT_STARTED
    import django
    from django.core.management import call_command

    django.setup()
    from bexi.server import locks

    served = folder / "sites"
    call_command("migrate", verbosity=0)
    call_command("load_demo", str(served), port=STANDIN_PORT)
    address = f"http://{running.LOOPBACK}:{VITE_PORT if development else running.WEB_PORT}/"
    print(
        f"\nBexi:          {address}\nStand-in host: http://{running.LOOPBACK}:{STANDIN_PORT}/\nCtrl-C ends both.\n",
        flush=True,
    )
    if browser:
        running.open_browser_at(address)
    with locks.holding("serving"):
        return running.run(_processes(served, development))


def _processes(served: Path, development: bool) -> dict[str, list[str]]:
    web = running.web(running.LOOPBACK, running.WEB_PORT)
    if development:
        web = {"web": running.command("django", "runserver", f"{running.LOOPBACK}:{running.WEB_PORT}")}
    standin = running.command("bexi.standin.main", "--folder", served, "--port", STANDIN_PORT)
    vite = {"vite": ["npm", "--prefix", "frontend", "run", "dev"]} if development else {}
    return web | running.workers() | {"standin": standin} | vite


if __name__ == "__main__":
    sys.exit(run(running.data_folder(None, "bexi-demo"), browser=False, development="--development" in sys.argv[1:]))
