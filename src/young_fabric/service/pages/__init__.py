"""The proof, why things show or do not, the weave, and layouts as they are edited."""
