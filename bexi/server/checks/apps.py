"""The app of checks, some of which begin by themselves."""

from django.apps import AppConfig


class ChecksConfig(AppConfig):
    name = "bexi.server.checks"

    def ready(self) -> None:
        """Have the sites looked at whose time has come."""
        from bexi.server.checks.starting import check_what_is_due
        from bexi.server.machines import attending

        attending.also(check_what_is_due)
