"""`make bench`: prints tables of ratios; each ratio's two times come from this one run."""

from collections.abc import Iterator

from benchmarks import clients, icons, judging, pages, pictures, shelf, workers


def show(title: str, rows: Iterator[tuple[str, float, str]]) -> None:
    """Print a table."""
    print(f"\n{title}")
    for name, ratio, asked in rows:
        print(f"  {name:<36}{ratio:>7.2f}   {asked}")


show(f"A {pictures.SIDE} × {pictures.SIDE} RGBA PNG; 1.00 is Pillow decoding it", pictures.rows())
show("Twelve icons with encoding; ratios and errors of this run", icons.rows())
show("Judging", judging.rows())
show("Planning an installation", pages.rows())
show("The shelf; 1.00 is the first page of a shelf with one page", shelf.rows())
show("Many clients at once", clients.rows())
show("Builds on several workers; 1.00 is one worker", workers.rows())
