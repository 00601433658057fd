"""How much a picture may ask of the machine."""

from dataclasses import dataclass


@dataclass(frozen=True)
class Limits:
    """Upper bounds for one picture: file bytes, decoded pixels, SVG elements and nesting, every reuse followed."""

    file_bytes: int = 40 * 1024 * 1024
    pixels: int = 64_000_000
    svg_elements: int = 50_000
    svg_depth: int = 200


DEFAULT_LIMITS = Limits()
