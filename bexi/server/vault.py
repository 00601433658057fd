"""Secrets sealed with a key that lies outside the database: in the environment, or in a file of its owner's alone.

What is sealed is AES-256-GCM (NIST SP 800-38D) with the account it belongs to as associated data, so that it opens for
no other account; its key is derived from the vault's (HKDF, RFC 5869).
"""

import base64
import os
from contextlib import suppress

from cryptography.exceptions import InvalidTag
from cryptography.fernet import Fernet
from cryptography.hazmat.primitives.ciphers.aead import AESGCM
from cryptography.hazmat.primitives.hashes import SHA256
from cryptography.hazmat.primitives.kdf.hkdf import HKDF
from django.conf import settings

from bexi.core.errors import HostRefused
from bexi.hosts.place import Place
from bexi.hosts.secret import Secret

_FORM = "2:"
_NONCE_BYTES = 12
_KEY_BYTES = 32


def seal(secret: Secret) -> str:
    """The secret as text that says nothing without the key; an empty one stays empty."""
    if not secret.text:
        return ""
    nonce = os.urandom(_NONCE_BYTES)
    sealed = _cipher().encrypt(nonce, secret.text.encode(), secret.account.encode())
    return _FORM + base64.urlsafe_b64encode(nonce + sealed).decode()


def unseal(sealed: str, place: Place) -> Secret:
    """The secret of a place again; raises HostRefused when the key is another, or it belongs to another account."""
    if not sealed:
        return Secret.of(place, "")
    try:
        packed = base64.urlsafe_b64decode(sealed.removeprefix(_FORM))
        text = _cipher().decrypt(packed[:_NONCE_BYTES], packed[_NONCE_BYTES:], place.account.encode())
    except (InvalidTag, ValueError) as error:
        raise HostRefused(
            "secret-lost",
            "The saved password can no longer be read with this Bexi's key, or belongs elsewhere. Enter it again.",
        ) from error
    return Secret.of(place, text.decode())


def _cipher() -> AESGCM:
    """With a key from that of the environment, else from that of a file, which is made when there is none."""
    try:
        key = base64.urlsafe_b64decode(settings.VAULT_KEY or key_of_file())
        if len(key) != _KEY_BYTES:
            raise ValueError
    except ValueError as error:
        raise HostRefused(
            "key-unusable",
            "The key that secrets are sealed with (BEXI_KEY or its file) is not valid: it must be 32 bytes in URL-safe "
            "base64. `bexi key` makes one.",
        ) from error
    return AESGCM(HKDF(SHA256(), _KEY_BYTES, None, b"bexi secrets of places").derive(key))


def key_of_file() -> bytes:
    """The key in its file, which is made when there is none."""
    file = settings.VAULT_KEY_FILE
    if not file.exists():
        aside = file.with_name(f"{file.name}.{os.getpid()}")
        with os.fdopen(os.open(aside, os.O_WRONLY | os.O_CREAT, 0o600), "wb") as target:
            target.write(Fernet.generate_key())
        with suppress(FileExistsError):  # another process was first; its key is the one
            os.link(aside, file)
        aside.unlink()
    return bytes(file.read_bytes())
