"""The lines by which common server programs give icons a right type and a sensible freshness.

Directives as the programs' own manuals document them (Apache httpd 2.4 mod_mime and mod_headers, nginx core and
headers modules, Caddy 2 matchers and the header directive); checked against the programs themselves.
"""

import re
from collections.abc import Sequence
from dataclasses import dataclass

from bexi.core.errors import HeadRefused

RULES_FILE = ".htaccess"
DAY = 24 * 3600
YEAR = 365 * DAY
_BEGIN = "# icons: placed by Bexi, replaced whole on the next installation"
_END = "# end of icons"
_FRESH = f"max-age={DAY}"
_FOR_EVER = f"max-age={YEAR}, immutable"
# Servers know the other types by themselves. The ICO type is registered (IANA); the others are the standards' own.
_TYPES = {".svg": "image/svg+xml", ".ico": "image/vnd.microsoft.icon", ".webmanifest": "application/manifest+json"}


@dataclass(frozen=True)
class ServerLines:
    """What to put into which file of a server program; `program` is empty for plain words."""

    program: str
    where: str
    lines: tuple[str, ...]


def lines_for_servers(names: Sequence[str], stamped: bool) -> tuple[ServerLines, ...]:
    """The lines for files of these names at the top of a site; `stamped` when their addresses carry ?v=."""
    return (
        ServerLines("Apache", f"{RULES_FILE} in the site's top folder, or its <Directory>", apache(names, stamped)),
        ServerLines("nginx", "the server { … } block of the site", _nginx(names, stamped)),
        ServerLines("Caddy", "the site's block in the Caddyfile", _caddy(names, stamped)),
        ServerLines("", "what to ask for elsewhere", tuple(_words(stamped))),
    )


def apache(names: Sequence[str], stamped: bool) -> tuple[str, ...]:
    """Lines for Apache, which do nothing where a module is missing."""
    pattern = "|".join(re.escape(name) for name in names)
    types = [f"  AddType {media_type} {ending}" for ending, media_type in _TYPES.items()]
    headers = [f'    Header set Cache-Control "{_FRESH}"']
    if stamped:
        headers.append(f"""    Header set Cache-Control "{_FOR_EVER}" "expr=%{{QUERY_STRING}} =~ /^v=/\"""")
    return (
        "<IfModule mod_mime.c>",
        *types,
        "</IfModule>",
        "<IfModule mod_headers.c>",
        f'  <FilesMatch "^({pattern})$">',
        *headers,
        "  </FilesMatch>",
        "</IfModule>",
    )


def _nginx(names: Sequence[str], stamped: bool) -> tuple[str, ...]:
    pattern = "|".join(re.escape(name) for name in names)
    types = [f"    {media_type} {ending[1:]};" for ending, media_type in _TYPES.items()]
    age = [f'  set $icon_age "{_FRESH}";']
    if stamped:
        age.append(f'  if ($arg_v) {{ set $icon_age "{_FOR_EVER}"; }}')
    return (
        f"location ~ ^/({pattern})$ {{",
        "  types {",
        *types,
        "    image/png png;",
        "    application/xml xml;",
        "  }",
        *age,
        "  add_header Cache-Control $icon_age;",
        "}",
    )


def _caddy(names: Sequence[str], stamped: bool) -> tuple[str, ...]:
    paths = " ".join(f"/{name}" for name in names)
    lines = [f"@icons path {paths}", f'header @icons Cache-Control "{_FRESH}"']
    if stamped:
        lines += ["@stamped {", f"  path {paths}", "  query v=*", "}", f'header @stamped Cache-Control "{_FOR_EVER}"']
    for ending, media_type in _TYPES.items():
        matcher = f"@icon_{ending[1:]}"
        lines += [f"{matcher} path *{ending}", f"header {matcher} Content-Type {media_type}"]
    return tuple(lines)


def _words(stamped: bool) -> Sequence[str]:
    told = [f"Files ending in {ending} are sent as {media_type}." for ending, media_type in _TYPES.items()]
    told.append(f"Icons are sent with Cache-Control: {_FRESH}, so that nobody sees an old one for more than a day.")
    if stamped:
        told.append(f"With ?v= in the address they are sent with Cache-Control: {_FOR_EVER}.")
    return told


def with_rules(existing: bytes, names: Sequence[str], stamped: bool) -> bytes:
    """A rules file of Apache with the lines in one marked block, every other byte as it was.

    Raises HeadRefused when the marks of an earlier block are no longer a pair.
    """
    text = existing.decode("latin-1")
    newline = "\r\n" if "\r\n" in text else "\n"
    block = newline.join((_BEGIN, *apache(names, stamped), _END))
    begins, ends = text.count(_BEGIN), text.count(_END)
    if begins == ends == 0:
        gap = "" if not text or text.endswith(("\n", "\r")) else newline
        return f"{text}{gap}{block}{newline}".encode("latin-1")
    start, end = text.find(_BEGIN), text.find(_END)
    if begins != 1 or ends != 1 or start > end:
        raise HeadRefused(
            "broken-block",
            f"The marks around the icon lines in {RULES_FILE} are no longer a pair. Remove the leftover one.",
        )
    return f"{text[:start]}{block}{text[end + len(_END) :]}".encode("latin-1")
