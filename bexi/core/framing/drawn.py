"""Icons as SVG, from artwork that is SVG: the same composition, drawn by whoever shows it."""

from bexi.core.artwork.pictures import Picture, Vector
from bexi.core.artwork.plate import SIDE, PlateShape
from bexi.core.framing.adapt import Shades
from bexi.core.framing.compose import inset_markup, shades_for
from bexi.core.framing.frame import Frame
from bexi.core.framing.recipe import Framing
from bexi.core.framing.reduce import cut_to, lifted
from bexi.core.pixels.colour import Colour


def why_not_drawn(picture: Picture, framing: Framing) -> str | None:
    """Why a framing cannot be an SVG icon, as a sentence; None when it can."""
    if not isinstance(picture, Vector):
        return "The artwork is made of pixels, so there are no shapes for an SVG icon. The PNG icons do its work."
    if framing.finish.outline:
        return "The outline of this framing is drawn in pixels, which an SVG icon cannot hold. The PNG icons have it."
    if framing.finish.weight:
        return "The weight of its strokes is changed in pixels, which an SVG icon cannot hold. The PNG icons have it."
    return None


def drawn(picture: Vector, framing: Framing, dark: Colour | None = None) -> bytes:
    """The icon as an SVG file; in dark schemes its ink takes the colour `dark`, if one is given.

    Sharpening, which is for pixels, is left out.
    """
    frame, recolour = framing.frame, picture.recolour or framing.finish.recolour
    ground = _square(frame, f'fill="{framing.ground}"') if framing.ground else ""
    filters = (_in_one_colour("recoloured", recolour, frame) if recolour else "") + (
        _in_one_colour("in-dark", dark, frame) if dark else ""
    )
    style = f"<style>@media (prefers-color-scheme: dark) {{ .{_INK} {{ {_filter('in-dark')} }} }}</style>"
    look = f' style="{_filter("recoloured")}"' if recolour and not dark else ""
    if recolour and dark:
        style = f"<style>.{_INK} {{ {_filter('recoloured')} }}</style>" + style
    ink = f'<g class="{_INK}"{look}>{_shown(picture, framing)}</g>'
    return _document(frame, (style if dark else "") + filters + ground + _plated(framing, ink))


def drawn_in_one_colour(picture: Vector, framing: Framing) -> bytes:
    """The shape of the icon in black on a clear ground as an SVG file."""
    shades = shades_for(picture, framing)
    recolour = picture.recolour or framing.finish.recolour
    inner = _in_one_colour("recoloured", recolour, framing.frame) if recolour else ""
    look = f' style="{_filter("recoloured")}"' if recolour else ""
    ink = _plated(framing, f"<g{look}>{_shown(picture, framing)}</g>")
    shape = f'<g style="{_filter("shape")}">{ink}</g>'
    return _document(framing.frame, inner + _as_shape("shape", shades, framing.frame) + shape)


_INK = "bexi-ink"


def _shown(picture: Vector, framing: Framing) -> str:
    """The artwork's markup without its ground, if that is lifted, and nothing of it beyond the cut."""
    shown, _ = cut_to(lifted(picture, framing.lift, framing.lift_inside), framing.cut, framing.frame)
    return shown.markup if isinstance(shown, Vector) else ""


def _document(frame: Frame, content: str) -> bytes:
    box = f"{frame.x} {frame.y} {frame.side} {frame.side}"
    return f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{box}">{content}</svg>\n'.encode()


def _square(frame: Frame, attributes: str) -> str:
    return f'<rect x="{frame.x}" y="{frame.y}" width="{frame.side}" height="{frame.side}" {attributes}/>'


def _plated(framing: Framing, ink: str) -> str:
    """The ink on its plate and cut to it."""
    if framing.plate.shape is PlateShape.NONE:
        return ink
    frame = framing.frame
    place = f"translate({frame.x} {frame.y}) scale({frame.side / SIDE:g})"
    plate = f'<g transform="{place}">{inset_markup(framing.plate)}</g>'
    # A mask follows any outline; its white is what is kept.
    white = plate.replace(f'fill="{framing.plate.colour}"', 'fill="#ffffff"')
    mask = f'<mask id="bexi-plate" maskUnits="userSpaceOnUse" {_region(frame)}>{white}</mask>'
    return f'{mask}{plate}<g mask="url(#bexi-plate)">{ink}</g>'


def _filter(name: str) -> str:
    return f"filter: url(#bexi-{name})"


def _region(frame: Frame) -> str:
    return f'x="{frame.x}" y="{frame.y}" width="{frame.side}" height="{frame.side}"'


def _in_one_colour(name: str, colour: Colour, frame: Frame) -> str:
    """A filter that gives everything one colour (Filter Effects 1, feFlood and feComposite)."""
    return (
        f'<filter id="bexi-{name}" filterUnits="userSpaceOnUse" {_region(frame)} color-interpolation-filters="sRGB">'
        f'<feFlood flood-color="{colour}"/><feComposite operator="in" in2="SourceAlpha"/></filter>'
    )


def _as_shape(name: str, shades: Shades, frame: Frame) -> str:
    """A filter that makes everything black and hollows what the shades leave out (Filter Effects 1, feColorMatrix)."""
    region = f'filterUnits="userSpaceOnUse" {_region(frame)} color-interpolation-filters="linearRGB"'
    if shades.hollow is None:
        row, cut = "0 0 0 1 0", ""
    else:
        slope = 1 / (shades.full - shades.hollow)
        red, green, blue = (slope * part for part in (0.2126, 0.7152, 0.0722))
        row = f"{red:g} {green:g} {blue:g} 0 {-shades.hollow * slope:g}"
        cut = '<feComposite operator="in" in2="SourceAlpha"/>'
    black = "0 0 0 0 0 0 0 0 0 0 0 0 0 0 0"
    return f'<filter id="bexi-{name}" {region}><feColorMatrix values="{black} {row}"/>{cut}</filter>'
