"""SVG files (SVG 2): what they are called."""

MEDIA_TYPE = "image/svg+xml"
