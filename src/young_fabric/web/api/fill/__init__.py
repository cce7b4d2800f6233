"""Routes of Fill: products, variants, records, and files sent to them."""

from young_fabric.web.api.fill import files, products, records, variants

MODULES = (files, products, records, variants)
"""Whose routes the application takes."""
