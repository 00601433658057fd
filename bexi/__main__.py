"""The `bexi` command, also as `python -m bexi`."""

import sys

_READING_PICTURES = {"build", "fit", "judge", "propose", "facts"}


def main() -> None:
    """Run the command; where it reads pictures, the processes for that start before all else, and beside it."""
    if not _READING_PICTURES.isdisjoint(sys.argv[1:2]):
        from bexi.sandbox.children import get_ready

        get_ready()
    from bexi.cli import app

    app()


if __name__ == "__main__":
    main()
