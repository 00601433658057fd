"""Against designers' own small drawings, a reader in noise and a text recogniser.

Sets of symbols whose designers drew the 16 px one by hand beside larger ones: `@fluentui/svg-icons` 1.1.343,
`heroicons` 2.2.0 and `@primer/octicons` 19.42.0, all of the MIT licence, from npm. Of the first, names from a to m were
developed with; reported are n to z.
"""

import io
import random
import shutil
import subprocess
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import product
from pathlib import Path
from unittest import TestCase, skipUnless

import numpy as np
from PIL import Image

from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.pictures import Vector
from bexi.core.artwork.svg.checking import check
from bexi.core.framing.compose import compose
from bexi.core.framing.frame import Frame
from bexi.core.framing.hand.steps import HandStep, StepAt
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing
from bexi.server.demo.lettering import outlines
from tests.core.judging.brought.drawing import PACKAGES, advance, face

FLUENT = PACKAGES / "@fluentui" / "svg-icons" / "icons"
HEROICONS, OCTICONS = PACKAGES / "heroicons", PACKAGES / "@primer" / "octicons" / "build" / "svg"
SIZE, LINES, AREAS = 16, 60, 160
FAR = 0.05
"""A plain one that is nearer than that to the designers' own needs no hand."""
NEAR = (-1, 0, 1)


def icon(picture: Vector, by_hand: bool, size: int = SIZE, steps: Sequence[HandStep] = ()) -> np.ndarray:
    """The coverage of an icon, 0 to 1: shape (size, size)."""
    side, done = max(picture.width, picture.height), tuple(StepAt(size, step) for step in steps)
    framing = Framing(Frame(0, 0, side), by_hand=(size,) if by_hand else (), steps=done)
    return compose(picture, framing, Purpose.TAB, [size])[0][..., 3] / 255


def read(path: Path) -> Vector:
    return check(path.read_bytes(), DEFAULT_LIMITS)


def around(coverage: np.ndarray, x: int, y: int) -> np.ndarray:
    """Each px with its eight neighbours, looked up so many px further on: shape (size, size, 9)."""
    roomy, size = np.pad(coverage, 2), len(coverage)
    corners = [(2 + y + down, 2 + x + right) for down, right in product(NEAR, NEAR)]
    return np.stack([roomy[top : top + size, left : left + size] for top, left in corners], axis=-1)


def distance(one: np.ndarray, other: np.ndarray) -> float:
    """Of each inked px to the most alike within one px of its place, both ways, neighbours counted: 0 to 1."""
    return (_one_way(one, other) + _one_way(other, one)) / 2


def _one_way(one: np.ndarray, other: np.ndarray) -> float:
    here = around(one, 0, 0)
    best = np.min([np.abs(here - around(other, x, y)).mean(axis=-1) for x, y in product(NEAR, NEAR)], axis=0)
    return float(best[one > 0].mean()) if one.any() else 0.0


def grey(coverage: np.ndarray) -> float:
    return float((4 * coverage * (1 - coverage)).sum() / coverage.sum())


@dataclass(frozen=True)
class Compared:
    """Pairs of a larger drawing and the designers' own of 16 px."""

    pairs: Sequence[tuple[Path, Path]]
    most: int

    @cached_property
    def icons(self) -> list[tuple[np.ndarray, np.ndarray, np.ndarray]]:
        """Theirs, plain and by hand."""
        chosen = random.Random(9).sample(list(self.pairs), self.most)
        return [(icon(read(small), False), *(icon(read(large), by) for by in (False, True))) for large, small in chosen]

    @cached_property
    def distances(self) -> np.ndarray:
        """Of the plain ones and of those by hand to theirs: shape (icons, 2)."""
        return np.array([(distance(plain, theirs), distance(drawn, theirs)) for theirs, plain, drawn in self.icons])

    @property
    def nearer(self) -> float:
        """The share that the hand brought nearer, of those that were far."""
        far = self.distances[self.distances[:, 0] > FAR]
        return float((far[:, 1] < far[:, 0]).mean())

    @property
    def median(self) -> np.ndarray:
        return np.median(self.distances, axis=0)


def fluent(size: int) -> Compared:
    small = sorted(one for one in FLUENT.glob("*_16_regular.svg") if one.name[0] >= "n")
    pairs = ((one.with_name(one.name.replace("_16_", f"_{size}_")), one) for one in small)
    return Compared([pair for pair in pairs if pair[0].exists()], LINES)


def light() -> list[tuple[Path, Path]]:
    """Drawings whose strokes are half a px at 16 px, and the designers' own, whose strokes are one."""
    small = sorted(one for one in FLUENT.glob("*_16_regular.svg") if one.name[0] >= "n")
    pairs = ((one.with_name(one.name.replace("_16_regular", "_32_light")), one) for one in small)
    return [pair for pair in pairs if pair[0].exists()]


def heroicons() -> Compared:
    large = sorted((HEROICONS / "24" / "solid").glob("*.svg"))
    pairs = ((one, HEROICONS / "16" / "solid" / one.name) for one in large)
    return Compared([pair for pair in pairs if pair[1].exists()], AREAS)


