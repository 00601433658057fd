import base64
import io
import zipfile
from contextlib import nullcontext
from unittest import mock

from django.http import HttpResponse
from django.test import RequestFactory

from bexi.core.livesite.served import Served
from bexi.server.hanging_up import has_hung_up
from bexi.server.sites.models import Site
from tests.pictures import decoded
from tests.server.case import ApiTestCase, BenchTestCase, quiet

PAGE = b"<html>\r\n<head>\r\n<title>a</title>\r\n</head>\r\n<body>caf\xe9</body>\r\n</html>\r\n"


class BenchApiTests(BenchTestCase):
    def test_draft_is_kept_and_an_overtaken_window_is_told(self):
        self.assertIsNone(self.ask("GET", f"sites/{self.site.pk}/draft").json())
        self.assertEqual(self.keep(0).json()["revision"], 1)
        self.assertEqual(self.keep(1, ground="#123456").json()["revision"], 2)
        self.problem(self.keep(1, ground="#ffffff"), 409, "draft-changed-elsewhere")
        self.assertEqual(
            self.ask("GET", f"sites/{self.site.pk}/draft").json()["recipe"]["framing"]["ground"], "#123456"
        )

    def test_a_draft_sent_again_after_a_lost_answer_is_the_one_kept(self):
        self.keep(0)
        kept = self.keep(1, ground="#123456").json()
        again = self.keep(1, ground="#123456")
        self.assertEqual((again.status_code, again.json()), (200, kept))

    def test_bad_recipes_are_refused_and_the_draft_stays(self):
        self.keep(0)
        self.problem(self.keep(1, frame={"x": 0, "y": 0, "side": 0}), 422, "frame-without-area")
        self.problem(self.keep(1, frame={"x": 900, "y": 0, "side": 9}), 422, "frame-misses-artwork")
        self.problem(self.keep(1, ground="plaid"), 422, "unknown-colour")
        self.problem(self.keep(1, frame={"x": "a"}), 422, "invalid-request")
        self.assertEqual(self.ask("GET", f"sites/{self.site.pk}/draft").json()["revision"], 1)

    def test_ladder_shows_the_very_bytes_that_are_built(self):
        self.keep(0)
        wanted = [(16, "tab"), (32, "tab"), (180, "home")]
        body = {"recipe": self.recipe, "pictures": [{"size": size, "purpose": purpose} for size, purpose in wanted]}
        rungs = self.ask("POST", f"artwork/{self.artwork['id']}/ladder", body).json()
        self.assertEqual([(rung["size"], rung["purpose"]) for rung in rungs], wanted)
        build = self.build()
        for rung, name in zip(rungs, ("icon-16.png", "icon-32.png", "apple-touch-icon.png"), strict=True):
            served = self.client.get(f"/api/builds/{build['id']}/files/{name}")
            self.assertEqual(served.content, base64.b64decode(rung["png"]))

    def test_build_is_listed_served_and_packed(self):
        order = {"draft_id": 1, "revision": 1}
        self.problem(self.ask("POST", f"sites/{self.site.pk}/builds", order), 404, "not-found")
        self.keep(0)
        build = self.build()
        self.assertEqual((build["number"], len(build["files"]), build["current"]), (1, 9, True))
        self.assertEqual([one["name"] for one in build["left_out"]], ["icon.svg"])
        manifest = self.client.get(f"/api/builds/{build['id']}/files/site.webmanifest")
        self.assertEqual(manifest.headers["Content-Type"], "application/manifest+json")
        frame = self.client.get(f"/api/builds/{build['id']}/files/favicon.ico/frames/48")
        self.assertEqual(decoded(frame.content).shape, (48, 48, 4))
        packed = self.client.get(f"/api/builds/{build['id']}/set.zip")
        self.assertIn("ferry-icons-1.zip", packed.headers["Content-Disposition"])
        self.assertIn("favicon.ico", zipfile.ZipFile(io.BytesIO(packed.content)).namelist())
        self.keep(1, ground="#000000")
        self.assertFalse(self.ask("GET", f"sites/{self.site.pk}/builds").json()[0]["current"])


