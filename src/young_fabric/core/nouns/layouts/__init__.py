"""Layouts and display settings: what stands where, and how."""
