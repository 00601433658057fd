from unittest import TestCase

from bexi.core.livesite.pages import Served, pages_from

HOME = "http://merrowmouth.example/"


def site(links: dict[str, list[str]]) -> tuple[list[str], list[str]]:
    """Walk a site of pages with these links, by path; returns the addresses visited and those asked for."""
    asked: list[str] = []

    def fetch(url: str) -> Served:
        asked.append(url)
        path = url.removeprefix(HOME)
        if path not in links:
            return Served(url, 404, "text/html")
        content_type = "image/png" if path.endswith(".png") else "text/html"
        body = "".join(f'<a href="{link}">x</a>' for link in links[path])
        return Served(url, 200, content_type, body.encode())

    pages = pages_from(fetch(HOME), fetch, most=20)
    return [page.url.removeprefix(HOME) for page in pages], asked


class WalkingTests(TestCase):
    def test_nearest_pages_come_first_and_each_once(self):
        visited, asked = site({"": ["a", "b"], "a": ["c", "/"], "b": ["a", "c#part"], "c": []})
        self.assertEqual(visited, ["", "a", "b", "c"])
        self.assertEqual(len(asked), 4)

    def test_relative_links_are_followed_from_their_page(self):
        visited, _ = site({"": ["deep/one"], "deep/one": ["two", "../three"], "deep/two": [], "three": []})
        self.assertEqual(visited, ["", "deep/one", "deep/two", "three"])

    def test_other_hosts_schemes_and_files_are_left_out(self):
        links = [
            "http://else.example/",
            "//else.example/",
            "mailto:a@b",
            "javascript:x()",
            "http://[bad",
            "pic.png",
            "a",
        ]
        visited, asked = site({"": links, "pic.png": [], "a": []})
        self.assertEqual(visited, ["", "a"])
        self.assertTrue(all(url.startswith(HOME) for url in asked))

    def test_missing_pages_are_told_too(self):
        self.assertEqual(site({"": ["gone"]})[0], ["", "gone"])

    def test_pages_in_other_encodings_end_the_walk_there(self):
        page = Served(HOME, 200, "text/html", "<a href='x'>".encode("utf-16"))
        self.assertEqual(list(pages_from(page, lambda url: self.fail(url), most=20)), [page])

    def test_never_more_than_asked_for(self):
        links = {"": [f"p{number}" for number in range(50)], **{f"p{number}": [] for number in range(50)}}
        self.assertEqual(len(site(links)[0]), 20)
