"""The studio itself: signing in, what there is to know of kinds and nouns, and find."""

from young_fabric.web.api.studio import find, meta, news, session

MODULES = (find, meta, news, session)
"""Whose routes the application takes."""