class SiteApiTests(ApiTestCase):
    def test_the_kinds_of_place_have_the_ports_of_their_protocols(self):
        """RFC 4253 §4 for SSH, RFC 959 §8 for FTP, with which RFC 4217 §4 begins, too [from memory]."""
        kinds = {one["scheme"]: one["port"] for one in self.ask("GET", "place-kinds").json()}
        self.assertEqual(kinds, {"folder": 0, "sftp": 22, "ftps": 21, "ftp": 21})

    def test_sites_are_added_and_changed(self):
        added = self.ask("POST", "sites", {"name": " Ferry ", "address": "https://merrowmouth.example/"}).json()
        self.assertEqual((added["name"], added["state"]), ("Ferry", "empty"))
        changed = self.ask("PUT", f"sites/{added['id']}", {"name": "Ferry", "place": "/srv/ferry"}).json()
        self.assertEqual((changed["place"], changed["address"]), ("/srv/ferry", ""))

    def test_an_address_without_its_scheme_is_tried_by_https_then_http(self):
        for answers, expected in (
            (("https",), "https"),
            (("http",), "http"),
            ((), "https"),
            (("http", "https"), "https"),
        ):

            def asking(seconds, address, answers=answers):
                return nullcontext(lambda url: Served(url, 404 if url.partition(":")[0] in answers else 0))

            with mock.patch("bexi.web.typed.visiting", asking):
                told = self.ask("POST", "sites", {"name": "a", "address": "merrowmouth.example/x"}).json()
            self.assertEqual(told["address"], f"{expected}://merrowmouth.example/x")

    def test_bad_values_are_refused_with_a_sentence(self):
        self.problem(self.ask("POST", "sites", {"name": " "}), 422, "invalid-request")
        self.assertIn(
            "like merrowmouth.example",
            self.problem(self.ask("POST", "sites", {"name": "a", "address": "file:///etc"}), 422, "invalid-request"),
        )
        self.problem(self.ask("GET", "sites/999"), 404, "not-found")


