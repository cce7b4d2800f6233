"""Value lists, their values, and how they are read from what is pasted."""
