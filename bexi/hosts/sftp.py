"""A site on a server reached by SFTP, with a password or a private key."""

import base64
import hashlib
import io
import logging
import posixpath
import socket
import stat
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from itertools import islice

import paramiko

from bexi.core.errors import HostRefused
from bexi.hosts.asking import connected
from bexi.hosts.place import Place, UnknownServer, from_login
from bexi.hosts.protocol import DEEPEST, MOST_FILES

logging.getLogger("paramiko").setLevel(logging.CRITICAL)  # what fails is told by a HostRefused
TIMEOUT_SECONDS = 20
_KEYS = (paramiko.Ed25519Key, paramiko.ECDSAKey, paramiko.RSAKey)


class SftpStorage:
    """The folder `path` of an account. The secret is a password, or a private key in PEM or OpenSSH form."""

    def __init__(self, place: Place, secret: str) -> None:
        self._place = place
        self._folders: dict[str, str] = {}
        self._plain: set[str] = set()  # files that are known to be no links, so that they need not be asked for
        self.place_note = ""
        with self._told("The server cannot be reached"):
            self._transport = paramiko.Transport(_socket(place))
        try:
            with self._told("The server cannot be reached"):
                self._enter(secret)
                client = paramiko.SFTPClient.from_transport(self._transport)
            if client is None:
                raise HostRefused("host-failed", f"{place.host} offers no SFTP.")
            self._sftp = client
            if channel := client.get_channel():
                channel.settimeout(TIMEOUT_SECONDS)
            with self._told(f"There is no folder {place.path} in this account"):
                self._root = self._found(place.path)
        except HostRefused:
            self._transport.close()
            raise

    def close(self) -> None:
        """See OpenStorage."""
        self._transport.close()

    def walk(self) -> Iterator[str]:
        """See Storage."""
        yield from self._walk("", 0)

    def get(self, path: str, most: int) -> bytes | None:
        """See Storage."""
        with self._told(f"{path} cannot be read"):
            try:
                with self._sftp.open(self._locate(path), "rb") as file:
                    return file.read(most)
            except FileNotFoundError:
                return None

    def put(self, path: str, data: bytes) -> None:
        """See Storage."""
        with self._told(f"{path} cannot be written"):
            self._sftp.putfo(io.BytesIO(data), self._locate(path), len(data), confirm=False)

    def move(self, old: str, new: str) -> None:
        """See Storage."""
        with self._told(f"{new} cannot be written"):
            source, target = self._locate(old), self._locate(new)
            try:
                self._sftp.posix_rename(source, target)  # OpenSSH's extension: over an existing file
            except (OSError, EOFError) as error:
                if not self._transport.is_active():
                    raise
                raise HostRefused("cannot-rename", f"The server does not rename {old}: {error}.") from error

    def remove(self, path: str) -> None:
        """See Storage."""
        with self._told(f"{path} cannot be removed"), suppress(FileNotFoundError):
            self._sftp.remove(self._locate(path))

    def _enter(self, secret: str) -> None:
        self._transport.banner_timeout = self._transport.auth_timeout = TIMEOUT_SECONDS
        self._transport.start_client(timeout=TIMEOUT_SECONDS)
        key = self._transport.get_remote_server_key().asbytes()
        # As `ssh-keygen -l` prints it.
        fingerprint = "SHA256:" + base64.b64encode(hashlib.sha256(key).digest()).decode().rstrip("=")
        if fingerprint != self._place.trusted:
            raise UnknownServer(self._place, fingerprint)
        if secret.lstrip().startswith("-----BEGIN"):
            self._transport.auth_publickey(self._place.user, _private_key(secret))
        else:
            self._transport.auth_password(self._place.user, secret)

    def _found(self, path: str) -> str:
        """The top folder: from the top of the server, or else from where this account begins."""
        for tried in (path, path.lstrip("/") or "."):
            try:
                root = self._sftp.normalize(tried)
                self._sftp.listdir(root)
            except OSError:
                if not tried.startswith("/"):
                    raise
                continue
            self.place_note = "" if tried == path else from_login(path, root)
            return root
        raise FileNotFoundError(path)

    def _walk(self, folder: str, depth: int) -> Iterator[str]:
        if depth >= DEEPEST:
            return
        folders = []
        with self._told("The files cannot be listed"):
            listed = list(islice(self._sftp.listdir_iter(posixpath.join(self._root, folder)), MOST_FILES + 1))
        for attributes in listed:
            name, mode = attributes.filename, attributes.st_mode or 0
            path = f"{folder}/{name}" if folder else name
            if stat.S_ISDIR(mode) and not name.startswith("."):
                folders.append(path)
            elif stat.S_ISREG(mode):
                self._plain.add(path)
                yield path
        for inner in sorted(folders):
            yield from self._walk(inner, depth + 1)

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

    @contextmanager
    def _told(self, what: str) -> Iterator[None]:
        try:
            yield
        except paramiko.AuthenticationException as error:
            raise HostRefused(
                "wrong-secret", f"{self._place.host} does not accept this user with this password or key."
            ) from error
        except UnicodeError as error:
            raise HostRefused(
                "odd-name", f"{what}: there is a name in it that is no UTF-8 text. Rename that file, then try again."
            ) from error
        except (paramiko.SSHException, OSError, EOFError) as error:
            reason = str(error).strip().rstrip(".") or type(error).__name__
            raise HostRefused("host-failed", f"{what}: {reason}.") from error


def _socket(place: Place) -> socket.socket:
    return connected(
        place.host, place.port, lambda address: socket.create_connection((address, place.port), TIMEOUT_SECONDS)
    )


def _private_key(text: str) -> paramiko.PKey:
    for kind in _KEYS:
        try:
            return kind.from_private_key(io.StringIO(text))
        except (paramiko.SSHException, ValueError):
            continue
    raise HostRefused(
        "unknown-key", "This is no private key Bexi can read. Give an Ed25519, ECDSA or RSA key without a passphrase."
    )
