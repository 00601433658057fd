"""Taking in, changing, showing and removing artwork."""

import dataclasses
import hashlib
from functools import lru_cache
from pathlib import Path, PurePath
from typing import Any

from django.conf import settings
from django.db import IntegrityError, transaction
from django.db.models import Q, QuerySet
from django.utils import timezone

from bexi.core.artwork.licences import LICENCES
from bexi.core.artwork.pictures import Picture
from bexi.core.artwork.treatment import AS_IT_IS, Treatment
from bexi.core.errors import ArtworkRefused
from bexi.core.iconset.build import ENGINE_VERSION
from bexi.sandbox.measuring import THUMBNAIL, MeasuredFile, measure_file, picture_up_to, preview_file
from bexi.server import blobs
from bexi.server.artwork import aside
from bexi.server.artwork.models import Artwork
from bexi.server.artwork.reading import read_apart
from bexi.server.kept_files import keep
from bexi.server.problems import Conflict

KINDS = {
    "all": Q(),
    "shapes": Q(facts__vector=True),
    "pixels": Q(facts__vector=False),
    "drawn": Q(drawing__isnull=False),
    "unused": Q(drafts=None, drafts_beside=None),
}
"""What the shelf can be narrowed to."""


def shelf(search: str, kind: str) -> QuerySet[Artwork]:
    """Artwork of a kind in whose words every searched word stands, the latest first."""
    found = Artwork.objects.filter(KINDS[kind], removed=None)
    for word in search.split():
        found = found.filter(
            Q(title__icontains=word)
            | Q(file_name__icontains=word)
            | Q(credit__icontains=word)
            | Q(origin__icontains=word)
            | Q(facts__format__iexact=word)
        )
    return found


def add_artwork(file_name: str, data: bytes, title: str = "", **details: object) -> Artwork:
    """The artwork of a picture file: the known one, brought back if need be, if its bytes were taken in before.

    Raises ArtworkRefused; nothing is stored then.
    """
    sha256 = hashlib.sha256(data).hexdigest()
    if Artwork.objects.filter(sha256=sha256).exists():
        return _known(sha256)
    name = _plain_name(file_name)
    measured = read_apart(measure_file, name, data, AS_IT_IS)
    artwork = Artwork(
        sha256=blobs.put(data),
        title=(title or PurePath(name).stem)[:120],
        file_name=name,
        facts=measured.facts,
        notes=measured.notes,
        **details,
    )
    _keep_thumbnail(artwork, measured)
    try:
        with transaction.atomic():
            artwork.save()
    except IntegrityError:  # the same file was sent twice at once
        return _known(sha256)
    return artwork


def _known(sha256: str) -> Artwork:
    artwork = Artwork.objects.get(sha256=sha256)
    if artwork.removed:
        restore(artwork)
    return artwork


def change_treatment(artwork: Artwork, treatment: Treatment) -> tuple[int, int]:
    """Read the original differently from now on; returns the width and height it had before.

    Raises ArtworkRefused when it cannot be read so.
    """
    before = (artwork.facts["width"], artwork.facts["height"])
    _remeasure(artwork, artwork.file_name, blobs.get(artwork.sha256), treatment)
    artwork.treatment = treatment.as_json()
    artwork.save()
    return before


def replace(artwork: Artwork, file_name: str, data: bytes) -> tuple[int, int]:
    """Put a newer version in the place of an artwork; returns the width and height it had before.

    Raises ArtworkRefused, or Conflict when the version is another artwork.
    """
    other = Artwork.objects.filter(sha256=hashlib.sha256(data).hexdigest()).exclude(pk=artwork.pk).first()
    if other:
        raise Conflict("known-elsewhere", f"This file has already been added, as “{other.title}”. Use that one.")
    before = (artwork.facts["width"], artwork.facts["height"])
    name = _plain_name(file_name)
    _remeasure(artwork, name, data, AS_IT_IS)
    artwork.sha256, artwork.file_name, artwork.treatment, artwork.drawing = blobs.put(data), name, {}, None
    artwork.save()
    return before


def remove(artwork: Artwork) -> None:
    """Take an artwork off the shelf; raises Conflict when a site's draft uses it."""
    users = sorted({draft.site.name for draft in users_of(artwork)})
    if users:
        raise Conflict(
            "artwork-in-use",
            f"It is on the bench of {', '.join(users)}. Put another artwork there first, then remove it.",
        )
    artwork.removed = timezone.now()
    artwork.save()


def users_of(artwork: Artwork) -> list[Any]:
    """Drafts that use an artwork, for all sizes or some."""
    return list({*artwork.drafts.select_related("site"), *artwork.drafts_beside.select_related("site")})


def restore(artwork: Artwork) -> None:
    """Bring a removed artwork back."""
    artwork.removed = None
    artwork.save()


def open_picture(sha256: str, treatment: Treatment) -> Picture:
    """The picture of a file that was taken in, read apart once more; raises TooLargeHere, see `aside_when_large`."""
    picture = _opened(sha256, treatment, aside.most_pixels())
    if picture is None:
        raise aside.TooLargeHere
    return picture


@lru_cache(maxsize=3)  # decoding is most of the work of an answer; three large pictures fit in memory
def _opened(sha256: str, treatment: Treatment, most: int | None) -> Picture | None:
    return read_apart(picture_up_to, blobs.get(sha256), treatment, most)


def picture_of(artwork: Artwork) -> Picture:
    """The decoded picture of an artwork as it is read now."""
    return open_picture(artwork.sha256, artwork.read_as)


def preview(artwork: Artwork, longest: int) -> bytes:
    """A PNG of the whole artwork, at most `longest` px along its longer side; kept by content."""
    file = _preview_file(artwork, longest)
    if not file.exists():
        keep(file, read_apart(preview_file, blobs.get(artwork.sha256), artwork.read_as, longest))
    return file.read_bytes()


def lifted_preview(artwork: Artwork, longest: int, tolerance: float, inside: bool) -> bytes:
    """The same with its ground lifted, which changes nothing of the artwork; raises ArtworkRefused."""
    lifted = dataclasses.replace(artwork.read_as, lift=tolerance, lift_inside=inside)
    return read_apart(preview_file, blobs.get(artwork.sha256), lifted, longest)


def _remeasure(artwork: Artwork, name: str, data: bytes, treatment: Treatment) -> None:
    measured = read_apart(measure_file, name, data, treatment)
    artwork.facts, artwork.notes = measured.facts, measured.notes


def _keep_thumbnail(artwork: Artwork, measured: MeasuredFile) -> None:
    keep(_preview_file(artwork, THUMBNAIL), measured.thumbnail)


def version(artwork: Artwork) -> str:
    """Changes whenever the picture does: a short hash of its bytes, how they are read, and by which engine."""
    return _key(artwork)[:12]


def _preview_file(artwork: Artwork, longest: int) -> Path:
    key = _key(artwork, longest)
    return Path(settings.BLOB_FOLDER) / "previews" / key[:2] / f"{key}.png"


def _key(artwork: Artwork, *made: int) -> str:
    return hashlib.sha256(repr((ENGINE_VERSION, artwork.sha256, artwork.read_as, *made)).encode()).hexdigest()


def _plain_name(file_name: str) -> str:
    return PurePath(file_name.replace("\\", "/")).name[:200] or "picture"


def known_licence(key: str) -> str:
    """The key itself, if it is a licence Bexi knows; raises ArtworkRefused."""
    if key not in LICENCES:
        raise ArtworkRefused(
            "unknown-licence", f"“{key[:40]}” is not in the list of licences. Choose one from the list."
        )
    return key
