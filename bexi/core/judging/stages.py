"""What judging sees of an artwork, stage by stage, each as a picture that a person can look at."""

from collections.abc import Iterator

import numpy as np
from PIL import Image, ImageDraw
from scipy import ndimage

from bexi.core.artwork.ink import Box
from bexi.core.artwork.pictures import Picture
from bexi.core.framing.tabs import TABS
from bexi.core.judging.drawing import Drawing
from bexi.core.judging.groups import groups_of
from bexi.core.judging.rows import Row
from bexi.core.judging.survey import Survey, whole_survey
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Pixels

_FADED = 0.35
_EMBLEM, _WORDS, _FIRST = (0, 110, 60), (20, 60, 200), (190, 90, 0)
_LINE = 3
"""Px."""


def stages_of(picture: Picture) -> Iterator[tuple[str, Pixels]]:
    """Name and picture of each stage, in their order: shape (height, width, 4).

    As seen on each tab: flat colours, with gradients joined and halos left out. Then regions of one colour, each in a
    colour of its own; parts, which hang together; letters, by their rows; and the groups: emblems, words, the first
    letter.
    """
    survey = whole_survey(picture)
    drawing = survey.drawing
    for name, tab in TABS.items():
        yield f"1-flat-on-{name}", _flat(drawing, tab)
    yield "2-regions", _numbered(drawing.labels, drawing)
    yield "3-parts", _numbered(ndimage.label(drawing.kinds > 0, structure=np.ones((3, 3)))[0], drawing)
    yield "4-letters", _letters(drawing, survey.rows)
    yield "5-groups", _groups(picture, survey)


def _flat(drawing: Drawing, ground: Colour) -> Pixels:
    colours = np.array([(*colour.channels, 255) for colour in drawing.seen_on(ground)], dtype=np.uint8)
    flat: Pixels = colours[drawing.kinds]
    return flat


def _numbered(labels: np.ndarray, drawing: Drawing) -> Pixels:
    """Each label in a colour of its own, the ground white."""
    grain = np.random.default_rng(1)
    colours = np.full((int(labels.max()) + 1, 4), 255, dtype=np.uint8)
    colours[:, :3] = grain.integers(30, 220, (len(colours), 3))
    numbered: Pixels = np.where((drawing.kinds > 0)[..., None], colours[labels], np.uint8(255))
    return numbered


def _faded(drawing: Drawing) -> Image.Image:
    flat = _flat(drawing, TABS["light"]).astype(float)
    return Image.fromarray((255 - _FADED * (255 - flat[..., :3])).astype(np.uint8))


def _letters(drawing: Drawing, rows: tuple[Row, ...]) -> Pixels:
    image = _faded(drawing)
    for row in rows:
        for part in row.parts:
            _framed(image, part.box, _WORDS)
    return np.asarray(image.convert("RGBA"))


def _groups(picture: Picture, survey: Survey) -> Pixels:
    image, groups = _faded(survey.drawing), groups_of(picture)
    named = [(one.box, _EMBLEM) for one in groups.emblems] + [(box, _WORDS) for box in groups.words]
    if groups.first:
        named.append((groups.first.box, _FIRST))
    for box, colour in named:
        left, right = ((edge - survey.x) / survey.scale for edge in (box.left, box.right))
        top, bottom = ((edge - survey.y) / survey.scale for edge in (box.top, box.bottom))
        _framed(image, Box(round(left), round(top), round(right), round(bottom)), colour)
    return np.asarray(image.convert("RGBA"))


def _framed(image: Image.Image, box: Box, colour: tuple[int, int, int]) -> None:
    ImageDraw.Draw(image).rectangle((box.left, box.top, box.right - 1, box.bottom - 1), outline=colour, width=_LINE)
