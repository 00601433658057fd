"""Finding sites by what people remember of them."""

from bexi.server.sites.models import Site


def found(search: str, most: int | None) -> list[int]:
    """The ids of the sites with all of these words in name, address, place or labels, the first ones.

    In any letter case of any script, which SQLite's own comparison does not know.
    """
    words = search.casefold().split()
    rows = Site.named.values_list("id", "name", "address", "place", "labels")
    fitting = [pk for pk, *told in rows if _has(words, told)]
    return fitting[:most]


def _has(words: list[str], told: list[object]) -> bool:
    name, address, place, labels = told
    text = " ".join(map(str, (name, address, place, *(labels if isinstance(labels, list) else [])))).casefold()
    return all(word in text for word in words)
