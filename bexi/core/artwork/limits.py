"""How much a picture may ask of the machine."""

from dataclasses import dataclass

LARGEST_SIDE = 100_000
"""In px; a longer picture could not be framed."""


@dataclass(frozen=True)
class Limits:
    """Upper bounds for one picture file.

    Bytes; px of its side, and of all its frames together; frames; SVG elements and nesting, every reuse followed.
    """

    file_bytes: int = 40 * 1024 * 1024
    pixels: int = 64_000_000
    side: int = LARGEST_SIDE
    frames: int = 500
    svg_elements: int = 50_000
    svg_depth: int = 200


DEFAULT_LIMITS = Limits()
