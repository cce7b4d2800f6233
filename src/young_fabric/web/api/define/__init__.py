"""Routes of Define: fields, lists, record types, shared copy, and files of definitions."""

from young_fabric.web.api.define import bundles, fields, record_types, shared_copies, value_lists

MODULES = (bundles, fields, record_types, shared_copies, value_lists)
"""Whose routes the application takes."""
