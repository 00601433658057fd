"""The app of checks, some of which begin by themselves."""

from django.apps import AppConfig


class ChecksConfig(AppConfig):
    name = "bexi.server.checks"

    def ready(self) -> None:
        """Have the sites looked at whose time has come, and those that Bexi has just changed."""
        from bexi.server.checks.starting import check_what_changed, check_what_is_due
        from bexi.server.installs.models import site_changed
        from bexi.server.machines import attending

        attending.also(check_what_is_due)
        site_changed.connect(check_what_changed, dispatch_uid="check what changed")
