"""A site on an FTP server, plain or over TLS (RFC 959, RFC 3659, RFC 4217)."""

import base64
import codecs
import ftplib
import io
import socket
import ssl
from collections.abc import Iterator
from contextlib import suppress

from bexi.core.errors import HostRefused
from bexi.hosts.ftp_listing import Listed, from_list, from_mlsd
from bexi.hosts.guarded import quoted
from bexi.hosts.line import TIMEOUT_SECONDS, Line
from bexi.hosts.place import (
    CERTIFICATE,
    CLEAR_TEXT,
    ClearText,
    Place,
    UnknownServer,
    fingerprint_of,
    from_login,
)
from bexi.hosts.protocol import DEEPEST, Folders, is_plain_name
from bexi.hosts.secret import Secret

_MISSING = "550"
_LONGEST_LISTING = 32 * 1024 * 1024
"""In bytes, of one folder."""
_MOST_LINES = 1000
"""Of one reply."""
_LATIN_1 = "bexi-latin-1"
codecs.register_error(
    _LATIN_1,
    lambda error: (error.object[error.start : error.end].decode("latin-1"), error.end),  # type: ignore[attr-defined]
)


class _Enough(Exception):
    """As many bytes as were asked for have come."""


class _Ftp(ftplib.FTP_TLS):
    """FTP over a line, with TLS or without. Replies are read as UTF-8 (RFC 2640), and as Latin-1 where they are none.

    Data connections over TLS take up the session of the control connection. Servers as they come ask for that: it
    proves that both are of the same client (RFC 4217 §10.4 [from memory]).
    """

    def __init__(self, line: Line, context: ssl.SSLContext) -> None:
        super().__init__(timeout=TIMEOUT_SECONDS, encoding="utf-8", context=context)
        self._line = line

    def begin(self, place: Place) -> None:
        """Connect and take the server's greeting."""
        self.sock = self._line.to(place.host, place.port)
        self.host, self.af = place.host, self.sock.family
        self._read_replies()
        self.welcome = self.getresp()

    def auth(self) -> str:
        """See ftplib."""
        reply = self.voidcmd("AUTH TLS")
        plain = self.sock
        assert plain is not None  # connected by `begin`
        self.sock = self._line.secured(self.context, plain, server_hostname=self.host)
        self._read_replies()
        return reply

    def ntransfercmd(self, cmd: str, rest: int | str | None = None) -> tuple[socket.socket, int | None]:
        """See ftplib; always passive, and back to the very address that was connected to."""
        _, port = self.makepasv()
        assert self.sock is not None  # connected by `begin`
        connection = self._line.further(self.sock.getpeername()[0], port)
        try:
            reply = self.sendcmd(cmd)
            if reply[0] == "2":  # some servers tell first that a transfer before was aborted
                reply = self.getresp()
            if reply[0] != "1":
                raise ftplib.error_reply(reply)
            if self._prot_p:  # type: ignore[attr-defined]
                session = self.sock.session if isinstance(self.sock, ssl.SSLSocket) else None
                connection = self._line.secured(self.context, connection, server_hostname=self.host, session=session)
        except BaseException:
            connection.close()
            raise
        return connection, None

    def getmultiline(self) -> str:
        """See ftplib; never without end."""
        first = self.getline()
        lines = [first]
        while first[3:4] == "-" and (lines[-1][:3] != first[:3] or lines[-1][3:4] == "-"):
            lines.append(self.getline())
            if len(lines) > _MOST_LINES:
                raise ftplib.error_proto("a reply without end")
        return "\n".join(lines)

    def _read_replies(self) -> None:
        if self.sock:
            self.file = self.sock.makefile("r", encoding="utf-8", errors=_LATIN_1)


