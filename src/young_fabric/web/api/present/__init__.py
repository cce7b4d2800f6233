"""Routes of Present: the weave, layouts, why, and products to prove with."""

from young_fabric.web.api.present import examples, layouts, listing_rules, weave, why

MODULES = (examples, layouts, listing_rules, weave, why)
"""Whose routes the application takes."""
