"""What a change of definitions would do: to values, variants, fields and pages. Nothing is written."""
