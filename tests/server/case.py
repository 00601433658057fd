"""What API tests share: a client that sends the token as our own page does, over a folder of its own."""

import json
import logging
import tempfile
from contextlib import ExitStack, contextmanager
from pathlib import Path
from unittest import mock

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client, TestCase, override_settings
from PIL import Image

from bexi.server.sites.models import Site
from tests.pictures import encoded

AT_ONCE = {
    "default": {"BACKEND": "django_tasks.backends.immediate.ImmediateBackend", "QUEUES": ["default", "elsewhere"]}
}
"""Background tasks are done on the spot."""


@contextmanager
def quiet(*names: str):
    """Loggers that say nothing of what is expected here."""
    with ExitStack() as stack:
        for name in names:
            stack.enter_context(mock.patch.object(logging.getLogger(name), "disabled", True))
        yield


class ApiCase:
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        settings = override_settings(BLOB_FOLDER=self.folder / "blobs", TASKS=AT_ONCE)
        settings.enable()
        self.addCleanup(settings.disable)
        self.client = Client(enforce_csrf_checks=True, SERVER_NAME="127.0.0.1")
        self.client.get("/api/sites")
        self.token = {"X-CSRFToken": self.client.cookies["csrftoken"].value}

    def ask(self, method: str, path: str, body: object = None, **options: object):
        data = None if body is None else json.dumps(body)
        return self.client.generic(
            method, f"/api/{path}", data or "", "application/json", headers=self.token, **options
        )

    def send(self, data: bytes, name: str = "logo.png", path: str = "artwork"):
        return self.client.post(f"/api/{path}", {"file": SimpleUploadedFile(name, data)}, headers=self.token)

    def problem(self, response, status: int, code: str) -> str:
        """Check a problem details answer (RFC 9457); returns its sentence."""
        told = (response.status_code, response.headers["Content-Type"])
        self.assertEqual(told, (status, "application/problem+json"), response.content)
        body = response.json()
        self.assertEqual((body["status"], body["code"]), (status, code))
        self.assertTrue(body["detail"].endswith("."), body["detail"])
        return body["detail"]


class ApiTestCase(ApiCase, TestCase):
    """Each test in a transaction."""


class BenchTestCase(ApiTestCase):
    """A site and an artwork, ready for the bench."""

    def setUp(self):
        super().setUp()
        self.site = Site.objects.create(name="Ferry", place=str(self.folder))
        self.artwork = self.send(encoded(Image.new("RGBA", (300, 200), "#224466"), "PNG")).json()
        self.recipe = {"framing": {"frame": self.artwork["framings"]["whole"]}}

    def draft(self) -> dict:
        """The draft on the bench, as the API tells it."""
        return self.ask("GET", f"sites/{self.site.pk}/draft").json()

    def order_build(self):
        """Have the draft on the bench built."""
        draft = self.draft()
        return self.ask(
            "POST", f"sites/{self.site.pk}/builds", {"draft_id": draft["id"], "revision": draft["revision"]}
        )

    def build(self) -> dict:
        """Build the draft; returns the build as the API tells it."""
        run = self.order_build().json()
        self.assertEqual(run["state"], "done", run)
        return self.ask("GET", f"sites/{self.site.pk}/builds").json()[0]

    def put(self, body: dict):
        """Keep a change of the draft on the bench, or put the first one there."""
        draft = self.draft()
        if draft is None:
            return self.ask("POST", f"sites/{self.site.pk}/drafts", body)
        return self.ask("PUT", f"drafts/{draft['id']}", body)

    def keep(self, revision: int, own: list | None = None, **changes: object):
        """Keep the draft with changes to the framing for all sizes, and framings of their own."""
        recipe = {"framing": {**self.recipe["framing"], **changes}, "own": own or []}
        body = {"artwork_id": self.artwork["id"], "recipe": recipe, "revision": revision}
        return self.put(body)
