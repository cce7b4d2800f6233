"""Routes of Present: the weave, layouts, why, and products to prove with."""

from young_fabric.web.api.present import examples, layouts, weave, why

MODULES = (examples, layouts, weave, why)
"""Whose routes the application takes."""
