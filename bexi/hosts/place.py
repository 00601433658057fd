"""Where a site lives, as an address: a folder, or an account on a server."""

import base64
import hashlib
from dataclasses import dataclass, replace
from pathlib import Path
from urllib.parse import quote, unquote, urlsplit

from bexi.core.errors import HostRefused
from bexi.hosts.kinds import PlaceKind


@dataclass(frozen=True)
class Place:
    """A site's top folder.

    `trusted` is the fingerprint of the server's key or certificate that was agreed to, or CLEAR_TEXT where it has none.
    """

    kind: PlaceKind
    path: str
    host: str = ""
    port: int = 0
    user: str = ""
    trusted: str = ""

    @classmethod
    def parse(cls, text: str) -> "Place":
        """Read a folder's path, or `ftp://`, `ftps://` or `sftp://user@host[:port]/folder`; raises HostRefused."""
        scheme = text.split("://", 1)[0].lower() if "://" in text else ""
        if not scheme:
            return cls(PlaceKind.FOLDER, text)
        kind = next((kind for kind in PlaceKind if kind == scheme and kind.port), None)
        try:
            parts = urlsplit(text)
            port = parts.port
        except ValueError:
            parts, port = urlsplit(""), None
        if not kind or not parts.hostname:
            raise HostRefused(
                "unknown-place",
                f"“{text.split('@')[-1][:60]}” is not a location Bexi can reach: give a folder, or an address like "
                "sftp://user@host/folder, ftps:// or ftp://.",
            )
        if parts.password is not None:
            raise HostRefused(
                "secret-in-address",
                "Leave the password out of the address; it is asked for separately and never shown.",
            )
        path = unquote(parts.path) or "/"
        return cls(kind, path, parts.hostname, port or kind.port, unquote(parts.username or ""))

    def __str__(self) -> str:
        if not self.is_remote:
            return self.path
        port = "" if self.port == self.kind.port else f":{self.port}"
        host = f"[{self.host}]" if ":" in self.host else self.host
        return f"{self.kind}://{quote(self.user)}@{host}{port}{quote(self.path)}"

    @property
    def is_remote(self) -> bool:
        """Whether it is reached over the network, with a secret."""
        return self.kind.port > 0

    @property
    def folder(self) -> Path:
        """The folder on this machine."""
        return Path(self.path)

    @property
    def account(self) -> str:
        """The account it is reached by: what a secret belongs to."""
        return f"{self.kind}://{quote(self.user)}@{self.host.lower()}:{self.port}" if self.is_remote else ""

    @property
    def normal_form(self) -> str:
        """The same for every way to write a place down: the host in lower case, its port, no slash at the end."""
        if not self.is_remote:
            return str(self.folder.resolve())
        return f"{self.account}{quote(self.path.rstrip('/')) or '/'}"

    def is_same_account(self, other: "Place") -> bool:
        """Whether another place is reached by the same account on the same server, so with the same secret."""
        return self.account == other.account

    def trusting(self, fingerprint: str) -> "Place":
        """The same place with an agreed fingerprint."""
        return replace(self, trusted=fingerprint)


class UnknownServer(HostRefused):
    """A server whose key or certificate nobody has agreed to yet, or another one than was agreed to.

    `fingerprint` is told beside the sentence. `key` is its type and itself in base64, as in files of known hosts.
    """

    def __init__(self, place: Place, key: str) -> None:
        fingerprint = fingerprint_of(key)
        changed = bool(place.trusted)
        super().__init__(
            "server-changed" if changed else "unknown-server",
            f"{place.host} shows a different key than before. Ask whoever runs it whether that is right, then continue."
            if changed
            else f"{place.host} is new to Bexi. Compare the fingerprint of its key with what the provider says.",
        )
        self.fingerprint, self.key = fingerprint, key


CERTIFICATE = "x509"
"""The type of a key that is a certificate of TLS."""


def fingerprint_of(key: str) -> str:
    """The fingerprint of a key, `type base64`: as `ssh-keygen -l` prints it, of a certificate in hexadecimal.

    Empty for what is no key.
    """
    kind, _, text = key.strip().partition(" ")
    try:
        digest = hashlib.sha256(base64.b64decode(text, validate=True))
    except ValueError:
        return ""
    if not text:
        return ""
    told = digest.hexdigest() if kind == CERTIFICATE else base64.b64encode(digest.digest()).decode().rstrip("=")
    return f"SHA256:{told}"


CLEAR_TEXT = "clear-text"


class ClearText(UnknownServer):
    """A place where the secret travels for everybody on the way to read, and nobody has agreed to that yet."""

    def __init__(self, place: Place) -> None:
        HostRefused.__init__(
            self,
            "clear-text",
            f"FTP sends the user, the password and every file to {place.host} in clear text: anybody on the way can "
            "read them. Use SFTP or FTPS if the host offers one of them; go on only if it does not.",
        )
        self.fingerprint = self.key = CLEAR_TEXT


def from_login(path: str, taken: str) -> str:
    """What to say when a folder was found from where the account begins, not from the top of the server."""
    return f"There is no {path} from the top of the server; {taken}, from where this account begins, was taken."
