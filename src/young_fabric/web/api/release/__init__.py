"""Routes of Release: what will change, releases, history, jobs, and other systems."""

from young_fabric.web.api.release import changes, feed, jobs, keys, pending, releases

MODULES = (changes, feed, jobs, keys, pending, releases)
"""Whose routes the application takes."""
