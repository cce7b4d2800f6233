"""Option sets: options, their values, and what a value does to price, SKU and the like."""
