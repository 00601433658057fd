"""The grounds on which a tab shows an icon, as *Seen in place* shows them."""

from collections.abc import Mapping

from bexi.core.pixels.colour import Colour

LIGHT_TAB, DARK_TAB = Colour(0xFF, 0xFF, 0xFF), Colour(0x2B, 0x35, 0x31)
TABS: Mapping[str, Colour] = {"light": LIGHT_TAB, "dark": DARK_TAB}
