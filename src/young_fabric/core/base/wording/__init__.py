"""Texts as people read and look for them: their order, phrases with values in them, finding by words."""
