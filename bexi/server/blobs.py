"""Bytes kept by their own hash: stored once, never changed. In a folder, or wherever BEXI_BLOBS says."""

import hashlib

from django.core.files.base import ContentFile
from django.core.files.storage import storages


def put(data: bytes) -> str:
    """Keep bytes; returns their SHA-256, hexadecimal. They are stored before anything can point at them."""
    sha256 = hashlib.sha256(data).hexdigest()
    name, storage = _name(sha256), storages["blobs"]
    if not storage.exists(name):
        storage.save(name, ContentFile(data))
    return sha256


def get(sha256: str) -> bytes:
    """The bytes with this hash; raises FileNotFoundError."""
    with storages["blobs"].open(_name(sha256)) as file:
        return bytes(file.read())


def _name(sha256: str) -> str:
    return f"{sha256[:2]}/{sha256}"
