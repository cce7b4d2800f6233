"""The one path by which definitions are written, and what single nouns ask for on it."""
