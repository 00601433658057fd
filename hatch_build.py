"""What the package is made of besides its modules: its dependencies, and the front end as it was built."""

from pathlib import Path
from typing import Any

from hatchling.builders.hooks.plugin.interface import BuildHookInterface
from hatchling.metadata.plugin.interface import MetadataHookInterface

_EDITABLE = "editable"


class Dependencies(MetadataHookInterface):
    """The dependencies, from the lists that the lock file is made from, too."""

    def update(self, metadata: dict[str, Any]) -> None:
        """Read the lists."""
        metadata["dependencies"] = self._listed("runtime.in")
        metadata["optional-dependencies"] = {"machines": self._listed("machines.in")}

    def _listed(self, name: str) -> list[str]:
        lines = (Path(self.root) / "requirements" / name).read_text().splitlines()
        return [line for line in lines if line]


class FrontEnd(BuildHookInterface):
    """The front end, put beside the server that sends it; while developing it is taken from where it is built."""

    def initialize(self, version: str, build_data: dict[str, Any]) -> None:
        """Add the files; raises FileNotFoundError when they are not built."""
        if version == _EDITABLE:
            return
        built = Path(self.root) / "frontend" / "dist"
        if not (built / "index.html").is_file():
            raise FileNotFoundError("The front end is not built yet: run make setup.")
        build_data["force_include"][str(built)] = "bexi/server/built"
