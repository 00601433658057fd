"""The app of drafts, which keep up with their artwork."""

from django.apps import AppConfig


class DraftsConfig(AppConfig):
    name = "bexi.server.drafts"
    label = "benches"  # as its tables are named

    def ready(self) -> None:
        """Have frames follow an artwork that changed."""
        from bexi.server.artwork.changes import read_anew
        from bexi.server.drafts.services import refit

        read_anew.connect(refit)
