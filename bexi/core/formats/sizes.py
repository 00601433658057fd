"""How large icons get, in px."""

LARGEST_ICON = 1024
"""Of a file of its own."""
LARGEST_FRAME = 256
"""Of a picture in an ICO, whose entries have a byte for each side (Microsoft, "Icons")."""
