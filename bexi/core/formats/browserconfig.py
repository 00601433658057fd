"""The tile configuration that older desktops read: `browserconfig.xml` [vendor's public documentation, legacy]."""

from collections.abc import Mapping, Sequence
from xml.etree.ElementTree import Element, SubElement, indent, tostring

from defusedxml.ElementTree import fromstring


def write(tiles: Sequence[tuple[str, str]], colour: str) -> bytes:
    """The file for tiles given as element name and address, on a ground of one hex colour."""
    root = Element("browserconfig")
    tile = SubElement(SubElement(root, "msapplication"), "tile")
    for element, address in tiles:
        SubElement(tile, element, src=address)
    SubElement(tile, "TileColor").text = colour
    indent(root)
    written: bytes = tostring(root, encoding="utf-8", xml_declaration=True)
    return written + b"\n"


def read(data: bytes) -> Mapping[str, str]:
    """The address of each tile by its element's name; raises ParseError or defusedxml's exceptions."""
    return {element.tag: element.attrib["src"] for element in fromstring(data).iter() if "src" in element.attrib}
