"""Definitions made ready: plans, offers and names, kept per process by what they were read from."""
