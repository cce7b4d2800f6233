"""Drafts put live, what that would change, what is held back, going back, and the feed."""
