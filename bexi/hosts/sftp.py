"""A site on a server reached by SFTP, with a password or a private key."""

import io
import logging
import posixpath
import stat
from collections.abc import Iterator
from contextlib import suppress

import paramiko

from bexi.core.errors import HostRefused
from bexi.hosts.guarded import quoted
from bexi.hosts.line import TIMEOUT_SECONDS, Line
from bexi.hosts.place import Place, UnknownServer, fingerprint_of, from_login
from bexi.hosts.protocol import DEEPEST, MOST_FILES, Folders, is_plain_name
from bexi.hosts.secret import Secret

logging.getLogger("paramiko").setLevel(logging.CRITICAL)  # what fails is told by a HostRefused
_KEYS = (paramiko.Ed25519Key, paramiko.ECDSAKey, paramiko.RSAKey)
_LARGEST_PACKET = 4 * 1024 * 1024
"""In bytes; servers send 256 KB at most [common practice]."""
_LONGEST_NAMES = 32 * 1024 * 1024
"""In characters, of one folder together."""


class _Sftp(paramiko.SFTPClient):
    """A client that takes no packet of a size that no server has a reason to send."""

    def _read_all(self, n: int) -> bytes:
        if n > _LARGEST_PACKET:
            raise paramiko.SFTPError("an oversized packet")
        return super()._read_all(n)  # type: ignore[misc, no-any-return]  # the library tells no types of it


class SftpStorage:
    """The folder `path` of an account. The secret is a password, or a private key in PEM or OpenSSH form."""

    def __init__(self, place: Place, secret: Secret, line: Line) -> None:
        self._place = place
        self._folders: dict[str, str] = {}
        self._plain: set[str] = set()  # files that are known to be no links, so that they need not be asked for
        self.place_note = ""
        self._transport = paramiko.Transport(line.to(place.host, place.port))
        try:
            self._enter(secret)
            client = _Sftp.from_transport(self._transport)
            if client is None:
                raise HostRefused("host-failed", f"{place.host} offers no SFTP.")
            self._sftp = client
            if channel := client.get_channel():
                channel.settimeout(TIMEOUT_SECONDS)
            self._root = self._found(place.path)
        except BaseException:
            self._transport.close()
            raise

    def close(self) -> None:
        """See OpenStorage."""
        self._transport.close()

    def walk(self) -> Iterator[str]:
        """See Storage."""
        yield from self._walk("", 0, Folders())

    def get(self, path: str, most: int) -> bytes | None:
        """See Storage."""
        try:
            with self._sftp.open(self._locate(path), "rb") as file:
                return file.read(most)[:most]
        except FileNotFoundError:
            return None

    def put(self, path: str, data: bytes) -> None:
        """See Storage."""
        self._sftp.putfo(io.BytesIO(data), self._locate(path), len(data), confirm=False)

    def move(self, old: str, new: str) -> None:
        """See Storage."""
        source, target = self._locate(old), self._locate(new)
        try:
            self._sftp.posix_rename(source, target)  # OpenSSH's extension: over an existing file
        except (OSError, EOFError) as error:
            if not self._transport.is_active():
                raise
            raise HostRefused("cannot-rename", f"The server does not rename {old}: {quoted(str(error))}.") from error

    def remove(self, path: str) -> None:
        """See Storage."""
        with suppress(FileNotFoundError):
            self._sftp.remove(self._locate(path))

    def _enter(self, secret: Secret) -> None:
        self._transport.banner_timeout = self._transport.auth_timeout = TIMEOUT_SECONDS
        self._transport.start_client(timeout=TIMEOUT_SECONDS)
        shown = self._transport.get_remote_server_key()
        key = f"{shown.get_name()} {shown.get_base64()}"
        if fingerprint_of(key) != self._place.trusted:
            raise UnknownServer(self._place, key)
        text = secret.reveal(self._place)
        try:
            if text.lstrip().startswith("-----BEGIN"):
                self._transport.auth_publickey(self._place.user, _private_key(text))
            else:
                self._transport.auth_password(self._place.user, text)
        except paramiko.AuthenticationException as error:
            raise HostRefused(
                "wrong-secret", f"{self._place.host} does not accept this user with this password or key."
            ) from error

    def _found(self, path: str) -> str:
        """The top folder: from the top of the server, or else from where this account begins."""
        for tried in (path, path.lstrip("/") or "."):
            try:
                root = self._sftp.normalize(tried)
                self._sftp.listdir(root)
            except OSError as error:
                if tried.startswith("/"):
                    continue
                told = f"There is no folder {path} in this account: {quoted(str(error))}."
                raise HostRefused("host-failed", told) from error
            self.place_note = "" if tried == path else from_login(path, root)
            return root
        raise HostRefused("host-failed", f"There is no folder {path} in this account.")

    def _walk(self, folder: str, depth: int, folders: Folders) -> Iterator[str]:
        if depth >= DEEPEST:
            return
        folders.count(folder)
        inner = []
        for attributes in self._listed(folder):
            name, mode = attributes.filename, attributes.st_mode or 0
            if not is_plain_name(name):
                continue
            path = f"{folder}/{name}" if folder else name
            if stat.S_ISDIR(mode) and not name.startswith("."):
                inner.append(path)
            elif stat.S_ISREG(mode):
                self._plain.add(path)
                yield path
        for path in sorted(inner):
            yield from self._walk(path, depth + 1, folders)

    def _listed(self, folder: str) -> list[paramiko.SFTPAttributes]:
        listed, length = [], 0
        for attributes in self._sftp.listdir_iter(posixpath.join(self._root, folder)):
            listed.append(attributes)
            length += len(attributes.filename) + 1
            if length > _LONGEST_NAMES or len(listed) > MOST_FILES:
                raise HostRefused(
                    "endless-listing",
                    f"{self._place.host} lists a folder without end. Choose the site's own top folder.",
                )
        return listed

    def _locate(self, path: str) -> str:
        """The full path behind every link; refuses one that leads out of the top folder."""
        folder, _, name = path.rpartition("/")
        if folder not in self._folders:
            real = self._sftp.normalize(posixpath.join(self._root, folder))
            self._refuse_outside(path, real)
            self._folders[folder] = real
        full = posixpath.join(self._folders[folder], name)
        if path not in self._plain:
            with suppress(FileNotFoundError):
                if stat.S_ISLNK(self._sftp.lstat(full).st_mode or 0):
                    full = self._sftp.normalize(full)
                    self._refuse_outside(path, full)
        return full

    def _refuse_outside(self, path: str, real: str) -> None:
        if real != self._root and not real.startswith(self._root.rstrip("/") + "/"):
            raise HostRefused("path-outside", f"{path} leads out of the site's folder over a link.")


def _private_key(text: str) -> paramiko.PKey:
    for kind in _KEYS:
        try:
            return kind.from_private_key(io.StringIO(text))
        except (paramiko.SSHException, ValueError):
            continue
    raise HostRefused(
        "unknown-key",
        "This is not a private key Bexi can read. Give an Ed25519, ECDSA or RSA key without a passphrase.",
    )
