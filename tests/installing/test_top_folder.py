from unittest import TestCase

from bexi.hosts.careful import CarefulHost
from bexi.installing.top_folder import warning_about
from tests.installing.places import MemoryStorage

SERVED = {"/style.css": b"p{}", "/pics/boat.png": b"boat", "/shop/cart.js": b"cart"}


class TopFolderTests(TestCase):
    def told(self, files: dict[str, bytes], path: str = "/home/ferry/www") -> str:
        return warning_about(CarefulHost(MemoryStorage(files)), path, SERVED.get)

    def test_the_top_folder_gets_no_warning(self):
        self.assertEqual(self.told({"style.css": b"p{}", "pics/boat.png": b"boat"}), "")

    def test_a_folder_inside_it_is_named(self):
        self.assertIn("served at /shop/cart.js", self.told({"cart.js": b"cart"}, "/home/ferry/www/shop"))
        self.assertIn("lies inside", self.told({"boat.png": b"boat"}, "/home/ferry/www/pics"))

    def test_a_folder_above_it_is_named(self):
        self.assertIn("Choose public_html itself", self.told({"public_html/style.css": b"p{}", "mail/a.txt": b"x"}))

    def test_what_cannot_be_told_gets_no_warning(self):
        self.assertEqual(self.told({"index.html": b"page"}), "")
        self.assertEqual(self.told({"other.css": b"never served"}), "")
