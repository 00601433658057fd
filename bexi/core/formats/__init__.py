"""File formats, written and read back."""
