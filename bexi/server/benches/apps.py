"""The app of drafts, which keep up with their artwork."""

from django.apps import AppConfig


class BenchesConfig(AppConfig):
    name = "bexi.server.benches"

    def ready(self) -> None:
        """Have frames follow an artwork that changed."""
        from bexi.server.artwork.changes import read_anew
        from bexi.server.benches.services import refit

        read_anew.connect(refit)
