"""Pictures taken in, with their measured facts."""
