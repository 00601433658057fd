from tests.standin.test_standin import StandInTestCase


class FaultTests(StandInTestCase):
    """What the host does to visitors, by itself and when it is told to."""

    def test_sites_with_faults_of_their_own(self):
        response, body = self.ask(4, "/favicon.ico")
        self.assertEqual((response.status, response.headers["Content-Type"]), (200, "text/html"))
        self.assertIn(b"Tide tables", body)
        self.assertEqual(self.ask(5, "/")[0].headers["Location"], "/en/")
        self.assertEqual(self.ask(5, "/en/mark.svg")[0].headers["Content-Type"], "text/plain")

    def test_faults_for_practice(self):
        for switch, path, name, value in (
            ("have icons kept for a year", "/apple-touch-icon.png", "Cache-Control", "max-age=31536000"),
            ("answer /favicon.ico with a page", "/favicon.ico", "Content-Type", "text/html"),
            ("send pictures as text", "/apple-touch-icon.png", "Content-Type", "text/plain"),
            ("send visitors on once", "/swap.html?a=1", "Location", "/swap.html?a=1&sent-on"),
            ("send visitors on once", "/swap.html?sent-on", "Content-Type", "text/html"),
            ("answer visitors slowly", "/swap.html", "Content-Type", "text/html"),
            ("behave", "/apple-touch-icon.png", "Content-Type", "image/png"),
        ):
            body = f"switch={switch.replace(' ', '+').replace('/', '%2F')}"
            self.ask(0, "/mischief", "POST", {"Content-Length": str(len(body))}, body)
            self.assertEqual(self.ask(2, path)[0].headers[name], value, switch)
