"""What visitors of a live site get."""
