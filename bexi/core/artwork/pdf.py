"""The first page of a PDF as a bitmap, on white paper."""

import numpy as np

from bexi.core.artwork.pictures import Bitmap
from bexi.core.errors import ArtworkRefused

LONGEST_SIDE = 2048


def first_page(data: bytes) -> Bitmap:
    """Page one drawn with LONGEST_SIDE px along its longer side; raises ArtworkRefused."""
    import pypdfium2  # on demand: hardly a picture is a PDF

    try:
        with pypdfium2.PdfDocument(data) as document:
            page = document[0]
            scale = LONGEST_SIDE / max(page.get_size())
            pixels = page.render(scale=scale, rev_byteorder=True, prefer_bgrx=True).to_numpy().copy()
    except MemoryError:
        raise
    except Exception as error:
        raise ArtworkRefused(
            "broken-picture",
            "This PDF cannot be read: it is damaged, empty or locked with a password. Export its page as SVG or PNG.",
        ) from error
    opaque = np.full((*pixels.shape[:2], 4), 255, dtype=np.uint8)
    opaque[..., :3] = pixels[..., :3]
    return Bitmap(opaque)
