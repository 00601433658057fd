"""Servers that misbehave: an FTP and an SFTP server of our own, which do as a test says at the command it names."""

import os
import posixpath
import socket
import stat
import struct
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass, field

import paramiko
from paramiko import sftp
from paramiko.common import AUTH_SUCCESSFUL, OPEN_SUCCEEDED

from bexi.hosts.place import CLEAR_TEXT, Place, fingerprint_of

LOOPBACK = "127.0.0.1"
USER, PASSWORD = "ferry", "slack-water"
DRIPS_EVERY = 5.0
"""Seconds between two bytes of a server that drips."""


@dataclass
class Mood:
    """How a server misbehaves.

    `says` are replies by command, sent instead of what it should say; `lists` is what a folder holds; `drips` are
    commands that are answered byte by byte, `cuts` those at which the connection ends, `silent` those that get no
    answer. `asked` is what it was asked, and `logins` the passwords it got.
    """

    says: dict[str, bytes] = field(default_factory=dict)
    lists: Callable[[str], Iterator[bytes]] | None = None
    drips: set[str] = field(default_factory=set)
    cuts: set[str] = field(default_factory=set)
    silent: set[str] = field(default_factory=set)
    files: dict[str, bytes] = field(default_factory=dict)
    asked: list[str] = field(default_factory=list)
    logins: list[str] = field(default_factory=list)
    over: threading.Event = field(default_factory=threading.Event)

    def drip(self, send: Callable[[bytes], object], data: bytes) -> None:
        """Send byte by byte, as long as the test goes on."""
        for byte in data or b" " * 10_000:
            send(bytes([byte]))
            if self.over.wait(DRIPS_EVERY):
                return


@contextmanager
def served(handle: Callable[[socket.socket], None]) -> Iterator[int]:
    """Listen on the loopback address; each connection has a thread of its own. Gives the port."""
    listener = socket.create_server((LOOPBACK, 0))

    def accept() -> None:
        while True:
            try:
                connection, _ = listener.accept()
            except OSError:
                return
            threading.Thread(target=_handled, args=(handle, connection), daemon=True).start()

    threading.Thread(target=accept, daemon=True).start()
    try:
        yield listener.getsockname()[1]
    finally:
        listener.close()


def _handled(handle: Callable[[socket.socket], None], connection: socket.socket) -> None:
    with suppress(OSError, EOFError), connection:
        handle(connection)


@contextmanager
def hostile_ftp(mood: Mood) -> Iterator[Place]:
    """A plain FTP server over the files of a mood (RFC 959, RFC 3659)."""
    with served(lambda connection: _Ftp(mood, connection).run()) as port:
        try:
            yield Place.parse(f"ftp://{USER}@{LOOPBACK}:{port}/www").trusting(CLEAR_TEXT)
        finally:
            mood.over.set()


