from unittest import TestCase

from bexi.core.errors import HostRefused
from bexi.hosts.careful import CarefulHost, part_of
from bexi.hosts.protocol import LARGEST_FILE
from tests.installing.places import MemoryStorage


class WithoutRenaming(MemoryStorage):
    def move(self, old: str, new: str) -> None:
        raise HostRefused("cannot-rename", "No.")


class Mangling(MemoryStorage):
    """A place that stores other bytes than it was given, as FTP in text mode does."""

    def put(self, path: str, data: bytes) -> None:
        super().put(path, data.replace(b"\n", b"\r\n"))


class Lying(MemoryStorage):
    """A place that gives more bytes than a file may have."""

    def get(self, path: str, most: int) -> bytes | None:
        return bytes(most)


class CarefulTests(TestCase):
    def test_a_file_is_written_aside_and_renamed(self):
        seen = []

        class Watched(MemoryStorage):
            def put(self, path: str, data: bytes) -> None:
                seen.append(path)
                super().put(path, data)

        storage = Watched({"a/b.html": b"old"})
        CarefulHost(storage).write("a/b.html", b"new")
        self.assertEqual((seen, storage.contents), ([part_of("a/b.html")], {"a/b.html": b"new"}))
        self.assertTrue(seen[0].startswith("a/.bexi-"))

    def test_a_place_that_cannot_rename_gets_it_in_place(self):
        storage = WithoutRenaming({"a.html": b"old"})
        CarefulHost(storage).write("a.html", b"new")
        self.assertEqual(storage.contents, {"a.html": b"new"})

    def test_what_reads_back_differently_never_takes_the_old_files_place(self):
        storage = Mangling({"a.html": b"old"})
        with self.assertRaises(HostRefused) as caught:
            CarefulHost(storage).write("a.html", b"one\ntwo")
        self.assertEqual((caught.exception.code, storage.contents), ("not-as-written", {"a.html": b"old"}))

    def test_files_without_end_are_refused(self):
        with self.assertRaises(HostRefused) as caught:
            CarefulHost(Lying({})).read("a.html")
        self.assertEqual(caught.exception.code, "file-too-large")
        self.assertGreater(LARGEST_FILE, 8 * 1024 * 1024)

    def test_left_over_parts_are_not_listed_and_can_be_swept(self):
        storage = MemoryStorage({"a.html": b"a", part_of("a.html"): b"half"})
        host = CarefulHost(storage)
        self.assertEqual(list(host.files()), ["a.html"])
        host.sweep("a.html")
        self.assertEqual(storage.contents, {"a.html": b"a"})

    def test_unsafe_paths_are_refused_everywhere(self):
        host = CarefulHost(MemoryStorage({}))
        for path in ("../a", "/a", "a//b", "a/./b", "", "a\n", "a\\b", "\u202ea"):
            for act in (host.read, host.delete, host.sweep, lambda path: host.write(path, b"")):
                with self.assertRaises(HostRefused) as caught:
                    act(path)
                self.assertEqual(caught.exception.code, "path-outside", path)
