"""Bytes kept on disk by their own hash: stored once, never changed."""

import hashlib
import os
import tempfile
from pathlib import Path

from django.conf import settings


def put(data: bytes) -> str:
    """Keep bytes; returns their SHA-256, hexadecimal."""
    sha256 = hashlib.sha256(data).hexdigest()
    file = _file(sha256)
    if not file.exists():
        file.parent.mkdir(parents=True, exist_ok=True)
        descriptor, temporary = tempfile.mkstemp(dir=file.parent)
        with os.fdopen(descriptor, "wb") as target:
            target.write(data)
        Path(temporary).replace(file)
    return sha256


def get(sha256: str) -> bytes:
    """The bytes with this hash; raises FileNotFoundError."""
    return _file(sha256).read_bytes()


def _file(sha256: str) -> Path:
    return Path(settings.BLOB_FOLDER) / sha256[:2] / sha256
