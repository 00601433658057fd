"""Secrets sealed with a key that lies outside the database, readable by its owner only."""

import os

from cryptography.fernet import Fernet, InvalidToken
from django.conf import settings

from bexi.core.errors import HostRefused


def seal(secret: str) -> str:
    """The secret as text that says nothing without the key; an empty one stays empty."""
    return Fernet(_key()).encrypt(secret.encode()).decode() if secret else ""


def unseal(sealed: str) -> str:
    """The secret again; raises HostRefused when the key is not the one it was sealed with."""
    try:
        return Fernet(_key()).decrypt(sealed.encode()).decode() if sealed else ""
    except InvalidToken as error:
        raise HostRefused(
            "secret-lost", "The kept password cannot be read with this Bexi's key any more. Enter it again."
        ) from error


def _key() -> bytes:
    try:
        descriptor = os.open(settings.VAULT_KEY, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
    except FileExistsError:
        return bytes(settings.VAULT_KEY.read_bytes())
    with os.fdopen(descriptor, "wb") as target:
        target.write(Fernet.generate_key())
    return bytes(settings.VAULT_KEY.read_bytes())
