"""The `bexi-standin` command."""

import os
import signal
import sys
import threading
from pathlib import Path
from typing import Annotated

import typer

from bexi.standin.host import LOOPBACK, running
from bexi.standin.sites import SITES, reset

app = typer.Typer(add_completion=False, rich_markup_mode=None)


@app.command()
def serve(
    folder: Annotated[Path, typer.Option(help="Folder that holds, or will hold, the served sites.")],
    port: Annotated[int, typer.Option(help="Port of the control page; the sites follow on the next ports.")] = 8410,
) -> None:
    """Run the stand-in host until it is interrupted."""
    reset(folder, [site for site in SITES if not (folder / site.folder).is_dir()])
    stop = threading.Event()
    for number in (signal.SIGINT, signal.SIGTERM):
        signal.signal(number, lambda *_: stop.set())
    try:
        with running(folder, port):
            print(f"Stand-in host: http://{LOOPBACK}:{port}/", flush=True)
            while not stop.wait(1) and _is_kept():
                pass
    except OSError as error:
        print(f"A port from {port} to {port + len(SITES)} is in use ({error.strerror}).", file=sys.stderr)
        raise typer.Exit(1) from None


def _is_kept() -> bool:
    """Whether the process that keeps this one, if any, is still there."""
    return os.environ.get("BEXI_KEEPER", str(os.getppid())) == str(os.getppid())


if __name__ == "__main__":
    app()