class FtpStorage:
    """The folder `path` of an FTP account. One connection; not for several threads."""

    def __init__(self, place: Place, secret: Secret, line: Line) -> None:
        self._place = place
        self._ftp = self._entered(secret, line)
        self.place_note = ""
        self._root = self._found(place.path)
        self._knows_mlsd = True

    def close(self) -> None:
        """See OpenStorage."""
        with suppress(*ftplib.all_errors):
            self._ftp.quit()
        self._ftp.close()

    def walk(self) -> Iterator[str]:
        """See Storage."""
        yield from self._walk("", 0, Folders())

    def get(self, path: str, most: int) -> bytes | None:
        """See Storage."""
        received = io.BytesIO()

        def keep(block: bytes) -> None:
            received.write(block[: most - received.tell()])
            if received.tell() >= most:
                raise _Enough

        try:
            self._ftp.retrbinary(f"RETR {self._full(path)}", keep)
        except _Enough:
            self._end_transfer()
        except ftplib.error_perm as error:
            if str(error).startswith(_MISSING) and not self._is_there(path):
                return None
            raise
        return received.getvalue()

    def put(self, path: str, data: bytes) -> None:
        """See Storage."""
        self._ftp.storbinary(f"STOR {self._full(path)}", io.BytesIO(data))

    def move(self, old: str, new: str) -> None:
        """See Storage."""
        try:
            self._ftp.rename(self._full(old), self._full(new))
        except ftplib.error_perm as error:
            told = f"The server does not rename {old}: {quoted(str(error))}."
            raise HostRefused("cannot-rename", told) from error

    def remove(self, path: str) -> None:
        """See Storage."""
        try:
            self._ftp.delete(self._full(path))
        except ftplib.error_perm:
            if self._is_there(path):
                raise

    def _entered(self, secret: Secret, line: Line) -> _Ftp:
        place = self._place
        if not place.kind.hidden and place.trusted != CLEAR_TEXT:
            raise ClearText(place)
        context = ssl.SSLContext(ssl.PROTOCOL_TLS_CLIENT)
        context.check_hostname, context.verify_mode = False, ssl.CERT_NONE  # checked by its fingerprint, below
        ftp = _Ftp(line, context)
        ftp.begin(place)
        if place.kind.hidden:
            ftp.auth()
            certificate = ftp.sock.getpeercert(binary_form=True) if isinstance(ftp.sock, ssl.SSLSocket) else None
            key = f"{CERTIFICATE} {base64.b64encode(certificate or b'').decode()}"
            if fingerprint_of(key) != place.trusted:
                raise UnknownServer(place, key)
        try:
            ftp.login(place.user, secret.reveal(place), secure=False)  # TLS, if any, stands already
        except ftplib.error_perm as error:
            raise HostRefused("wrong-secret", f"{place.host} does not accept this user and password.") from error
        if place.kind.hidden:
            ftp.prot_p()
        return ftp

    def _found(self, path: str) -> str:
        """The top folder without its last slash: from the top of the server, or else from where this account begins."""
        begins = self._ftp.pwd()
        said = ""
        for tried in (path, f"{begins.rstrip('/')}/{path.strip('/')}"):
            try:
                self._ftp.cwd(tried)
            except ftplib.error_perm as error:
                said = quoted(str(error))
                continue
            self.place_note = "" if tried == path else from_login(path, tried)
            return tried.rstrip("/")
        raise HostRefused("host-failed", f"There is no folder {path} in this account: {said}.")

    def _walk(self, folder: str, depth: int, folders: Folders) -> Iterator[str]:
        if depth >= DEEPEST:
            return
        folders.count(folder)
        inner = []
        for name, is_folder in self._listed(folder):
            if not is_plain_name(name):
                continue
            path = f"{folder}/{name}" if folder else name
            if is_folder and not name.startswith("."):
                inner.append(path)
            elif not is_folder:
                yield path
        for path in sorted(inner):
            yield from self._walk(path, depth + 1, folders)

    def _listed(self, folder: str) -> list[Listed]:
        """What lies in a folder; links are left out."""
        if self._knows_mlsd:
            try:
                return list(from_mlsd(self._lines(f"MLSD {self._full(folder)}")))
            except ftplib.error_perm:
                self._knows_mlsd = False
        return list(from_list(self._lines(f"LIST {self._full(folder)}")))

    def _lines(self, command: str) -> list[bytes]:
        received = io.BytesIO()

        def keep(block: bytes) -> None:
            received.write(block)
            if received.tell() > _LONGEST_LISTING:
                raise HostRefused(
                    "endless-listing",
                    f"{self._place.host} lists a folder without end. Choose the site's own top folder.",
                )

        self._ftp.retrbinary(command, keep)
        return received.getvalue().split(b"\n")

    def _is_there(self, path: str) -> bool:
        folder, _, name = path.rpartition("/")
        try:
            return any(name == known.name for known in self._listed(folder))
        except ftplib.error_perm:
            return False

    def _full(self, path: str) -> str:
        return f"{self._root}/{path}" if path else self._root or "/"

    def _end_transfer(self) -> None:
        """Take the server's word for an end that came early, so that the next command gets its own answer."""
        with suppress(ftplib.Error):
            self._ftp.voidresp()
