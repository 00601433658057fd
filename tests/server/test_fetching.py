from unittest import TestCase

import httpx

from bexi.core.livesite.pages import Served
from bexi.server.fetching import LARGEST_ANSWER, fetch

SITE = "http://merrowmouth.example"


class FetchingTests(TestCase):
    """Through httpx's own mock transport: no connection is opened."""

    def fetch(self, answers: dict[str, httpx.Response], path: str = "/") -> Served:
        self.asked: list[str] = []

        def answer(request: httpx.Request) -> httpx.Response:
            self.asked.append(str(request.url))
            return answers[request.url.path]

        with httpx.Client(transport=httpx.MockTransport(answer)) as client:
            return fetch(client, SITE + path)

    def test_an_answer_is_told_as_it_came(self):
        served = self.fetch({"/": httpx.Response(404, headers={"Content-Type": "text/html"}, content=b"gone")})
        self.assertEqual((served.status, served.content_type, served.body), (404, "text/html", b"gone"))

    def test_redirects_are_followed_on_the_same_host_only(self):
        answers = {
            "/": httpx.Response(301, headers={"Location": "/home"}),
            "/home": httpx.Response(200, content=b"home"),
        }
        self.assertEqual(self.fetch(answers).body, b"home")
        away = {"/": httpx.Response(302, headers={"Location": "http://127.0.0.1:9/secret"})}
        self.assertIn("another host", self.fetch(away).error)
        self.assertEqual(self.asked, [f"{SITE}/"])

    def test_a_circle_ends(self):
        self.assertIn("circle", self.fetch({"/": httpx.Response(302, headers={"Location": "/"})}).error)
        self.assertLess(len(self.asked), 6)

    def test_endless_answers_are_cut(self):
        served = self.fetch({"/": httpx.Response(200, content=b"x" * (LARGEST_ANSWER + 1))})
        self.assertEqual((served.status, served.body), (0, b""))

    def test_no_answer_is_told(self):
        def refuse(request: httpx.Request) -> httpx.Response:
            raise httpx.ConnectError("refused")

        with httpx.Client(transport=httpx.MockTransport(refuse)) as client:
            self.assertIn("ConnectError", fetch(client, SITE).error)

    def test_other_schemes_are_not_fetched(self):
        with httpx.Client() as client:
            self.assertEqual(fetch(client, "file:///etc/hostname").status, 0)
