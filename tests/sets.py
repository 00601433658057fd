"""Sets of files for tests that do not look into the files."""

from bexi.core.formats import webmanifest
from bexi.core.iconset.addresses import Addresses
from bexi.core.iconset.build import BuiltFile
from bexi.core.iconset.catalogue import MANIFEST
from bexi.core.iconset.plan import RECOMMENDED, Plan
from bexi.core.pixels.colour import Colour
from bexi.core.sitehead.snippet import HeadLines

NO_ICONS = webmanifest.new("Ferry", [])
PLAIN = Addresses()
SMALL = Plan(("favicon.ico", "icon-16.png", "icon-32.png", "apple-touch-icon.png"))


def head_lines_of(plan: Plan = RECOMMENDED, addresses: Addresses = PLAIN) -> HeadLines:
    """The head lines of a plan whose files hold nothing but their names; the manifest is an empty one."""
    files = tuple(BuiltFile(spec, NO_ICONS if spec == MANIFEST else spec.name.encode()) for spec in plan.specs)
    return HeadLines(files, addresses, Colour(0x12, 0x34, 0x56))
