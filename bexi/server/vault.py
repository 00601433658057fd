"""Secrets sealed with a key that lies outside the database: in the environment, or in a file of its owner's alone."""

import os
from contextlib import suppress

from cryptography.fernet import Fernet, InvalidToken
from django.conf import settings

from bexi.core.errors import HostRefused


def seal(secret: str) -> str:
    """The secret as text that says nothing without the key; an empty one stays empty."""
    return _fernet().encrypt(secret.encode()).decode() if secret else ""


def unseal(sealed: str) -> str:
    """The secret again; raises HostRefused when the key is not the one it was sealed with."""
    try:
        return _fernet().decrypt(sealed.encode()).decode() if sealed else ""
    except InvalidToken as error:
        raise HostRefused(
            "secret-lost", "The kept password cannot be read with this Bexi's key any more. Enter it again."
        ) from error


def _fernet() -> Fernet:
    """With the key from the environment, else that of a file, which is made when there is none."""
    try:
        return Fernet(settings.VAULT_KEY or _key_of_file())
    except ValueError as error:
        raise HostRefused(
            "key-unusable",
            "The key that secrets are sealed with (BEXI_KEY or its file) is none: it must be 32 bytes in URL-safe "
            "base64. `bexi key` makes one.",
        ) from error


def _key_of_file() -> bytes:
    file = settings.VAULT_KEY_FILE
    if not file.exists():
        aside = file.with_name(f"{file.name}.{os.getpid()}")
        with os.fdopen(os.open(aside, os.O_WRONLY | os.O_CREAT, 0o600), "wb") as target:
            target.write(Fernet.generate_key())
        with suppress(FileExistsError):  # another process was first; its key is the one
            os.link(aside, file)
        aside.unlink()
    return bytes(file.read_bytes())
