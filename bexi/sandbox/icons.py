"""Looking at icon files that a site has or serves."""

from bexi.core.artwork.detection import detect
from bexi.core.errors import ArtworkRefused
from bexi.core.livesite.icon_file import IconFile, look_at
from bexi.sandbox.children import in_sandbox


def look_apart(data: bytes) -> IconFile:
    """What a file is, by its content, found out in the sandbox; one that cannot be read says why."""
    try:
        return in_sandbox(look_at, data)
    except ArtworkRefused as refusal:
        return IconFile(detect(data), (), True, len(data), refusal.sentence)