def octicons() -> Compared:
    pairs = ((one, one.with_name(one.name.replace("-24.", "-16."))) for one in sorted(OCTICONS.glob("*-24.svg")))
    return Compared([pair for pair in pairs if pair[1].exists()], AREAS)


class DesignersTests(TestCase):
    def test_lines_come_nearer_to_the_designers_own(self):
        for size, less in ((48, 0.3), (24, 0.2), (20, 0.3)):
            with self.subTest(size):
                compared = fluent(size)
                self.assertGreaterEqual(compared.nearer, 0.78)
                plain, drawn = compared.median
                self.assertLessEqual(drawn, (1 - less) * plain)
                theirs, before, after = (np.median([grey(one[of]) for one in compared.icons]) for of in range(3))
                self.assertLess(after, 1.25 * theirs)
                self.assertGreater(before, 1.6 * theirs)

    def test_areas_and_heavier_strokes_lose_nothing(self):
        for compared in (heroicons(), octicons()):
            plain, drawn = compared.median
            self.assertLessEqual(drawn, plain)


class WidenedTests(TestCase):
    """Developed with names from a to m."""

    def test_thin_strokes_come_nearer_to_the_designers_own_and_are_found_again_more_often(self):
        pairs = light()
        self.assertGreater(len(pairs), 60)
        theirs = [icon(read(small), False) for _, small in pairs]
        made = {steps: [icon(read(thin), True, steps=steps) for thin, _ in pairs] for steps in ((), (HandStep.WIDEN,))}
        before, after = (
            np.array([distance(*one) for one in zip(icons, theirs, strict=True)]) for icons in made.values()
        )
        self.assertLessEqual(np.median(after), 0.8 * np.median(before))
        self.assertGreaterEqual((after < before).mean(), 0.8)
        found = [list(_found(np.array([one.ravel() for one in icons]))) for icons in made.values()]
        self.assertTrue(all(wide >= thin for thin, wide in zip(*found, strict=True)), found)
        self.assertGreaterEqual(found[1][-1], found[0][-1] + 0.05)


class ReaderTests(TestCase):
    def test_a_reader_in_noise_finds_more_of_them_and_in_no_noise_fewer(self):
        pairs = fluent(20).pairs
        pictures = [read(large) for large, _ in random.Random(3).sample(list(pairs), 400)]
        found: dict[bool, list[float]] = {
            by_hand: [*_found(np.array([icon(one, by_hand).ravel() for one in pictures]))] for by_hand in (False, True)
        }
        for before, after in zip(found[False], found[True], strict=True):
            self.assertGreaterEqual(after, before - 0.01)
        self.assertGreater(np.mean(found[True]), np.mean(found[False]) + 0.05)


def _found(icons: np.ndarray) -> Iterator[float]:
    """The share that the nearest match finds again, in noise of growing strength."""
    grain, known = np.random.default_rng(1), _unit(icons)
    for strength in (0.45, 0.6, 0.8, 1.0):
        seen = (_unit(icons + grain.normal(0, strength, icons.shape)) for _ in range(4))
        yield float(np.mean([(one @ known.T).argmax(axis=1) == np.arange(len(icons)) for one in seen]))


def _unit(icons: np.ndarray) -> np.ndarray:
    centred = icons - icons.mean(axis=1, keepdims=True)
    return centred / np.linalg.norm(centred, axis=1, keepdims=True)


@skipUnless(shutil.which("tesseract"), "needs Debian's tesseract-ocr")
class RecogniserTests(TestCase):
    def test_small_capitals_are_read_at_least_as_often(self):
        words = ("MILL", "FERN", "PORT", "TIDE", "HULK", "WEST")
        faces = ("rubik 600 normal", "noto-sans 600 normal")
        cases = [(word, key, capital) for word in words for key in faces for capital in (5.0, 6.0, 7.0, 8.0, 9.0)]
        pictures = [(word, _word(word, key, capital)) for word, key, capital in cases]
        plain, drawn = (
            sum(_read(icon(one, by_hand, 48)) == word for word, one in pictures) for by_hand in (False, True)
        )
        self.assertGreaterEqual(drawn, plain)


def _word(word: str, key: str, capital: float) -> Vector:
    """A word whose capitals are so many px high in an icon of 48."""
    font, em = face(key), capital / 0.7 * 512 / 48
    path = outlines(word, font, (512 - advance(word, font, em)) / 2, 256 + 0.35 * em, em)
    head = '<svg xmlns="http://www.w3.org/2000/svg" width="1024" height="1024" viewBox="0 0 512 512">'
    return check(f'{head}<path fill="#111" d="{path}"/></svg>'.encode(), DEFAULT_LIMITS)


def _read(coverage: np.ndarray) -> str:
    image = Image.fromarray(np.rint(255 * (1 - coverage)).astype(np.uint8)).resize((384, 384), Image.Resampling.BICUBIC)
    stream = io.BytesIO()
    image.crop((0, 120, 384, 264)).save(stream, "PNG")
    command = ["tesseract", "-", "-", "--psm", "7", "-c", "tessedit_char_whitelist=ABCDEFGHIJKLMNOPQRSTUVWXYZ"]
    return subprocess.run(command, input=stream.getvalue(), capture_output=True, check=True).stdout.decode().strip()
