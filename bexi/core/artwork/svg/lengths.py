"""Units of length."""

CSS_PX = {"": 1.0, "px": 1.0, "pt": 4 / 3, "pc": 16.0, "mm": 96 / 25.4, "cm": 96 / 2.54, "in": 96.0}
"""How many CSS px one of each is (CSS Values 4 §6.2)."""
