"""Who acts, in which unit of work, and how long work is asked for."""
