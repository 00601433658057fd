"""The `bexi` command: the same core without the web."""

import typer

from bexi.cli.build import build_command, compare_command, fit_command, plans_command
from bexi.cli.draw import draw
from bexi.cli.facts import facts_command
from bexi.cli.install import install_command, undo_command

app = typer.Typer(
    help="From a picture to the icons of a site.",
    no_args_is_help=True,
    add_completion=False,
    rich_markup_mode=None,
)
app.command("build")(build_command)
app.command("plans")(plans_command)
app.command("fit")(fit_command)
app.command("compare")(compare_command)
app.command("install")(install_command)
app.command("undo")(undo_command)
app.command("facts")(facts_command)
app.add_typer(draw, name="draw")
