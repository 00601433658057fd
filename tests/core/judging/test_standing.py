"""What a mark stands on: nothing of it may vanish there, and nothing drawn on it."""

from unittest import TestCase

from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.pictures import Bitmap, Vector
from bexi.core.artwork.svg.checking import check
from bexi.core.artwork.vector import render_whole
from bexi.core.judging.groups import groups_of
from bexi.core.judging.proposals import Proposal, propose
from bexi.core.judging.ways_out import Source
from bexi.core.pixels.colour import WHITE
from bexi.core.pixels.light import over
from bexi.server.demo.lettering import outlines
from tests.core.judging.brought.drawing import face
from tests.core.judging.brought.strange import STRANGE

NAVY = "#0f172a"


def drawing(side: int, body: str) -> Vector:
    return check(
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {side} {side}">{body}</svg>'.encode(), DEFAULT_LIMITS
    )


def wreath(ink: str) -> str:
    leaves = "".join(
        f'<ellipse cx="200" cy="50" rx="13" ry="36" fill="{ink}" transform="rotate({turn} 200 200)"/>'
        for turn in (*range(30, 150, 17), *range(210, 330, 17))
    )
    return leaves + f'<path d="M130 130h140v34h-50v120h-40v-120h-50z" fill="{NAVY}"/>'


def first_of(picture: Vector | Bitmap) -> Proposal:
    return propose(Source(picture, groups_of(picture)))[0]


class StandingTests(TestCase):
    def test_the_dark_middle_of_a_pale_mark_does_not_vanish_on_a_dark_ground(self):
        for ink in ("#db2777", "#f472b6", "#7dd3fc"):
            transparent = drawing(400, wreath(ink))
            on_white = Bitmap(over(render_whole(transparent, 500), WHITE))
            for picture in (transparent, on_white):
                first = first_of(picture)
                self.assertGreater(first.framing.home_ground.luminance, 0.9, ink)
                self.assertGreater(first.framing.plate.colour.luminance, 0.9, ink)
                self.assertIn("because part of it fades on", first.why, ink)

    def test_two_rings_that_cross_are_both_seen_on_a_home_screen(self):
        rings = "".join(
            f'<circle cx="{x}" cy="200" r="90" fill="none" stroke="{ink}" stroke-width="28"/>'
            for x, ink in ((150, "#1e3a8a"), (250, "#f472b6"))
        )
        on_white = Bitmap(over(render_whole(drawing(400, rings), 500), WHITE))
        self.assertEqual(first_of(on_white).framing.home_ground, WHITE)

    def test_a_pale_mark_alone_still_gets_a_dark_one(self):
        first = first_of(drawing(400, '<circle cx="200" cy="200" r="150" fill="#fde047"/>'))
        self.assertLess(first.framing.home_ground.luminance, 0.2)
        self.assertTrue(first.why.endswith("because it fades on light tabs"), first.why)

    def test_a_dark_mark_is_white_on_its_own_colour_where_its_lightest_is_a_mere_grey(self):
        mark = f'<path fill="{NAVY}" d="M120 30h160v60h-100v40h80v60h-80v60h-60z"/>'
        words = outlines("bread and cakes", face("rubik 500 normal"), 20, 360, 46)
        for pale, ink in (
            ("#8a8a8a", "#ffffff"),
            ("#94a3b8", "#ffffff"),
            ("#f59e0b", "#f59e0b"),
            ("#f1f5f9", "#f1f5f9"),
        ):
            first = first_of(drawing(400, f'{mark}<path fill="{pale}" d="{words}"/>'))
            self.assertEqual((str(first.framing.plate.colour), str(first.framing.finish.recolour)), (NAVY, ink))

    def test_a_hairline_in_a_flat_mark_is_kept(self):
        house = '<path d="M80 12L148 72H132V148H28V72H12z" fill="#333"/>'
        picture = drawing(160, f'{house}<path d="M60 84h40l-40 46h40" fill="none" stroke="#fff" stroke-width="1"/>')
        first = first_of(Bitmap(render_whole(picture, 160)))
        self.assertIsNone(first.framing.finish.recolour)  # which would fill it

    def test_what_is_left_of_a_stroke_is_no_part_of_a_first_letter(self):
        struck = next(logo for logo in STRANGE if logo.name == "struck word")
        first = first_of(struck.picture)
        self.assertEqual((first.kind, first.framing.finish.recolour), ("first letter on a plate", WHITE))
