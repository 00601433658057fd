from unittest import TestCase, mock

from bexi.core.errors import HostRefused
from bexi.hosts.place import CLEAR_TEXT, ClearText, Place
from bexi.hosts.sftp import SftpStorage


class AccountTests(TestCase):
    def test_the_same_account_is_the_same_server_user_and_kind(self):
        place = Place.parse("sftp://u@h/a")
        for other, same in (
            ("sftp://u@h:22/b", True),
            ("sftp://v@h/a", False),
            ("sftp://u@g/a", False),
            ("sftp://u@h:23/a", False),
            ("ftps://u@h/a", False),
            ("/a", False),
        ):
            self.assertEqual(place.is_same_account(Place.parse(other)), same, other)

    def test_clear_text_is_agreed_to_like_a_key(self):
        asked = ClearText(Place.parse("ftp://u@h/a"))
        self.assertEqual((asked.code, asked.fingerprint), ("clear-text", CLEAR_TEXT))


class FromLoginTests(TestCase):
    """An SFTP server whose account begins in /home/u, answered for by the test."""

    def found(self, path: str, there: set[str]) -> SftpStorage:
        storage = SftpStorage.__new__(SftpStorage)
        storage.place_note = ""
        storage._sftp = mock.Mock()
        storage._sftp.normalize = lambda path: path if path.startswith("/") else f"/home/u/{path}".rstrip("/.")

        def listdir(path: str) -> list[str]:
            if path not in there:
                raise FileNotFoundError(path)
            return []

        storage._sftp.listdir = listdir
        storage._root = storage._found(path)
        return storage

    def test_from_the_top_first_then_from_where_the_account_begins(self):
        both = {"/www", "/home/u/www"}
        self.assertEqual((self.found("/www", both)._root, self.found("/www", both).place_note), ("/www", ""))
        storage = self.found("/www", {"/home/u/www"})
        self.assertEqual(storage._root, "/home/u/www")
        self.assertIn("/home/u/www, from where this account begins, was taken", storage.place_note)
        with self.assertRaises(HostRefused):
            self.found("/www", set())

    def test_a_path_that_is_no_place_is_refused(self):
        with self.assertRaises(HostRefused):
            Place.parse("sftp://h:99999/")
