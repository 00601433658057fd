"""The square frame over the artwork, its ground, and composing the picture of one icon."""
