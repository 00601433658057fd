"""The Django project: the web face of Bexi."""

from bexi.server import values  # noqa: F401  # before any schema is made
