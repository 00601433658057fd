"""A site on an FTP server, plain or over TLS (RFC 959, RFC 3659, RFC 4217)."""

import ftplib
import hashlib
import io
import socket
import ssl
from collections.abc import Iterator
from contextlib import contextmanager, suppress

from bexi.core.errors import HostRefused
from bexi.hosts.asking import connected
from bexi.hosts.ftp_listing import Listed, from_list, from_mlsd
from bexi.hosts.place import CLEAR_TEXT, ClearText, Place, UnknownServer, from_login
from bexi.hosts.protocol import DEEPEST

TIMEOUT_SECONDS = 20
_MISSING = "550"
_LONGEST_LISTING = 32 * 1024 * 1024
"""In bytes, of one folder."""


class _Enough(Exception):
    """As many bytes as were asked for have come."""


class _SecureFtp(ftplib.FTP_TLS):
    """FTP over TLS whose data connections take up the session of the control connection.

    Servers as they come ask for that: it proves that both are of the same client (RFC 4217 §10.4 [from memory]).
    """

    def ntransfercmd(self, cmd: str, rest: int | str | None = None) -> tuple[socket.socket, int | None]:
        """See ftplib."""
        connection, size = ftplib.FTP.ntransfercmd(self, cmd, rest)
        if self._prot_p:  # type: ignore[attr-defined]
            control = self.sock.session if isinstance(self.sock, ssl.SSLSocket) else None
            connection = self.context.wrap_socket(connection, server_hostname=self.host, session=control)
        return connection, size


class FtpStorage:
    """The folder `path` of an FTP account. One connection; not for several threads."""

    def __init__(self, place: Place, secret: str) -> None:
        self._place = place
        self.place_note = ""
        with self._told("The server cannot be reached"):
            self._ftp = self._connected(secret)
        with self._told(f"There is no folder {place.path} in this account"):
            self._root = self._found(place.path)
        self._knows_mlsd = True

    def close(self) -> None:
        """See OpenStorage."""
        with suppress(*ftplib.all_errors):
            self._ftp.quit()
        self._ftp.close()

    def walk(self) -> Iterator[str]:
        """See Storage."""
        yield from self._walk("", 0)

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
            raise self._refused(f"{path} cannot be read", error) from error
        except ftplib.all_errors as error:
            raise self._refused(f"{path} cannot be read", error) from error
        return received.getvalue()

    def put(self, path: str, data: bytes) -> None:
        """See Storage."""
        with self._told(f"{path} cannot be written"):
            self._ftp.storbinary(f"STOR {self._full(path)}", io.BytesIO(data))

    def move(self, old: str, new: str) -> None:
        """See Storage."""
        try:
            self._ftp.rename(self._full(old), self._full(new))
        except ftplib.error_perm as error:
            raise HostRefused("cannot-rename", f"The server does not rename {old}: {error}.") from error
        except ftplib.all_errors as error:
            raise self._refused(f"{new} cannot be written", error) from error

    def remove(self, path: str) -> None:
        """See Storage."""
        try:
            self._ftp.delete(self._full(path))
        except ftplib.error_perm as error:
            if self._is_there(path):
                raise self._refused(f"{path} cannot be removed", error) from error
        except ftplib.all_errors as error:
            raise self._refused(f"{path} cannot be removed", error) from error

    def _connected(self, secret: str) -> ftplib.FTP:
        place = self._place
        if not place.kind.hidden:
            if place.trusted != CLEAR_TEXT:
                raise ClearText(place)
            plain = ftplib.FTP(timeout=TIMEOUT_SECONDS, encoding="utf-8")
            connected(place.host, place.port, lambda address: plain.connect(address, place.port))
            plain.login(place.user, secret)
            return plain
        context = ssl.create_default_context()
        context.check_hostname, context.verify_mode = False, ssl.CERT_NONE  # checked by its fingerprint, below
        secure = _SecureFtp(timeout=TIMEOUT_SECONDS, encoding="utf-8", context=context)
        connected(place.host, place.port, lambda address: secure.connect(address, place.port))
        secure.host = place.host  # by which a server tells its certificates apart
        secure.auth()
        certificate = secure.sock.getpeercert(binary_form=True) if isinstance(secure.sock, ssl.SSLSocket) else None
        fingerprint = "SHA256:" + hashlib.sha256(certificate or b"").hexdigest()
        if fingerprint != place.trusted:
            secure.close()
            raise UnknownServer(place, fingerprint)
        secure.login(place.user, secret)
        secure.prot_p()
        return secure

    def _found(self, path: str) -> str:
        """The top folder without its last slash: from the top of the server, or else from where this account begins."""
        begins = self._ftp.pwd()
        for tried in (path, f"{begins.rstrip('/')}/{path.strip('/')}"):
            try:
                self._ftp.cwd(tried)
            except ftplib.error_perm:
                if tried != path:
                    raise
                continue
            self.place_note = "" if tried == path else from_login(path, tried)
            return tried.rstrip("/")
        raise ftplib.error_perm(f"550 {path}")

    def _walk(self, folder: str, depth: int) -> Iterator[str]:
        if depth >= DEEPEST:
            return
        folders = []
        for name, is_folder in self._listed(folder):
            path = f"{folder}/{name}" if folder else name
            if is_folder and not name.startswith("."):
                folders.append(path)
            elif not is_folder:
                yield path
        for inner in sorted(folders):
            yield from self._walk(inner, depth + 1)

    def _listed(self, folder: str) -> list[Listed]:
        """What lies in a folder; links are left out."""
        with self._told("The files cannot be listed"):
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
        except HostRefused:
            return False

    def _full(self, path: str) -> str:
        return f"{self._root}/{path}" if path else self._root or "/"

    def _end_transfer(self) -> None:
        """Take the server's word for an end that came early, so that the next command gets its own answer."""
        with suppress(*ftplib.all_errors):
            self._ftp.voidresp()

    @contextmanager
    def _told(self, what: str) -> Iterator[None]:
        try:
            yield
        except ftplib.all_errors as error:
            raise self._refused(what, error) from error
        except UnicodeError as error:
            raise self._refused(what, error) from error

    def _refused(self, what: str, error: Exception) -> HostRefused:
        if isinstance(error, ftplib.error_perm) and str(error).startswith("530"):
            return HostRefused("wrong-secret", f"{self._place.host} does not accept this user and password.")
        return HostRefused("host-failed", f"{what}: {_plain(error)}.")


def _plain(error: Exception) -> str:
    return str(error).strip().rstrip(".") or type(error).__name__
