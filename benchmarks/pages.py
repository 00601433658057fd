"""Planning an installation on a folder with thousands of pages, against reading them once."""

import tempfile
import tracemalloc
from collections.abc import Iterator
from pathlib import Path

from benchmarks.timing import median
from bexi.core.iconset.addresses import AT_THE_TOP
from bexi.core.iconset.build import BuiltFile
from bexi.core.iconset.plan import RECOMMENDED
from bexi.core.pixels.colour import BLACK
from bexi.core.sitehead.snippet import HeadLines
from bexi.hosts.careful import CarefulHost
from bexi.hosts.folder import FolderStorage
from bexi.installing.plan import InstallPlan, plan_install

PAGES = 5000
_TEXT = "<p>First boat 06:40, last boat 22:10, and nothing in between when it blows.</p>\n" * 120
_PAGE = (
    "<!doctype html>\n<html lang='en'>\n<head>\n<meta charset='utf-8'>\n<title>Page {number}</title>\n"
    "<link rel='stylesheet' href='/ferry.css'>\n<link rel='icon' href='old.gif'>\n</head>\n"
    "<body>\n{text}</body>\n</html>\n"
)


def rows() -> Iterator[tuple[str, float, str]]:
    """Name of what is measured, the ratio, and what is asked of it."""
    with tempfile.TemporaryDirectory() as few, tempfile.TemporaryDirectory() as many:
        _fill(Path(few), PAGES // 10)
        _fill(Path(many), PAGES)
        reading = median(lambda: [path.read_bytes() for path in Path(many).rglob("*.html")])
        yield f"planning {PAGES} pages over reading them", median(lambda: _plan(many)) / reading, "at most 2.5"
        _plan(few)  # what is kept for all later plans does not count
        more = (_peak(many) - _peak(few)) / (PAGES - PAGES // 10)
        yield "kB of memory for each further page", more / 1000, "near 0"


def _fill(folder: Path, count: int) -> None:
    for number in range(count):
        place = folder / str(number % 50)
        place.mkdir(exist_ok=True)
        (place / f"{number}.html").write_text(_PAGE.format(number=number, text=_TEXT))


def _plan(folder: str) -> InstallPlan:
    files = tuple(BuiltFile(spec, b'{"icons": []}') for spec in RECOMMENDED.specs)
    return plan_install(CarefulHost(FolderStorage(Path(folder))), HeadLines(files, AT_THE_TOP, BLACK))


def _peak(folder: str) -> float:
    tracemalloc.start()
    _plan(folder)
    _, peak = tracemalloc.get_traced_memory()
    tracemalloc.stop()
    return float(peak)
