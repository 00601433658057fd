"""`bexi serve`: everything that Bexi is, by one command."""

import ipaddress
import os
import sys
from pathlib import Path
from typing import Annotated, NoReturn

import typer

from bexi.server import running

NO_ACCOUNT = (
    "Nobody has an account, so Bexi only listens on this machine: whoever reached it could do all that you can. "
    "Add one with: bexi user add NAME"
)
NO_NAME = (
    "Set the names that Bexi is reached by, like BEXI_HOSTS=bexi.example: it answers to those and to no other, so that "
    "pages elsewhere cannot make a browser ask it under a name of their own."
)
IN_CLEAR = (
    "Passwords are sent unencrypted to this address. Put a proxy with TLS in front of 127.0.0.1 instead; see the docs "
    "on a team's server."
)
NOT_STARTED = 1

DataOption = Annotated[Path | None, typer.Option("--data", metavar="FOLDER", help="Where Bexi keeps its data.")]


def serve_command(
    host: Annotated[
        str, typer.Option(help="The address to listen on. Others than this machine need accounts.")
    ] = running.LOOPBACK,
    port: Annotated[int, typer.Option(min=1, max=65535, help="The port to listen on.")] = running.WEB_PORT,
    data: DataOption = None,
    browser: Annotated[bool, typer.Option(help="Open the page in a browser, where there is one.")] = True,
    check: Annotated[
        bool,
        typer.Option("--check", help="Only check pages, disk, database and worker; exit code 1 if anything is wrong."),
    ] = False,
) -> None:
    """Start Bexi: the web server, the worker, the database brought up to date. Ctrl-C ends it."""
    host = {"localhost": running.LOOPBACK}.get(host, host).strip("[]")
    running.data_folder(data, "bexi")
    if not _is_loopback(host):
        _be_reached_as(host)
    set_up()
    if check:
        from bexi.server.health import state_of_health

        health = state_of_health()
        for line in health.lines:
            print(line)
        raise typer.Exit(0 if health.is_well else NOT_STARTED)
    raise typer.Exit(_serve(host, port, browser))


def work_command(data: DataOption = None) -> None:
    """Start more workers, for several machines that share database, queue and blobs. Ctrl-C ends them."""
    running.data_folder(data, "bexi")
    set_up()
    raise typer.Exit(running.run(running.workers()))


def _is_loopback(host: str) -> bool:
    """Whether only this machine reaches an address; ends the command for what is none."""
    try:
        return ipaddress.ip_address(host).is_loopback
    except ValueError:
        fail(f"{host} is not an address to listen on. Give one as a number, like 0.0.0.0 for all of this machine.")


def _be_reached_as(host: str) -> None:
    """Have Bexi answer under the address it listens on, if that is one; ends the command when no name is known."""
    if not ipaddress.ip_address(host).is_unspecified:
        name = f"[{host}]" if ":" in host else host
        os.environ["BEXI_HOSTS"] = f"{os.environ.get('BEXI_HOSTS', '')} {name}".strip()
    if not os.environ.get("BEXI_HOSTS"):
        fail(NO_NAME)


def set_up() -> None:
    """Read Bexi's settings; ends the command when they or the data folder cannot be used."""
    import django
    from django.core.exceptions import ImproperlyConfigured

    try:
        django.setup()
    except ImproperlyConfigured as error:
        fail(str(error))
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
            if settings.REACHED_AS:
                _must_have_accounts()
            if not _is_loopback(host) and not settings.BEHIND_PROXY:
                print(IN_CLEAR, file=sys.stderr)
            print(f"Bexi: {address}\nIts data: {settings.DATA_FOLDER}\nCtrl-C ends it.", flush=True)
            if browser:
                running.open_browser_at(address)
            return running.run(running.web(host, port) | running.workers())
    except locks.Held:
        fail(f"Bexi is already running on this data ({settings.DATA_FOLDER}). Open it, or name another with --data.")


def _must_have_accounts() -> None:
    from bexi.server.people import accounts

    if not accounts.administrators().exists():
        fail(NO_ACCOUNT)


def fail(sentence: str) -> NoReturn:
    """End the command with a sentence on stderr."""
    print(sentence, file=sys.stderr)
    raise typer.Exit(NOT_STARTED)
