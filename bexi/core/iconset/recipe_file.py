"""The recipe file: everything a set is built from, as one JSON file beside the artwork it names."""

import hashlib
import json
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from pathlib import PurePosixPath
from typing import Any

from bexi.core.artwork.pictures import Picture
from bexi.core.artwork.treatment import Treatment
from bexi.core.errors import PlanRefused
from bexi.core.framing.recipe import Recipe
from bexi.core.iconset.build import Pictures
from bexi.core.iconset.plan import Plan
from bexi.core.pixels.colour import Colour

Take = Callable[[bytes, Treatment], Picture]
"""Reads a picture file as a treatment says; raises ArtworkRefused."""
NAME = "recipe.json"
MAIN = ""
"""The key of the recipe's own artwork; others have the keys that framings name them by."""


@dataclass(frozen=True)
class ArtworkFile:
    """One artwork: the name of its file, the hash of its bytes, and how it is read."""

    file: str
    sha256: str
    treatment: Treatment

    def __post_init__(self) -> None:
        if not self.file or PurePosixPath(self.file).name != self.file or "\\" in self.file:
            raise PlanRefused(
                "unknown-recipe",
                f"“{self.file[:60]}” is not a file next to the recipe: give its name only, without folders.",
            )


@dataclass(frozen=True)
class RecipeFile:
    """A recipe with its artwork, its plan and the name of the site; `colour` is the mark's, once it was built.

    `written` are the SHA-256 of the files that were built beside it, by their names.
    """

    site_name: str
    sources: Mapping[str, ArtworkFile]
    recipe: Recipe
    plan: Plan
    colour: Colour | None = None
    written: Mapping[str, str] = field(default_factory=dict)

    @property
    def plain(self) -> "RecipeFile":
        """The same with no icon drawn by hand."""
        return replace(self, recipe=self.recipe.plain)

    def as_bytes(self) -> bytes:
        """The JSON file; one that tells what was written carries a sum, which shows whether somebody changed it."""
        members = self._members()
        return _packed({**members, "sum": _sum(members)} if self.written else members)

    def _members(self) -> dict[str, object]:
        sources = {
            key: {"file": source.file, "sha256": source.sha256, "treatment": source.treatment.as_json()}
            for key, source in self.sources.items()
        }
        members: dict[str, object] = {"site": self.site_name, "artwork": sources, "recipe": self.recipe.as_json()}
        members["plan"] = self.plan.as_json()
        if self.colour:
            members["colour"] = str(self.colour)
        if self.written:
            members["written"] = dict(self.written)
        return members

    @classmethod
    def parse(cls, data: bytes) -> "RecipeFile":
        """Read a JSON file; raises PlanRefused or FramingRefused."""
        try:
            members: Mapping[str, Any] = json.loads(data)
            sources = {
                key: ArtworkFile(str(one["file"]), str(one["sha256"]), Treatment.from_json(one["treatment"]))
                for key, one in members["artwork"].items()
            }
            sources[MAIN]
            recipe, plan = Recipe.from_json(members["recipe"]), Plan.from_json(members["plan"])
            colour = Colour.parse(str(members["colour"])) if "colour" in members else None
            written = {str(name): str(sha256) for name, sha256 in members.get("written", {}).items()}
            return cls(str(members["site"]), sources, recipe, plan, colour, written)
        except (ValueError, KeyError, TypeError, AttributeError, RecursionError) as error:
            raise PlanRefused(
                "unknown-recipe", "This is not a recipe file of Bexi. Download one from a build, or build a picture."
            ) from error

    def pictures(self, read: Callable[[str], bytes], take: Take) -> Pictures:
        """Finds the pictures of this recipe in files read by name; refuses those whose bytes have changed."""
        taken: dict[str, Picture] = {}

        def picture(key: str | None) -> Picture:
            name = key or MAIN
            if name not in taken:
                taken[name] = self._taken(name, read, take)
            return taken[name]

        return picture

    def _taken(self, key: str, read: Callable[[str], bytes], take: Take) -> Picture:
        if key not in self.sources:
            raise PlanRefused("unknown-recipe", "This recipe names an artwork that it does not list.")
        source = self.sources[key]
        data = read(source.file)
        if hashlib.sha256(data).hexdigest() != source.sha256:
            raise PlanRefused(
                "changed-artwork",
                f"{source.file} is not the file that this recipe was made for, so it would give other icons.",
            )
        return take(data, source.treatment)


def is_as_written(data: bytes) -> bool:
    """Whether a recipe file is just as a build wrote it, so that nothing of it is a person's."""
    try:
        members = json.loads(data)
        told = members.pop("sum")
        return bool(told == _sum(members)) and _packed({**members, "sum": told}) == data
    except (ValueError, KeyError, AttributeError, TypeError, RecursionError):
        return False


def _sum(members: Mapping[str, object]) -> str:
    return hashlib.sha256(_packed(members)).hexdigest()


def _packed(members: Mapping[str, object]) -> bytes:
    return (json.dumps(members, indent=2) + "\n").encode()
