"""The XML of a stranger's SVG, well-formed or as web pages hold it."""

import re
from xml.etree.ElementTree import Element, ParseError, TreeBuilder
from xml.parsers.expat.errors import XML_ERROR_UNBOUND_PREFIX, codes

from defusedxml.common import DefusedXmlException, EntitiesForbidden
from defusedxml.ElementTree import DefusedXMLParser

from bexi.core.artwork.svg.allowed import SVG, XLINK
from bexi.core.errors import ArtworkRefused

_LONGEST_ENTITY = 200
_UNBOUND = codes[XML_ERROR_UNBOUND_PREFIX]
_PREFIX = re.compile(rb"[\s<]([A-Za-z_][\w-]*):[\w-]+[\s=/>]")
_DECLARED = re.compile(rb"\sxmlns:([\w-]+)\s*=")
_ROOT = re.compile(rb"<(?:[\w-]+:)?svg\b")
_MOST_PREFIXES = 50
_KNOWN = {b"svg": SVG, b"xlink": XLINK}


class _Parser(DefusedXMLParser):
    """Lets entities stand that are short plain texts, as older drawing programs write them for namespaces."""

    def defused_entity_decl(
        self,
        name: str,
        is_parameter_entity: bool,
        value: str | None,
        base: str | None,
        sysid: str,
        pubid: str | None,
        notation_name: str | None,
    ) -> None:
        if is_parameter_entity or value is None or len(value) > _LONGEST_ENTITY or set("&%<").intersection(value):
            raise EntitiesForbidden(name, value, base, sysid, pubid, notation_name)


def parsed(data: bytes) -> Element:
    """The root element of a file, in the namespace of SVG also where none was said; raises ArtworkRefused."""
    try:
        root = _read(data)
    except EntitiesForbidden as error:
        raise ArtworkRefused(
            "svg-entities",
            "This SVG defines XML entities that can swell to any size when read. "
            "Export it again as plain SVG, without entity definitions.",
        ) from error
    except DefusedXmlException as error:
        raise ArtworkRefused(
            "svg-external-reference",
            "This SVG needs another file for its document type. Export it again as plain, self-contained SVG.",
        ) from error
    except (ParseError, ValueError, LookupError, RecursionError) as error:
        raise ArtworkRefused(
            "broken-picture",
            "This SVG is not well-formed XML, so it cannot be read to its end. Export or download it again.",
        ) from error
    if root.tag == "svg":  # as in a web page, where it needs no namespace
        for element in root.iter():
            element.tag = element.tag if element.tag.startswith("{") else f"{{{SVG}}}{element.tag}"
    return root


def _read(data: bytes) -> Element:
    try:
        return _fed(data)
    except ParseError as error:
        if error.code != _UNBOUND:
            raise
        return _fed(_with_prefixes(data))


def _fed(data: bytes) -> Element:
    parser = _Parser(target=TreeBuilder())
    parser.feed(data)
    root: Element = parser.close()
    return root


def _with_prefixes(data: bytes) -> bytes:
    """The same where every prefix means something: in a web page, from which drawings are copied, none has to."""
    used = set(_PREFIX.findall(data)) - set(_DECLARED.findall(data)) - {b"xml", b"xmlns"}
    said = (b' xmlns:%s="%s"' % (one, _KNOWN.get(one, f"urn:prefix:{one.decode()}").encode()) for one in sorted(used))
    declared = b"".join(list(said)[:_MOST_PREFIXES])
    return _ROOT.sub(lambda root: root[0] + declared, data, count=1)
