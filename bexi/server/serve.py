"""`bexi serve`: everything that Bexi is, by one command."""

import ipaddress
import sys
from pathlib import Path
from typing import Annotated, NoReturn

import typer

from bexi.server import running

ELSEWHERE = (
    "Bexi has no accounts, so it only listens on this machine: whoever reached it could do all that you can. "
    "Use 127.0.0.1, or reach it through an SSH tunnel."
)
NOT_STARTED = 1

DataOption = Annotated[Path | None, typer.Option("--data", metavar="FOLDER", help="Where Bexi keeps its data.")]


def serve_command(
    host: Annotated[str, typer.Option(help="The address to listen on: one of this machine alone.")] = running.LOOPBACK,
    port: Annotated[int, typer.Option(min=1, max=65535, help="The port to listen on.")] = running.WEB_PORT,
    data: DataOption = None,
    browser: Annotated[bool, typer.Option(help="Open the page in a browser, where there is one.")] = True,
    check: Annotated[
        bool, typer.Option("--check", help="Only look at pages, disk, database and worker; exit code 1 if ill.")
    ] = False,
) -> None:
    """Start Bexi: the web server, the worker, the database brought up to date. Ctrl-C ends it."""
    host = _own_address(host)
    running.data_folder(data, "bexi")
    _set_up()
    if check:
        from bexi.server.health import state_of_health

        health = state_of_health()
        for line in health.lines:
            print(line)
        raise typer.Exit(0 if health.is_well else NOT_STARTED)
    raise typer.Exit(_serve(host, port, browser))


def _own_address(host: str) -> str:
    """The address as a number; ends the command for one that others reach."""
    address = {"localhost": running.LOOPBACK}.get(host, host).strip("[]")
    try:
        is_own = ipaddress.ip_address(address).is_loopback
    except ValueError:
        is_own = False
    if not is_own:
        fail(ELSEWHERE)
    return address


def _set_up() -> None:
    import django

    try:
        django.setup()
    except OSError as error:
        fail(f"The data folder cannot be used: {error.strerror or error}. Name another with --data.")


def _serve(host: str, port: int, browser: bool) -> int:
    from django.conf import settings
    from django.core.management import call_command

    from bexi.server import locks

    address = f"http://{f'[{host}]' if ':' in host else host}:{port}/"
    try:
        with locks.holding("serving"):
            if running.taken(host, [port]):
                fail(f"Port {port} is in use on {host}. Stop what uses it, or choose another with --port.")
            call_command("migrate", verbosity=0)
            print(f"Bexi: {address}\nIts data: {settings.DATA_FOLDER}\nCtrl-C ends it.", flush=True)
            if browser:
                running.open_browser_at(address)
            return running.run({"web": running.web(host, port), "worker": running.worker()})
    except locks.Held:
        fail(f"Bexi runs already on this data ({settings.DATA_FOLDER}). Open it, or name another folder with --data.")


def fail(sentence: str) -> NoReturn:
    """End the command with a sentence on stderr."""
    print(sentence, file=sys.stderr)
    raise typer.Exit(NOT_STARTED)
