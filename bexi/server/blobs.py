"""Bytes kept on disk by their own hash: stored once, never changed."""

import hashlib
from pathlib import Path

from django.conf import settings

from bexi.server.kept_files import keep


def put(data: bytes) -> str:
    """Keep bytes; returns their SHA-256, hexadecimal. They are on the disk before anything can point at them."""
    sha256 = hashlib.sha256(data).hexdigest()
    file = _file(sha256)
    if not file.exists():
        keep(file, data)
    return sha256


def get(sha256: str) -> bytes:
    """The bytes with this hash; raises FileNotFoundError."""
    return _file(sha256).read_bytes()


def _file(sha256: str) -> Path:
    return Path(settings.BLOB_FOLDER) / sha256[:2] / sha256
