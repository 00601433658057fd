"""Whatever a host does, its library's errors become one refusal with a sentence, in bounded time."""

import itertools
import random
import re
import struct
import threading
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from contextlib import AbstractContextManager
from unittest import TestCase, mock

from bexi.core.errors import HostRefused
from bexi.hosts.careful import CarefulHost
from bexi.hosts.opening import opened
from bexi.hosts.patience import Patience, never
from bexi.hosts.place import Place
from bexi.hosts.secret import Secret
from tests.hosts.hostile import COMMANDS, PASSWORD, Mood, hostile_ftp, hostile_sftp, wait_for

PAGE = b"<html><head><title>a</title></head></html>"
QUICK = 0.7
"""Seconds for a step, where any refusal will do."""
FTP_COMMANDS = ("220", "USER", "PASS", "PWD", "CWD", "TYPE", "PASV", "MLSD", "RETR", "STOR", "RNFR", "RNTO", "DELE")
SERVERS = {"ftp": hostile_ftp, "sftp": hostile_sftp}
Server = Callable[[Mood], AbstractContextManager[Place]]


def reached(place: Place, stop_asked: Callable[[], bool] = never, step: float = 5, whole: float = 20):
    return opened(place, Secret.of(place, PASSWORD), Patience(whole, step, stop_asked))


def everything(host: CarefulHost) -> None:
    """What an installation does."""
    paths = list(host.files())
    host.read("index.html")
    host.write("favicon.ico", b"new")
    host.delete("favicon.ico")
    assert all("/" not in path or path.count("..") == 0 for path in paths)


class HostileTestCase(TestCase):
    def refused(self, server: Server, mood: Mood, step: float = 5, seconds: float = 15) -> HostRefused | None:
        """What everything came to: a refusal with a plain sentence, or nothing; never another error, never late."""
        mood.files.setdefault("index.html", PAGE)
        begun = time.monotonic()
        with server(mood) as place:
            try:
                with reached(place, step=step, whole=4 * step) as host:
                    everything(host)
            except HostRefused as refusal:
                self.assertLess(time.monotonic() - begun, seconds)
                self.assertRegex(refusal.sentence, r"[^.]\.$")
                self.assertNotRegex(refusal.sentence, r"[^\W\d_]Error|Exception|[\x00-\x1f]")
                self.assertNotIn(PASSWORD, refusal.sentence)
                self.assertLess(len(refusal.sentence), 600)
                return refusal
        self.assertLess(time.monotonic() - begun, seconds)
        return None

    def all_refused(self, cases: list[tuple[Server, Mood]], step: float = QUICK) -> list[HostRefused | None]:
        """The same for many, several at once, since most of it is waiting."""
        with ThreadPoolExecutor(8) as pool:
            return list(pool.map(lambda case: self.refused(*case, step, 30), cases))


