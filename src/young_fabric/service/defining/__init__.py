"""Use cases of definitions: made, changed, merged, looked through, sent out and taken in."""
