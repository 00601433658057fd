"""How the API speaks the core's values: pydantic reads dataclasses by their fields, and is told here of the others.

Recipes, framings, plans and their parts stand in the core alone; their schema is made of it.
"""

from typing import Any

from pydantic import GetCoreSchemaHandler
from pydantic_core import CoreSchema, SchemaSerializer, core_schema

from bexi.core.pixels.colour import Colour

_WRITTEN = core_schema.to_string_ser_schema(when_used="always")


def _colour(_: type[Colour], source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
    """A colour is `#rrggbb`; what is none is refused by Colour itself."""
    read = core_schema.no_info_after_validator_function(Colour.parse, core_schema.str_schema())
    kept = core_schema.is_instance_schema(Colour)
    return core_schema.json_or_python_schema(read, core_schema.union_schema([kept, read]), serialization=_WRITTEN)


Colour.__get_pydantic_core_schema__ = classmethod(_colour)  # type: ignore[attr-defined]
Colour.__pydantic_serializer__ = SchemaSerializer(core_schema.any_schema(serialization=_WRITTEN))  # type: ignore[attr-defined]  # of defaults
