"""Products as staff work with them: made, found, opened, filled, removed, and who is in a collection."""