class _Ftp:
    def __init__(self, mood: Mood, connection: socket.socket) -> None:
        self._mood, self._connection = mood, connection
        self._passive: socket.socket | None = None
        self._renaming = ""

    def run(self) -> None:
        self._reply("220", b"220 ready\r\n")
        for line in self._connection.makefile("rb"):
            command, _, rest = line.rstrip(b"\r\n").decode("utf-8", "replace").partition(" ")
            command = command.upper()
            self._mood.asked.append(command)
            if command in self._mood.cuts:
                return
            if command not in self._mood.silent:
                getattr(self, f"_{command.lower()}", self._unknown)(command, rest)

    def _reply(self, command: str, usual: bytes) -> None:
        said = self._mood.says.get(command, usual)
        if command in self._mood.drips:
            self._mood.drip(self._connection.sendall, said)
        else:
            self._connection.sendall(said)

    def _unknown(self, command: str, rest: str) -> None:
        self._reply(command, b"200 done\r\n")

    def _user(self, command: str, rest: str) -> None:
        self._reply(command, b"331 password?\r\n")

    def _pass(self, command: str, rest: str) -> None:
        self._mood.logins.append(rest)
        self._reply(command, b"230 in\r\n")

    def _pwd(self, command: str, rest: str) -> None:
        self._reply(command, b'257 "/"\r\n')

    def _cwd(self, command: str, rest: str) -> None:
        self._reply(command, b"250 there\r\n" if rest.startswith("/www") else b"550 no\r\n")

    def _pasv(self, command: str, rest: str) -> None:
        self._passive = socket.create_server((LOOPBACK, 0))
        high, low = divmod(self._passive.getsockname()[1], 256)
        self._reply(command, f"227 ok (127,0,0,1,{high},{low})\r\n".encode())

    def _mlsd(self, command: str, rest: str) -> None:
        folder = self._path(rest)
        lists = self._mood.lists or (lambda folder: (f"type=file; {name}\r\n".encode() for name in self._mood.files))
        self._send(command, lists(folder))

    _list = _mlsd

    def _retr(self, command: str, rest: str) -> None:
        data = self._mood.files.get(self._path(rest))
        if data is None:
            self._connection.sendall(b"550 no\r\n")
        else:
            self._send(command, iter([data]))

    def _stor(self, command: str, rest: str) -> None:
        assert self._passive
        self._connection.sendall(b"150 go\r\n")
        data, _ = self._passive.accept()
        with data:
            received = b""
            while chunk := data.recv(65536):
                received += chunk
        self._mood.files[self._path(rest)] = received
        self._reply(command, b"226 kept\r\n")

    def _rnfr(self, command: str, rest: str) -> None:
        self._renaming = self._path(rest)
        self._reply(command, b"350 to?\r\n")

    def _rnto(self, command: str, rest: str) -> None:
        self._mood.files[self._path(rest)] = self._mood.files.pop(self._renaming, b"")
        self._reply(command, b"250 done\r\n")

    def _dele(self, command: str, rest: str) -> None:
        gone = self._mood.files.pop(self._path(rest), None)
        self._reply(command, b"250 gone\r\n" if gone is not None else b"550 no\r\n")

    def _send(self, command: str, pieces: Iterator[bytes]) -> None:
        assert self._passive
        self._connection.sendall(b"150 here\r\n")
        data, _ = self._passive.accept()
        with data:
            for piece in pieces:
                if command in self._mood.drips:
                    self._mood.drip(data.sendall, piece)
                else:
                    data.sendall(piece)
                if self._mood.over.is_set():
                    return
        self._reply(f"after {command}", b"226 sent\r\n")

    @staticmethod
    def _path(rest: str) -> str:
        return rest.removeprefix("/www").lstrip("/")


COMMANDS = {
    "init": sftp.CMD_INIT,
    "realpath": sftp.CMD_REALPATH,
    "opendir": sftp.CMD_OPENDIR,
    "readdir": sftp.CMD_READDIR,
    "close": sftp.CMD_CLOSE,
    "open": sftp.CMD_OPEN,
    "read": sftp.CMD_READ,
    "write": sftp.CMD_WRITE,
    "lstat": sftp.CMD_LSTAT,
    "remove": sftp.CMD_REMOVE,
    "extended": sftp.CMD_EXTENDED,
}
_NAMES = {number: name for name, number in COMMANDS.items()}
_HOST_KEY = paramiko.ECDSAKey.generate()


@contextmanager
def hostile_sftp(mood: Mood) -> Iterator[Place]:
    """An SFTP server over the files of a mood (draft-ietf-secsh-filexfer-02)."""
    transports: list[paramiko.Transport] = []

    def handle(connection: socket.socket) -> None:
        transport = paramiko.Transport(connection)
        transports.append(transport)
        transport.add_server_key(_HOST_KEY)
        transport.set_subsystem_handler("sftp", _Sftp, _Files, mood)
        transport.start_server(server=_Account(mood), event=threading.Event())
        mood.over.wait()

    with served(handle) as port:
        key = f"{_HOST_KEY.get_name()} {_HOST_KEY.get_base64()}"
        try:
            yield Place.parse(f"sftp://{USER}@{LOOPBACK}:{port}/www").trusting(fingerprint_of(key))
        finally:
            mood.over.set()
            for transport in transports:
                transport.close()


class _Account(paramiko.ServerInterface):
    def __init__(self, mood: Mood) -> None:
        self._mood = mood

    def check_auth_password(self, username: str, password: str) -> int:
        self._mood.logins.append(password)
        return AUTH_SUCCESSFUL

    def check_channel_request(self, kind: str, chanid: int) -> int:
        return OPEN_SUCCEEDED


