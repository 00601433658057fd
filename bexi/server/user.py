"""`bexi user`: accounts from the command line, also when nobody can sign in; `bexi key` makes a key."""

import sys
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from bexi.server import running
from bexi.server.serve import DataOption, fail, set_up

if TYPE_CHECKING:
    from bexi.server.people.models import User

app = typer.Typer(no_args_is_help=True, add_completion=False, rich_markup_mode=None, help="Manage accounts.")
NameArgument = Annotated[str, typer.Argument(metavar="NAME", help="The name somebody signs in with.")]
RoleOption = Annotated[str, typer.Option(metavar="ROLE", help="looks, checks, edits, installs or administers.")]
FromInput = Annotated[bool, typer.Option("--password-stdin", help="Read the password from standard input.")]


@app.command("add")
def add(
    name: NameArgument, role: RoleOption = "administers", password_stdin: FromInput = False, data: DataOption = None
) -> None:
    """Add an account. From the first one on everybody signs in."""
    _set_up(data)
    from bexi.server.people import accounts
    from bexi.server.people.roles import Role

    if role not in Role.values:
        fail(f"There is no role {role}. The roles are {', '.join(Role.values)}.")
    try:
        user = accounts.add(name, _password(password_stdin), Role(role))
    except accounts.AccountRefused as refusal:
        fail(refusal.sentence)
    print(f"{user.username} can sign in now, as {Role(user.role).label}.")


@app.command("list")
def list_accounts(data: DataOption = None) -> None:
    """List the accounts and what they may do."""
    _set_up(data)
    from bexi.server.people.models import User

    for user in User.objects.order_by("username"):
        print(f"{user.username}\t{user.role}{'' if user.is_active else ', shut'}")


@app.command("password")
def password(name: NameArgument, password_stdin: FromInput = False, data: DataOption = None) -> None:
    """Give an account another password; its sessions end, and it is no longer locked out."""
    _set_up(data)
    from axes.utils import reset

    from bexi.server.people import accounts

    user = _account(name)
    try:
        accounts.set_password(user, _password(password_stdin))
    except accounts.AccountRefused as refusal:
        fail(refusal.sentence)
    reset(username=name)
    print(f"{name} signs in with the new password.")


@app.command("remove")
def remove(name: NameArgument, data: DataOption = None) -> None:
    """Remove an account and its tokens; what it did stays written down. Without any account Bexi is open here again."""
    _set_up(data)
    from bexi.server.people import accounts
    from bexi.server.people.models import User

    user = _account(name)
    others = User.objects.exclude(pk=user.pk)
    if others.exists() and not (accounts.administrators() & others).exists():
        fail(accounts.LAST_ADMINISTRATOR)
    user.delete()
    print(f"{name} is removed.")


def key_command() -> None:
    """Print a fresh key for BEXI_KEY: kept secrets are sealed with it. Whoever has it and the data can read them."""
    from cryptography.fernet import Fernet

    print(Fernet.generate_key().decode())


def _set_up(data: Path | None) -> None:
    running.data_folder(data, "bexi")
    set_up()
    from django.core.management import call_command

    call_command("migrate", verbosity=0)


def _account(name: str) -> "User":
    from bexi.server.people.models import User

    user = User.objects.filter(username=name).first()
    if user is None:
        fail(f"There is no account {name}. bexi user list names them.")
    return user


def _password(from_input: bool) -> str:
    if from_input:
        return sys.stdin.readline().rstrip("\r\n")
    try:
        return str(typer.prompt("Password", hide_input=True, confirmation_prompt=True))
    except typer.Abort:
        print()
        fail("No password was given. Give it on standard input, with --password-stdin.")