class RepliesTests(HostileTestCase):
    def test_a_sound_server_refuses_nothing(self):
        for server in SERVERS.values():
            self.assertIsNone(self.refused(server, Mood()))

    def test_replies_of_any_bytes_at_each_ftp_command(self):
        dice = random.Random(7)
        replies = (
            b'257 "/h\xe4user" ge\xf6ffnet\r\n',
            b"550 gibt es nicht: h\xe4\xf6\xfc\r\n",
            b"\0\xff\xfe\r\n",
            b"999 odd\r\n",
            b"abc\r\n",
            b"\r\n",
            b"2\r\n",
            b"227 ok (999,999,1,2,3,4)\r\n",
            b"227 ok (127,0,0,1,0,9)\r\n",
            b"230-\r\n" * 5000,
            b"2" * 20_000 + b"\r\n",
            dice.randbytes(300) + b"\r\n",
        )
        cases = itertools.product(FTP_COMMANDS, replies)
        told = self.all_refused([(hostile_ftp, Mood(says={command: reply})) for command, reply in cases])
        self.assertGreater(len(list(filter(None, told))), len(told) // 2)

    def test_a_latin_1_reply_is_quoted_as_text(self):
        refusal = self.refused(hostile_ftp, Mood(says={"CWD": b"550 Verzeichnis fehlt: h\xe4user\r\n"}))
        self.assertIn("häuser", refusal.sentence)

    def test_packets_of_any_bytes_at_each_sftp_command(self):
        dice = random.Random(8)
        packets = (
            b"\xff\xff\xff\xff" + bytes(100),
            b"\0\0\0\0",
            b"\0\0\0\x05\x68\0\0\0\x01",
            b"\0\0\0\x09\x68\0\0\0\x01\xff\xff\xff\xff",
            b"\0\0\0\x0d\x65\0\0\0\x01\0\0\0\x63\xff\xff\xff\xff",
            b"\0\0\0\x40" + dice.randbytes(64),
        )
        cases = itertools.product(COMMANDS, packets)
        self.all_refused([(hostile_sftp, Mood(says={command: raw})) for command, raw in cases])

    def test_cut_at_each_command(self):
        for server, commands in ((hostile_ftp, FTP_COMMANDS[1:]), (hostile_sftp, COMMANDS)):
            self.all_refused([(server, Mood(cuts={command})) for command in commands])

    def test_silence_at_some_commands_is_not_waited_for_without_end(self):
        for server, commands in ((hostile_ftp, ("USER", "MLSD", "RETR")), (hostile_sftp, ("opendir", "read"))):
            told = self.all_refused([(server, Mood(silent={command})) for command in commands], 2)
            self.assertEqual({refusal.code for refusal in told}, {"took-too-long"})

    def test_what_the_library_raises_is_a_refusal_whatever_it_is(self):
        mood = Mood(files={"index.html": PAGE})
        for error in (
            UnicodeDecodeError("utf-8", b"\xe4", 0, 1, "x"),
            ValueError("odd"),
            OSError(5, "I/O"),
            KeyError(1),
            struct.error("odd"),
            RecursionError(),
        ):
            with (
                hostile_ftp(mood) as place,
                mock.patch("ftplib.FTP.retrbinary", side_effect=error),
                self.assertRaises(HostRefused),
                reached(place) as host,
            ):
                host.read("index.html")

    def test_a_name_that_cannot_be_resolved_is_a_refusal(self):
        for error in (OSError(-2, "Name or service not known"), UnicodeError("label too long")):
            with mock.patch("bexi.hosts.asking.resolve", side_effect=error):
                for kind in ("ftp", "sftp", "ftps"):
                    with self.assertRaises(HostRefused) as caught:
                        place = Place.parse(f"{kind}://u@nowhere.example/x").trusting("clear-text")
                        with reached(place):
                            pass
                    self.assertEqual(caught.exception.code, "host-failed")


class ListingTests(HostileTestCase):
    def test_listings_without_end(self):
        for server, line in ((hostile_ftp, b"type=file; %d.html\r\n"), (hostile_sftp, b"%d.html")):

            def endless(folder: str, line: bytes = line):
                return (line % number * 1 for number in itertools.count())

            refusal = self.refused(server, Mood(lists=endless), seconds=60)
            self.assertIn(refusal.code, ("endless-listing", "took-too-long"))

    def test_folders_within_folders_without_end(self):
        with mock.patch("bexi.hosts.protocol.MOST_FOLDERS", 200):
            for server, names in (
                (hostile_ftp, [b"type=dir; %d\r\n" % number for number in range(9)]),
                (hostile_sftp, [b"dir:%d" % number for number in range(9)]),
            ):
                refusal = self.refused(server, Mood(lists=lambda folder, names=names: iter(names)), seconds=60)
                self.assertIn(refusal.code, ("endless-listing", "took-too-long"))

    def test_odd_names_reach_nothing_outside(self):
        names = (
            b"../up",
            b"a/b",
            b"/etc/passwd",
            b"..",
            b".",
            b"",
            b"a\nb",
            b"a\0b",
            b"h\xe4",
            b"x" * 5000,
            b"-rf",
            b"a\\b",
        )
        for server, begins in ((hostile_ftp, (b"type=file; ", b"type=dir; ")), (hostile_sftp, (b"", b"dir:"))):
            for begin in begins:
                lines = [begin + name + (b"\r\n" if server is hostile_ftp else b"") for name in names]

                def listing(folder: str, lines: list[bytes] = lines):
                    return iter(lines if not folder.strip("/") or folder == "/www" else [])

                mood = Mood(lists=listing, files={"index.html": PAGE})
                with server(mood) as place:
                    try:
                        with reached(place) as host:
                            found = list(host.files())
                    except HostRefused:
                        continue
                self.assertEqual([path for path in found if re.search(r"\.\.|^/|[\x00-\x1f\\]", path)], [], begin)


class DrippingTests(HostileTestCase):
    """One byte each five seconds."""

    CASES = (
        (hostile_ftp, "RETR"),
        (hostile_ftp, "MLSD"),
        (hostile_ftp, "PWD"),
        (hostile_ftp, "220"),
        (hostile_sftp, "read"),
        (hostile_sftp, "readdir"),
        (hostile_sftp, "init"),
    )

    def test_stop_ends_it_within_three_seconds(self):
        for server, command in self.CASES:
            mood, stopped = Mood(drips={command}, files={"index.html": PAGE}), threading.Event()
            ended: list[HostRefused] = []
            with server(mood) as place:

                def work(place: Place = place, ended: list = ended, stopped: threading.Event = stopped) -> None:
                    try:
                        with reached(place, stopped.is_set, step=60, whole=600) as host:
                            everything(host)
                    except HostRefused as refusal:
                        ended.append(refusal)

                thread = threading.Thread(target=work)
                thread.start()
                time.sleep(1)
                self.assertTrue(thread.is_alive(), command)
                stopped.set()
                took = wait_for(lambda thread=thread: not thread.is_alive(), 3)
            self.assertEqual(ended[0].code, "stopped", (command, took))

    def test_the_end_of_a_step_ends_it(self):
        told = self.all_refused([(server, Mood(drips={command})) for server, command in self.CASES], 2)
        self.assertEqual({refusal.code for refusal in told}, {"took-too-long"})

    def test_the_end_of_the_whole_ends_what_goes_on_step_by_step(self):
        mood = Mood(files={f"{number}.html": PAGE for number in range(2000)})
        with (
            hostile_ftp(mood) as place,
            self.assertRaises(HostRefused) as caught,
            reached(place, step=5, whole=1.5) as host,
        ):
            for path in itertools.cycle(mood.files):
                host.read(path)
        self.assertEqual(caught.exception.code, "took-too-long")

    def test_work_that_does_not_even_end_then_has_its_process_ended(self):
        ended = threading.Event()
        patience = Patience(0.3, 60, hung=ended.set)
        with mock.patch("bexi.hosts.patience._GRACE_SECONDS", 0.2):
            from bexi.hosts.guarded import GuardedStorage

            class Stubborn:
                place_note = ""

                def get(self, path: str, most: int) -> bytes:
                    ended.wait(60)
                    return b""

                def close(self) -> None:
                    pass

            storage = GuardedStorage(lambda line: Stubborn(), patience)
            storage.get("a", 1)
            self.assertTrue(ended.is_set())
            storage.close()


class SecretsTests(HostileTestCase):
    def test_a_secret_reaches_its_own_account_alone(self):
        for server in SERVERS.values():
            mood = Mood()
            with server(mood) as place:
                other = Secret.of(Place.parse("sftp://somebody@elsewhere.example/www"), PASSWORD)
                with self.assertRaises(HostRefused) as caught, opened(place, other, Patience(8, 4)):
                    pass
                self.assertEqual((caught.exception.code, mood.logins), ("secret-of-another-place", []))
                self.assertNotIn(PASSWORD, repr(other))

    def test_data_connections_go_where_the_first_one_went(self):
        """A PASV answer may name another machine (the bounce attack, RFC 2577 §3): its address is not believed."""
        connected = []
        real = __import__("bexi.hosts.line", fromlist=["Line"]).Line.further

        def further(line, address, port):
            connected.append(address)
            return real(line, address, port)

        with mock.patch("bexi.hosts.line.Line.further", further):
            self.refused(hostile_ftp, Mood(says={"PASV": b"227 ok (192,0,2,9,0,9)\r\n"}))
        self.assertEqual(set(connected), {"127.0.0.1"})
