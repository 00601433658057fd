"""What a web process does when it begins, so that nobody waits for it."""

from unittest import TestCase, mock

from bexi.core.artwork.treatment import AS_IT_IS
from bexi.sandbox.measuring import measure_file
from bexi.server import getting_warm
from bexi.server.artwork.reading import read_apart
from bexi.server.problems import Busy
from tests.pictures import BLUE_DISC


class WarmTests(TestCase):
    def test_a_reader_waits_for_the_first_picture(self):
        getting_warm.get_warm()
        with mock.patch("bexi.sandbox.children._Child", side_effect=AssertionError("one more was started")):
            measured = read_apart(measure_file, "disc.svg", BLUE_DISC, AS_IT_IS)
        self.assertTrue(measured.facts["vector"])

    def test_a_reader_that_does_not_start_is_told_and_the_rest_is_done(self):
        with (
            mock.patch.object(getting_warm, "read_apart", side_effect=Busy("reading", "Too many read pictures.")),
            mock.patch.object(getting_warm, "initials_face") as last,
            self.assertLogs("bexi.server.getting_warm", "WARNING"),
        ):
            getting_warm.get_warm()
        last.assert_called_once()
