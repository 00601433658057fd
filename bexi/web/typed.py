"""The address of a site as people type it."""

from bexi.web.visiting import visiting

MOST_SECONDS = 8
_SCHEMES = ("https://", "http://")


def with_https(typed: str) -> str:
    """An address with its scheme, taken for https without trying."""
    return typed if "://" in typed else f"https://{typed}"


def with_scheme(typed: str) -> str:
    """An address with its scheme. One without is tried by https, then by http; if neither answers, it is https."""
    if not typed or "://" in typed:
        return typed
    tried = [f"{scheme}{typed}" for scheme in _SCHEMES]
    for address in tried:
        with visiting(MOST_SECONDS / len(tried), address) as fetch:
            if fetch(address).status:
                return address
    return with_https(typed)