class SecurityTests(ApiTestCase):
    def test_changes_need_the_token_of_our_own_page(self):
        for method, path in (
            ("POST", "sites"),
            ("POST", "artwork"),
            ("PUT", "drafts/1"),
            ("POST", "installs/1/undo"),
        ):
            self.token = {}
            with self.assertLogs("django.security.csrf"):
                self.problem(self.ask(method, path, {"name": "x"}), 409, "page-outdated")
        self.assertFalse(Site.objects.exists())

    def test_unexpected_errors_are_problem_details_and_logged(self):
        with (
            mock.patch("bexi.server.sites.api.Site.named.all", side_effect=RuntimeError("a secret detail")),
            self.assertLogs("bexi.server.problems") as logged,
            self.assertLogs("django.request"),
        ):
            sentence = self.problem(self.client.get("/api/sites"), 500, "unexpected")
        self.assertNotIn("secret", sentence)
        self.assertIn("a secret detail", logged.output[0])

    def test_other_host_names_are_refused(self):
        with self.assertLogs("django.security.DisallowedHost"):
            self.assertEqual(self.client.get("/api/sites", headers={"Host": "rebound.example"}).status_code, 400)

    def test_static_files_answer_to_known_hosts_only(self):
        with self.assertLogs("django.security.DisallowedHost"):
            for path in ("/bexi.svg", "/assets/index.js", "/"):
                self.assertEqual(self.client.get(path, headers={"Host": "rebound.example"}).status_code, 400)

    def test_whatever_is_wrong_below_the_api_is_a_problem(self):
        huge = 10**20
        for method, path, body, status, code in (
            ("GET", "nope", None, 404, "not-found"),
            ("GET", f"sites/{huge}", None, 404, "not-found"),
            ("GET", f"artwork?page={huge}", None, 422, "invalid-request"),
            ("DELETE", "sites", None, 405, "wrong-method"),
            ("POST", "sites", {"name": "x" * 2_000_000}, 413, "request-too-large"),
            ("POST", "sites", {"name": "a", "address": "http://a:99999/"}, 422, "invalid-request"),
            ("POST", "sites", {"name": "a", "address": "http://[/"}, 422, "invalid-request"),
            ("POST", "sites", {"name": "a", "address": "http://a\u0007b/"}, 422, "invalid-request"),
            ("POST", "sites", {"name": "a", "place": "sftp://h:99999/"}, 422, "invalid-request"),
            ("POST", "sites", {"name": "a", "address": "http://a b/"}, 422, "invalid-request"),
            ("POST", "sites", {"name": "\ud800"}, 422, "invalid-request"),
            ("GET", f"artwork?search={'a+' * 3000}", None, 422, "invalid-request"),
            ("POST", "sites/1/connection", {"trust": "x" * 1000}, 422, "invalid-request"),
        ):
            with self.subTest(path=path), quiet("django.request", "django.security.RequestDataTooBig"):
                self.problem(self.ask(method, path, body), status, code)
        for body, content_type in ((b"x", "multipart/form-data; boundary="), (b"[" * 100_000, "application/json")):
            path = "/api/artwork" if body == b"x" else "/api/sites"
            self.problem(self.client.generic("POST", path, body, content_type, headers=self.token), 400, "bad-request")
        response = self.client.generic("POST", "/api/artwork", b"", CONTENT_LENGTH="many", headers=self.token)
        self.assertLess(response.status_code, 500)

    def test_a_ladder_is_bounded_in_all(self):
        pictures = [{"size": 1024, "purpose": "tab"}] * 60
        frame = {"x": 0, "y": 0, "side": 9}
        body = {"recipe": {"framing": {"frame": frame}}, "pictures": pictures}
        self.assertIn("8,000,000 px", self.problem(self.ask("POST", "artwork/1/ladder", body), 422, "invalid-request"))

    def test_page_has_a_strict_policy_with_a_fresh_nonce(self):
        # W3C Content Security Policy Level 3: no source beyond ourselves, style elements by nonce.
        with mock.patch("bexi.server.page._index", return_value="<style nonce=BEXI_CSP_NONCE>"):
            pages = [self.client.get("/sites/1/bench") for _ in range(2)]
        policies = [page.headers["Content-Security-Policy"] for page in pages]
        self.assertNotEqual(policies[0], policies[1])
        self.assertNotIn("unsafe", policies[0])
        self.assertIn("default-src 'none'", policies[0])
        nonce = pages[0].content.decode().split("nonce=")[1].rstrip(">")
        self.assertIn(f"'nonce-{nonce}'", policies[0])


class LadderTests(BenchTestCase):
    def ladder(self, size: int) -> HttpResponse:
        body = {"recipe": self.recipe, "pictures": [{"size": size, "purpose": "tab"}]}
        return self.ask("POST", f"artwork/{self.artwork['id']}/ladder", body)

    def test_pictures_are_kept_and_made_only_once(self):
        first = self.ladder(41).json()
        with mock.patch("bexi.server.drafts.services.encode", side_effect=AssertionError):
            self.assertEqual(self.ladder(41).json(), first)

    def test_work_ends_when_nobody_waits(self):
        with mock.patch("bexi.server.drafts.api.has_hung_up", return_value=True):
            self.problem(self.ladder(43), 409, "outdated")

    def test_a_closed_connection_is_seen(self):
        for is_closed in (True, False):
            request = RequestFactory().get("/", **{"waitress.client_disconnected": lambda told=is_closed: told})
            self.assertEqual(has_hung_up(request), is_closed)
        self.assertFalse(has_hung_up(RequestFactory().get("/")))
