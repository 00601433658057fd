"""The flat shape below a drawing: found whatever a drawing program makes of it, and nothing else taken for one."""

from unittest import TestCase

from bexi.core.artwork.ground_shape import without_ground
from bexi.core.artwork.intake import take_in
from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.plate import Plate, PlateShape
from bexi.core.artwork.svg.checking import check
from bexi.core.artwork.treatment import Treatment
from bexi.core.artwork.vector import render_whole
from bexi.core.errors import ArtworkRefused
from bexi.core.framing.cut import Cut
from bexi.core.framing.drawn import drawn
from bexi.core.framing.frame import Frame, whole_artwork
from bexi.core.framing.recipe import Framing
from bexi.core.judging.groups import groups_of
from bexi.core.judging.judge import judge_at
from bexi.core.judging.proposals import propose
from bexi.core.judging.readings import Verdict
from bexi.core.judging.ways_out import Source
from bexi.core.pixels.colour import WHITE

MARK = (
    '<path d="M60 160L100 40l40 120z" fill="#7a1fa2"/>'
    '<line x1="20" y1="180" x2="180" y2="180" stroke="#000" stroke-width="6"/>'
)
GROUNDS = {
    "a rectangle": '<rect width="200" height="200" fill="#fff"/>',
    "in percent": '<rect width="100%" height="100%" fill="white"/>',
    "a path": '<path d="M0 0h200v200H0z" fill="#fffefd"/>',
    "in a group, and larger": '<g transform="scale(2)"><rect x="-9" y="-9" width="190" height="190" fill="#fff"/></g>',
    "two": '<rect width="200" height="200" fill="#eee"/><rect width="200" height="200" fill="#fff"/>',
    "after boxes without paint": '<path fill="none" d="M0 0h200v200H0z"/><g><rect width="9" height="9" fill="none"/>'
    "</g>"
    '<rect width="200" height="200" fill="#fff"/>',
    "used": '<defs><rect id="page" width="200" height="200" fill="#fff"/></defs><use href="#page"/>',
}
NONE = {
    "with round corners": '<rect width="200" height="200" rx="40" fill="#fff"/>',
    "a gradient": '<defs><linearGradient id="a"><stop stop-color="#f00"/><stop offset="1" stop-color="#00f"/>'
    '</linearGradient></defs><rect width="200" height="200" fill="url(#a)"/>',
    "half clear": '<rect width="200" height="200" fill="#fff" opacity=".5"/>',
    "a part": '<rect width="200" height="150" fill="#fff"/>',
    "nothing": "",
}


def drawing(ground: str, mark: str = MARK, box: str = "0 0 200 200"):
    return check(
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{box}">{ground}{mark}</svg>'.encode(), DEFAULT_LIMITS
    )


class GroundShapeTests(TestCase):
    def test_it_is_found_and_the_mark_stays(self):
        mark = render_whole(drawing(""), 64)
        for name, ground in GROUNDS.items():
            with self.subTest(name):
                seen = render_whole(without_ground(drawing(ground)), 64)
                self.assertLess(abs(seen.astype(int) - mark).max(), 3)

    def test_what_is_no_flat_ground_stays(self):
        for name, ground in NONE.items():
            with self.subTest(name):
                picture = drawing(ground)
                self.assertIs(without_ground(picture), picture)
        alone = drawing(GROUNDS["a rectangle"], "")
        self.assertIs(without_ground(alone), alone)

    def test_as_a_treatment(self):
        page = drawing(GROUNDS["a path"]).markup.encode()
        _, picture = take_in(page, treatment=Treatment(lift=0.08))
        self.assertEqual(render_whole(picture, 64)[0, 0, 3], 0)
        with self.assertRaisesRegex(ArtworkRefused, "flat background"):
            take_in(drawing(NONE["a part"]).markup.encode(), treatment=Treatment(lift=0.08))

    def test_a_mark_on_white_paper_is_proposed_without_it(self):
        red = '<circle cx="100" cy="100" r="60" fill="#b3261e"/><path d="M80 120l20-50 20 50z" fill="#fff"/>'
        picture = drawing(GROUNDS["a rectangle"], red)
        first = propose(Source(picture, groups_of(picture)))[0]
        self.assertEqual(first.icons[0][0, 0, 3], 0)
        self.assertEqual(first.icons[0][8, 3, 3], 255)

    def test_a_frame_that_reaches_beyond_the_page_is_judged_by_the_mark(self):
        page = (
            '<rect width="1000" height="200" fill="#fff"/>'
            '<path d="M30 170V40l60 60 60-60v130z" fill="none" stroke="#1d7a5f" stroke-width="20"/>'
        )
        picture = drawing("", page, "0 0 1000 200")
        unit, plate = picture.width / 1000, Plate(PlateShape.ROUNDED, WHITE, 22, 0)
        cut = Cut(round(15 * unit), round(15 * unit), round(170 * unit), round(190 * unit))
        for x, y in ((-10, -1), (-10, 0), (-10, -10), (5, -20)):  # wide, so that a frame has a survey of its own
            framing = Framing(Frame(round(x * unit), round(y * unit), round(210 * unit)), plate=plate, cut=cut)
            (judged,) = judge_at(picture, framing, [32])
            self.assertEqual(judged.verdict, Verdict.WELL, (x, y, judged.says))

    def test_an_svg_icon_has_it_only_where_it_is_kept(self):
        picture = drawing(GROUNDS["a rectangle"])
        framing = Framing(whole_artwork(picture.width, picture.height))
        for lift, alpha in ((None, 255), (0.08, 0)):
            icon = check(drawn(picture, Framing(framing.frame, lift=lift)), DEFAULT_LIMITS)
            self.assertEqual(render_whole(icon, 64)[0, 0, 3], alpha)