class _Sftp(paramiko.SFTPServer):
    """Answers as the mood says: a raw body instead of an answer, byte by byte, never, or by ending it all."""

    def __init__(self, channel, name, server, files, mood: Mood) -> None:
        super().__init__(channel, name, server, files, mood)
        self._mood = mood
        self._now = ""

    def _send_server_version(self):
        self._now = "init"
        return super()._send_server_version()

    def _process(self, t, request_number, msg):
        self._now = _NAMES.get(t, "")
        self._mood.asked.append(self._now)
        if self._now in self._mood.cuts:
            self.sock.get_transport().close()
            return
        if self._now in self._mood.silent:
            return
        super()._process(t, request_number, msg)

    def _send_packet(self, t, packet):
        raw = self._mood.says.get(self._now)
        body = bytes([t]) + bytes(packet if isinstance(packet, bytes) else packet.asbytes())
        whole = struct.pack(">I", len(body)) + body if raw is None else raw
        if self._now in self._mood.drips:
            threading.Thread(target=self._mood.drip, args=(self._quietly, whole), daemon=True).start()
        else:
            self.sock.sendall(whole)

    def _quietly(self, data: bytes) -> None:
        with suppress(OSError, EOFError):
            self.sock.sendall(data)


class _Files(paramiko.SFTPServerInterface):
    def __init__(self, server, mood: Mood) -> None:
        super().__init__(server)
        self._mood = mood

    def canonicalize(self, path: str) -> str:
        return posixpath.normpath(posixpath.join("/", path))

    def list_folder(self, path: str):
        if self._mood.lists is None:
            return [self._attributes(name.rpartition("/")[2]) for name in self._mood.files]
        return _Endless(self._mood.lists(path))

    def lstat(self, path: str):
        return self._attributes(path) if self._key(path) in self._mood.files else sftp.SFTP_NO_SUCH_FILE

    stat = lstat

    def open(self, path: str, flags: int, attr):
        key = self._key(path)
        if not flags & (os.O_WRONLY | os.O_RDWR) and key not in self._mood.files:
            return sftp.SFTP_NO_SUCH_FILE
        return _Handle(self._mood, key, flags)

    def remove(self, path: str) -> int:
        return sftp.SFTP_OK if self._mood.files.pop(self._key(path), None) is not None else sftp.SFTP_NO_SUCH_FILE

    def posix_rename(self, oldpath: str, newpath: str) -> int:
        self._mood.files[self._key(newpath)] = self._mood.files.pop(self._key(oldpath))
        return sftp.SFTP_OK

    @staticmethod
    def _key(path: str) -> str:
        return path.removeprefix("/www").lstrip("/")

    @staticmethod
    def _attributes(name: str) -> paramiko.SFTPAttributes:
        attributes = paramiko.SFTPAttributes()
        attributes.filename, attributes.st_mode, attributes.st_size = name, stat.S_IFREG | 0o644, 2**62
        return attributes


class _Endless(list):
    """What a folder holds, taken from an iterator that may have no end."""

    def __init__(self, names: Iterator[bytes]) -> None:
        super().__init__([None])
        self._names = names

    def __getitem__(self, part):
        if part.start:  # what is left
            return self
        found = []
        for name in self._names:
            found.append(_named(name))
            if len(found) == 50:
                break
        return found


def _named(name: bytes) -> paramiko.SFTPAttributes:
    attributes = _Files._attributes("x")
    if name.startswith(b"dir:"):
        name, attributes.st_mode = name.removeprefix(b"dir:"), stat.S_IFDIR | 0o755
    attributes.filename = name
    return attributes


class _Handle(paramiko.SFTPHandle):
    def __init__(self, mood: Mood, key: str, flags: int) -> None:
        super().__init__(flags)
        self._mood, self._key = mood, key
        if flags & os.O_TRUNC:
            mood.files[key] = b""

    def read(self, offset: int, length: int):
        data = self._mood.files[self._key][offset : offset + length]
        return data or sftp.SFTP_EOF

    def write(self, offset: int, data: bytes) -> int:
        now = self._mood.files.get(self._key, b"")
        self._mood.files[self._key] = now[:offset].ljust(offset, b"\0") + data
        return sftp.SFTP_OK


def wait_for(condition: Callable[[], bool], seconds: float) -> float:
    """Seconds until a condition holds; raises AssertionError when it does not."""
    begun = time.monotonic()
    while not condition():
        if time.monotonic() - begun > seconds:
            raise AssertionError(f"not within {seconds} s")
        time.sleep(0.05)
    return time.monotonic() - begun
