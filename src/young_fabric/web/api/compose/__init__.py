"""Routes of Compose: product types, field sets, option sets, collections."""

from young_fabric.web.api.compose import collections, field_sets, option_sets, product_types

MODULES = (collections, field_sets, option_sets, product_types)
"""Whose routes the application takes."""
