"""The `bexi` command: the same core without the web. A command imports what it needs when it is called."""

from importlib import import_module
from typing import Any

import typer
from typer.core import TyperGroup
from typer.main import get_command

_COMMANDS = {
    "start": ("bexi.cli.start:start_command", "From a site's ADDRESS alone to a built set."),
    "build": ("bexi.cli.build:build_command", "Build the icon set of PICTURE, or of a recipe file, into a folder."),
    "serve": ("bexi.server.serve:serve_command", "Start Bexi: web server, worker and database, on this machine."),
    "demo": ("bexi.server.demo.run:demo_command", "Start Bexi with invented sites on a stand-in host."),
    "work": ("bexi.server.serve:work_command", "Start more workers beside those of `bexi serve`."),
    "user": ("bexi.server.user:app", "Manage accounts: add, list, password, remove."),
    "key": ("bexi.server.user:key_command", "Print a new key for encrypting saved passwords."),
    "backup": ("bexi.server.backup:backup_command", "Back up all data except the keys into one file."),
    "restore": ("bexi.server.backup:restore_command", "Restore all data from a backup file."),
    "plans": ("bexi.cli.plans:plans_command", "List the ready-made plans and their files."),
    "fit": ("bexi.cli.fit:fit_command", "Make the one file that an upload field asks for."),
    "compare": ("bexi.cli.compare:compare_command", "Compare two sets file by file and picture by picture."),
    "install": (
        "bexi.cli.install:install_command",
        "Install a set on a site: files into its top folder, lines in heads.",
    ),
    "undo": ("bexi.cli.install:undo_command", "Take back what `bexi install` did last on a site."),
    "judge": (
        "bexi.cli.judge:judge_command",
        "Judge each size: what a person will see, and what would be better.",
    ),
    "propose": ("bexi.cli.judge:propose_command", "Propose framings of PICTURE, the best first."),
    "check": ("bexi.cli.check:check_command", "Check a live site: which icon each kind of visitor gets."),
    "visit": ("bexi.cli.visit:visit_command", "Visit a page as a simulated visitor whose clock can be moved forward."),
    "facts": ("bexi.cli.facts:facts_command", "Measure PICTURE and say how well it suits icons."),
    "draw": ("bexi.cli.draw:draw", "Draw letters or a symbol."),
}
"""Where each command is, and the line that the list of them says."""


class _OnDemand(TyperGroup):
    """Knows its commands by name; each is imported when it is called."""

    def list_commands(self, ctx: Any) -> list[str]:
        return list(_COMMANDS)

    def get_command(self, ctx: Any, cmd_name: str) -> Any:
        if cmd_name not in _COMMANDS:
            return None
        module, _, name = _COMMANDS[cmd_name][0].partition(":")
        found = getattr(import_module(module), name)
        if isinstance(found, typer.Typer):
            return get_command(found)
        alone = typer.Typer(add_completion=False, rich_markup_mode=None)
        alone.command(cmd_name)(found)
        return get_command(alone)

    def format_commands(self, ctx: Any, formatter: Any) -> None:
        with formatter.section("Commands"):
            formatter.write_dl([(name, line) for name, (_, line) in _COMMANDS.items()])


app = typer.Typer(cls=_OnDemand, no_args_is_help=True, add_completion=False, rich_markup_mode=None)


@app.callback()
def bexi() -> None:
    """From a picture to the icons of a site."""
