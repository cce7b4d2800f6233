"""The studio itself: signing in, what there is to know of kinds and nouns, and find."""

from young_fabric.web.api.studio import find, meta, session

MODULES = (find, meta, session)
"""Whose routes the application takes."""
