"""Gathers faces and symbols out of installed npm packages: `python -m bexi.resources.gather NODE_MODULES`."""

import json
import shutil
import sys
from pathlib import Path
from xml.sax.saxutils import quoteattr

from bexi.core.artwork.symbols import SymbolShape
from bexi.resources import FACES, GATHERED
from bexi.resources.generic import draw_generic


def gather(node_modules: Path) -> None:
    """Copy the font files and write the symbols as one JSON file, with their licences beside them."""
    shutil.rmtree(GATHERED, ignore_errors=True)
    faces = GATHERED / "faces"
    faces.mkdir(parents=True)
    for face in FACES.values():
        package = node_modules / "@fontsource" / face.key
        shutil.copy(package / "LICENSE", faces / f"{face.key}-LICENSE.txt")
        for weight in face.weights:
            for file in package.glob(f"files/{face.key}-*-{weight}-normal.woff"):
                shutil.copy(file, faces)
    symbols = node_modules / "lucide-static"
    words = json.loads((symbols / "tags.json").read_text())
    nodes = json.loads((symbols / "icon-nodes.json").read_text())
    listed = [[name, "".join(map(_element, nodes[name])), words.get(name, [])] for name in sorted(nodes)]
    (GATHERED / "symbols.json").write_text(json.dumps(listed))
    draw_generic({name: SymbolShape(name, body, tuple(tags)) for name, body, tags in listed}, GATHERED)
    shutil.copy(symbols / "LICENSE", GATHERED / "symbols-LICENSE.txt")


def _element(node: list[object]) -> str:
    name, attributes = node[0], node[1]
    assert isinstance(attributes, dict)
    written = "".join(f" {key}={quoteattr(str(value))}" for key, value in attributes.items() if key != "key")
    return f"<{name}{written}/>"


if __name__ == "__main__":
    gather(Path(sys.argv[1]))
