"""Whether a first proposal is what a designer would make, told by what of each piece it shows; and a contact sheet."""

from collections.abc import Sequence
from functools import lru_cache

import numpy as np
from PIL import Image, ImageDraw

from bexi.core.artwork.pictures import Bitmap
from bexi.core.artwork.plate import PlateShape
from bexi.core.artwork.vector import render_whole
from bexi.core.framing.recipe import Framing
from bexi.core.judging.groups import groups_of
from bexi.core.judging.proposals import Proposal, propose
from bexi.core.judging.ways_out import Source
from tests.core.judging.brought.drawing import Brought

_WHOLE, _TRACE = 0.97, 0.03
COLUMNS = 4


@lru_cache(maxsize=100)
def first_of(logo: Brought) -> Proposal:
    """What is proposed first for a logo."""
    return propose(Source(logo.picture, groups_of(logo.picture)))[0]


def what_is_wrong(logo: Brought, proposal: Proposal) -> str:
    """In a few words; empty when it is right."""
    first, framing = logo.first, proposal.framing
    if proposal.kind == "letters":
        return "letters of ours"
    shown = _shown(logo, framing)
    for role in sorted(logo.roles):
        mask = logo.mask(role)
        share = float(shown[mask].mean()) if mask.any() else 0.0
        if role in first.shows and share < _WHOLE:
            return f"{role} only {share:.0%}"
        if role not in first.shows | first.may and share > _TRACE:
            return f"{role} {share:.0%} shown"
    stands = _stands(framing)
    return "" if stands in first.stands else f"stands {stands}"


def _stands(framing: Framing) -> str:
    if framing.plate.shape is not PlateShape.NONE:
        return "plate"
    return "free" if framing.ground is None else "own"


def _shown(logo: Brought, framing: Framing) -> np.ndarray:
    """Where the artwork is seen: shape (height, width), bool."""
    height, width = logo.picture.height, logo.picture.width
    shown = np.zeros((height, width), dtype=bool)
    frame, cut = framing.frame, framing.cut
    shown[max(frame.y, 0) : frame.y + frame.side, max(frame.x, 0) : frame.x + frame.side] = True
    if cut:
        left = np.zeros_like(shown)
        left[max(cut.top, 0) : cut.bottom, max(cut.left, 0) : cut.right] = True
        shown &= left
        if cut.outline:
            drawn = Image.new("1", (width, height))
            ImageDraw.Draw(drawn).polygon([(one.x, one.y) for one in cut.outline], fill=1)
            shown &= np.asarray(drawn)
    return shown


def tile_of(logo: Brought, proposal: Proposal, said: str) -> Image.Image:
    """The logo, and its first proposal at 16 and 32 px on both tabs, enlarged five times, with its words."""
    sheet = Image.new("RGB", (490, 146), "#c8c8c8")
    pen = ImageDraw.Draw(sheet)
    picture = _small(logo)
    sheet.paste(picture, (4, 4), picture)
    left = 126
    for tab in ("#f1f3f4", "#202124"):
        for icon, scale in zip(proposal.icons[:2], (5, 3), strict=True):
            cell = Image.new("RGBA", icon.shape[1::-1], tab)
            cell.alpha_composite(Image.fromarray(icon))
            side = len(icon) * scale
            sheet.paste(cell.resize((side, side), Image.Resampling.NEAREST), (left, 4))
            left += side + 3
    pen.text((4, 112), f"{logo.name}: {proposal.kind}", fill="black")
    words = " ".join(str(one.verdict) for one in proposal.judgements)
    pen.text((4, 126), f"{words}  {said}", fill="#b00000" if said else "black")
    return sheet


def contact_sheet(logos: Sequence[Brought]) -> Image.Image:
    """All of them, COLUMNS side by side."""
    tiles = []
    for logo in logos:
        first = first_of(logo)
        tiles.append(tile_of(logo, first, what_is_wrong(logo, first)))
    wide, high = tiles[0].size
    sheet = Image.new("RGB", (COLUMNS * (wide + 2), -(-len(tiles) // COLUMNS) * (high + 2)), "white")
    for number, tile in enumerate(tiles):
        sheet.paste(tile, (number % COLUMNS * (wide + 2), number // COLUMNS * (high + 2)))
    return in_few_colours(sheet)


def in_few_colours(sheet: Image.Image) -> Image.Image:
    """For a small file: the colours furthest apart first, so that no small area takes that of another."""
    return sheet.quantize(256, method=Image.Quantize.MAXCOVERAGE, kmeans=4)


def _small(logo: Brought) -> Image.Image:
    picture = logo.picture
    pixels = picture.pixels if isinstance(picture, Bitmap) else render_whole(picture, 240)
    image = Image.fromarray(np.ascontiguousarray(pixels))
    image.thumbnail((116, 100))
    return image
